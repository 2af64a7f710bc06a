import { cellKey, type Layout } from '../layout'
import { type ItemUnit, live, type RecordedEntry, type SupplyData, type WallState } from '../record'
import { type CellNeeds, needsOfCells } from './cells'
import { type Material, materialsOf } from './material'
import { type Move, movesOf, type Side } from './moves'

/** A material as it stands, in its own unit; what is ordered and comes is loose, what is placed is in its place. */
export interface StockRow {
  readonly id: string
  readonly name: string
  readonly unit: ItemUnit
  /** As the plan has it; undefined where the plan does not know it. */
  readonly material: Material | undefined
  readonly ordered: number
  readonly delivered: number
  readonly refused: number
  readonly placed: number
  readonly damaged: number
  readonly out: number
  readonly in: number
  /** On site by what was recorded; by the last count, and what moved since, where somebody counted. */
  readonly left: number
  /** Ordered and not here yet. */
  readonly expected: number
  /** Does anybody keep account of it: was any delivered, brought or counted? */
  readonly kept: boolean
  readonly counted: Counted | undefined
  /** Numbers of the entries behind each cell. */
  readonly entries: Readonly<Partial<Record<Side, readonly RecordedEntry[]>>>
}
/** What was found when somebody counted, beside what should have been there. */
export interface Counted {
  readonly at: string
  readonly by: string
  readonly seq: number
  readonly amount: number
  readonly reckoned: number
  /** Gone by then, as recorded and as counted: what came less what was left. Loose. */
  readonly used: number
  readonly placed: number
}

class Account {
  readonly sums = new Map<Side, number>()
  readonly entries = new Map<Side, RecordedEntry[]>()
  left = 0
  /** Ordered and not come: what comes is of what was ordered before it; what went back comes again. */
  expected = 0
  counted: Counted | undefined
  constructor(
    readonly id: string,
    readonly name: string,
    readonly unit: ItemUnit,
    readonly loose: number,
  ) {}
  sum(side: Side): number {
    return this.sums.get(side) ?? 0
  }
  add(side: Side, amount: number, by: RecordedEntry) {
    this.sums.set(side, this.sum(side) + amount)
    const list = this.entries.get(side)
    if (!list) this.entries.set(side, [by])
    else if (list[list.length - 1] !== by) list.push(by)
    if (side === 'ordered') this.expected += amount
    else if (side === 'delivered') this.expected = Math.max(0, this.expected - amount)
    else if (side === 'refused' && this.entries.has('ordered')) this.expected += amount
    if (side === 'delivered' || side === 'in') this.left += amount
    else if (side === 'refused' || side === 'damaged' || side === 'out') this.left -= amount
    else if (side === 'placed') this.left -= amount * this.loose
    else if (side === 'counted') {
      const came = this.sum('delivered') + this.sum('in') - this.sum('refused') - this.sum('out') - this.sum('damaged')
      const { entry, seq } = by
      this.counted = { at: entry.at, by: entry.by.name, seq, amount, reckoned: this.left, used: came - amount, placed: this.sum('placed') }
      this.left = amount
    }
  }
}

/** Everything that came, went and was built in, kept from one state to the next. */
export interface StockBook {
  readonly layout: Layout
  readonly of: (id: string) => StockRow | undefined
  /** Every material of the plan, then what came besides. */
  rows(): readonly StockRow[]
  /** Pieces set by `section/course`. */
  readonly set: ReadonlyMap<string, number>
  /** What was said last of how each is bought. */
  readonly supplies: ReadonlyMap<string, SupplyData>
  /** Not to be read: of what it was made. */
  readonly made: Made
}
interface Made {
  readonly accounts: Map<string, Account>
  readonly set: Map<string, number>
  readonly supplies: Map<string, SupplyData>
  readonly once: globalThis.Set<string>
  /** Placed in a course of a section, by material and cell. */
  readonly byCell: Map<string, number>
  readonly logs: WallState['logs']
  readonly needs: ReadonlyMap<string, CellNeeds>
  upTo: number
}

/**
 * The store of a wall, from its record. After an entry only that entry is looked at; a correction, which may be of any of them, has all
 * looked at anew.
 *
 * @param earlier - the book before; it is used up
 * @example book = stockBook(state, book); book.of('stone')?.left // 4.2
 */
