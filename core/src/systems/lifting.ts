import { optionalDay } from '../base/day'
import { list, optionalQuantity, optionalRecord, optionalText, quantity, record, text } from '../base/schema'

const metres = (min: number, max: number) => quantity({ min, max, unit: 'm' })
const kilograms = (min: number, max: number) => quantity({ min, max, unit: 'kg' })

/** What a plan says of a machine that sets units: its table, where it stands, the gear the unit hangs on, the truck it comes by. m, kg, degrees. */
export const liftingSchema = record({
  machine: text(80),
  /** Where its table comes from, and of which day; since rule table 3 nothing is judged by one without. */
  source: optionalText(160),
  on: optionalDay(),
  /** From the face of the first course to the middle of the machine, which stands on the toe grade in front. */
  stands: metres(1, 60),
  /** What it lifts: at a reach, up to a height of the hook over the ground it stands on; every height where left out. */
  table: list(
    record({ reach: metres(0.5, 80), height: optionalQuantity({ min: -20, max: 100, unit: 'm' }), capacity: kilograms(50, 200_000) }),
    1,
    60,
  ),
  /** Inserts a unit hangs on, what each was tested to, slings and lifter together, and their angle over the level. */
  gear: record({
    points: quantity({ min: 1, max: 4, whole: true }),
    tested: kilograms(50, 50_000),
    mass: kilograms(0, 5000),
    angle: quantity({ min: 10, max: 90, unit: '°' }),
    /** From the top of the unit to the hook. */
    length: metres(0, 10),
    /** By which paper inserts and gear were tested, and on which day; the wind their maker allows, km/h. */
    source: optionalText(160),
    on: optionalDay(),
    wind: optionalQuantity({ min: 5, max: 60, unit: 'km/h' }),
  }),
  truck: optionalRecord({ mass: kilograms(500, 60_000), count: quantity({ min: 1, max: 1000, whole: true }) }),
})

/** Units that a machine sets, in the terms every wall has. */
export interface Lifting {
  readonly machine: string
  readonly source?: string | undefined
  readonly on?: string | undefined
  readonly stands: number
  readonly table: readonly { readonly reach: number; readonly height?: number | undefined; readonly capacity: number }[]
  readonly gear: {
    readonly points: number
    readonly tested: number
    readonly mass: number
    readonly angle: number
    readonly length: number
    readonly source?: string | undefined
    readonly on?: string | undefined
    readonly wind?: number | undefined
  }
  readonly truck?: { readonly mass: number; readonly count: number } | undefined
}

/** What nobody calls a machine: its table is made up, to be replaced by that of the one that comes. */
export const PLACEHOLDER = 'excavator, table to be entered'

/**
 * What of a lift is not proved yet, in words: a table that is made up or comes from nowhere, inserts and gear nobody tested. Without them
 * there is no verdict on a pick.
 *
 * @example unproved(lifting) // ['the load table of the machine: its source and its day']
 */
export function unproved({ machine, source, on, gear }: Lifting): string[] {
  const said = (text: string | undefined) => (text?.trim().length ?? 0) > 2
  return [
    ...(machine.trim() === PLACEHOLDER ? ['which machine comes, with its own load table'] : []),
    ...(said(source) && on ? [] : ['the load table of the machine: its source and its day']),
    ...(said(gear.source) && gear.on ? [] : ['the test of inserts and gear: its paper and its day']),
  ]
}

type Table = Lifting['table']

/** What a machine lifts at one reach, kg, by the height of its hook; undefined beyond its table. */
function liftedAt(table: Table, reach: number): (height: number) => number | undefined {
  const column = table.reduce((least, r) => (r.reach >= reach - 1e-6 && r.reach < least ? r.reach : least), Number.POSITIVE_INFINITY)
  const rows = table.filter((r) => Math.abs(r.reach - column) < 1e-6)
  const any = rows.reduce((least, r) => (r.height === undefined ? Math.min(least, r.capacity) : least), Number.POSITIVE_INFINITY)
  const levels = rows.flatMap((r) => (r.height === undefined ? [] : [{ height: r.height, capacity: r.capacity }]))
  return (height) => {
    let [under, over]: (typeof levels)[number][] = []
    for (const r of levels) {
      // Of two rows for one height the lesser counts.
      const less = (than: typeof r) => r.height === than.height && r.capacity < than.capacity
      if (r.height <= height + 1e-6 && (!under || r.height > under.height || less(under))) under = r
      if (r.height >= height - 1e-6 && (!over || r.height < over.height || less(over))) over = r
    }
    const least = under && over ? Math.min(any, under.capacity, over.capacity) : any
    return least === Number.POSITIVE_INFINITY ? undefined : least
  }
}

/** The last reach asked of a table: units of a course are all asked at one. */
const asked = new WeakMap<Table, { reach: number; at: (height: number) => number | undefined }>()

/**
 * What a machine lifts at a reach and height of its hook, kg. The next reach of its table that is as far counts, and of its heights the
 * lesser of the two beside the one asked for; nothing is read beyond the table.
 *
 * @returns undefined beyond the table
 * @example capacityAt([{ reach: 4, capacity: 3000 }, { reach: 6, capacity: 1800 }], 4.2, 1) // 1800
 */
export function capacityAt(table: Table, reach: number, height: number): number | undefined {
  let known = asked.get(table)
  if (known?.reach !== reach) {
    known = { reach, at: liftedAt(table, reach) }
    asked.set(table, known)
  }
  return known.at(height)
}