export function stockBook(state: WallState, earlier?: StockBook): StockBook {
  const { entries, layout } = state
  const before = earlier?.made
  const fits = before && earlier.layout === layout && before.logs === state.logs && before.upTo <= entries.length
  const corrected = fits && entries.slice(before.upTo).some((e) => e.entry.supersedes !== undefined)
  const made: Made =
    fits && !corrected
      ? before
      : {
          accounts: new Map(),
          set: new Map(),
          supplies: new Map(),
          once: new Set(),
          byCell: new Map(),
          logs: state.logs,
          needs: needsOfCells(layout),
          upTo: 0,
        }
  const materials = materialsOf(layout)
  if (made.accounts.size === 0) for (const m of materials) made.accounts.set(m.id, new Account(m.id, m.name, m.unit, m.loose))
  for (; made.upTo < entries.length; made.upTo++) {
    const recorded = entries[made.upTo] as RecordedEntry
    if (live(state, recorded.entry.id)) take(state, made, materials, recorded)
  }
  const rowOf = (a: Account): StockRow => {
    const kept = (['delivered', 'in', 'counted'] as const).some((s) => a.entries.has(s))
    return {
      id: a.id,
      name: a.name,
      unit: a.unit,
      material: materials.find((m) => m.id === a.id),
      ordered: a.sum('ordered'),
      delivered: a.sum('delivered'),
      refused: a.sum('refused'),
      placed: a.sum('placed'),
      damaged: a.sum('damaged'),
      out: a.sum('out'),
      in: a.sum('in'),
      left: kept ? a.left : 0,
      expected: a.expected,
      kept,
      counted: a.counted,
      entries: Object.fromEntries(a.entries),
    }
  }
  return {
    layout,
    set: made.set,
    supplies: made.supplies,
    made,
    of: (id) => {
      const a = made.accounts.get(id)
      return a && rowOf(a)
    },
    rows: () => [...made.accounts.values()].map(rowOf),
  }
}

function take(state: WallState, made: Made, materials: readonly Material[], recorded: RecordedEntry) {
  if (recorded.entry.kind === 'supply') {
    const data = recorded.entry.data as SupplyData
    made.supplies.set(data.item, data)
    return
  }
  const { moves, set } = movesOf(state, recorded)
  for (const m of moves) {
    if (m.once !== undefined) {
      if (made.once.has(m.once)) continue
      made.once.add(m.once)
    }
    accountOf(made, m).add(m.side, m.amount, recorded)
    if (m.cell !== undefined) placeIn(made, m.material, m.cell, m.amount)
  }
  if (!set) return
  if (set.once !== undefined) {
    if (made.once.has(set.once)) return
    made.once.add(set.once)
  }
  const [was, now] = [made.set.get(set.cell) ?? 0, (made.set.get(set.cell) ?? 0) + set.pieces]
  made.set.set(set.cell, now)
  for (const { material, upTo } of made.needs.get(set.cell)?.byPiece ?? []) {
    const at = (n: number) => upTo[Math.max(0, Math.min(n, upTo.length - 1))] as number
    const placed = at(now) - at(was)
    const m = materials[material] as Material
    if (placed !== 0) made.accounts.get(m.id)?.add('placed', placed, recorded)
  }
  // What is thrown out while setting was a whole unit.
  const whole = set.rejected > 0 ? mostOf(materials) : undefined
  if (whole) made.accounts.get(whole.id)?.add('damaged', set.rejected, recorded)
  // Of what nothing else is said it is taken to go as the wall grows.
  const pieces = state.layout.cells.get(set.cell)?.pieces.length ?? 0
  if (pieces === 0) return
  const share = (Math.min(now, pieces) - Math.min(was, pieces)) / pieces
  for (const { material, amount } of made.needs.get(set.cell)?.whole ?? []) {
    const m = materials[material] as Material
    if (
      m.placed === undefined ||
      (m.placed === 'stone' && !placesOf(state.layout, 'stone')) ||
      (m.placed === 'caps' && !placesOf(state.layout, 'caps'))
    ) {
      made.accounts.get(m.id)?.add('placed', amount * share, recorded)
      placeIn(made, m.id, set.cell, amount * share)
    }
  }
}
const placeIn = (made: Made, material: string, cell: string, amount: number) => {
  const key = `${material} ${cell}`
  made.byCell.set(key, (made.byCell.get(key) ?? 0) + amount)
}
const placesOf = (layout: Layout, what: 'stone' | 'caps') => layout.system.stages.some((s) => s.places === what)

/** What most of the wall is made of. */
const mostOf = (materials: readonly Material[]) =>
  materials.filter((m) => m.placed === 'pieces').reduce<Material | undefined>((most, m) => (most && most.planned >= m.planned ? most : m), undefined)

/** What came and is in no plan of this wall gets an account of its own. */
function accountOf(made: Made, m: Move): Account {
  const known = made.accounts.get(m.material)
  if (known) return known
  const a = new Account(m.material, m.name, m.unit, 1)
  made.accounts.set(m.material, a)
  return a
}

/** Of a course most of which is placed nothing is left: lifts are never as thick as the course divides. */
const MOSTLY = 0.6
const left = (planned: number, placed: number) => (placed >= MOSTLY * planned ? 0 : planned - placed)

/** How much of a course of a section still has to be placed, by material, in the order of {@link materialsOf}. */
export function openNeeds(book: StockBook, section: string, course: number): readonly { readonly material: number; readonly amount: number }[] {
  const key = cellKey(section, course)
  const needs = book.made.needs.get(key)
  const set = book.set.get(key) ?? 0
  const materials = materialsOf(book.layout)
  return [
    ...(needs?.byPiece ?? []).map(({ material, upTo }) => {
      const last = upTo.length - 1
      return { material, amount: (upTo[last] as number) - (upTo[Math.min(set, last)] as number) }
    }),
    ...(needs?.whole ?? []).map(({ material, amount }) => ({
      material,
      amount: left(amount, book.made.byCell.get(`${materials[material]?.id} ${key}`) ?? 0),
    })),
  ].filter((n) => n.amount > 1e-9)
}
