import { said } from '../base/said'
import { choice, type InferType, optionalQuantity, optionalText, record } from '../base/schema'
import { type AddedPoint, limitsOf, type Ruled, startBy } from '../rules'
import type { BuiltInData } from './built-in'

/** What stands behind, above or at a wall, in the words of whoever looks at the place. */
export const STANDS = ['slope', 'drive', 'pool', 'building', 'fence', 'water', 'wall'] as const
export type StandKind = (typeof STANDS)[number]
export const STAND_NAMES: Readonly<Record<StandKind, string>> = {
  slope: 'Ground that rises behind it',
  drive: 'A drive, parking or stored goods',
  pool: 'A pool or pond',
  building: 'A building',
  fence: 'A fence or rail on top',
  water: 'Water that stands or flows at it',
  wall: 'Another wall, old or new',
}

/**
 * One thing a wall has to do with. What nobody has said is taken for the worst: a drive without a distance stands at the wall.
 * SI: `away` m from the face back to its nearest edge; `size` as {@link STAND_SIZES} say.
 */
export const standSchema = record({
  kind: choice(STANDS),
  away: optionalQuantity({ min: 0, max: 200, unit: 'm' }),
  size: optionalQuantity({ min: 0, max: 20 }),
  note: optionalText(160),
})
export type Surrounding = InferType<typeof standSchema>

/** What the size of a thing is: up per 1 back, or m. */
export const STAND_SIZES: Readonly<Partial<Record<StandKind, { readonly label: string; readonly of: 'fall' | 'length' }>>> = {
  slope: { label: 'It rises, up per 1 back', of: 'fall' },
  pool: { label: 'Deep', of: 'length' },
  fence: { label: 'Fence, high', of: 'length' },
  wall: { label: 'That wall, high', of: 'length' },
}

/** What would be written into a plan for a stand. */
export interface Takes {
  readonly builtIn?: BuiltInData
  /** A pipe at the back of the cut, its outlets above those of the toe drain (m) and its fall. */
  readonly heel?: { readonly above: number; readonly fall: number }
  readonly point?: AddedPoint
}

/** What a stand means for the wall, and by which rule. `takes`: what the plan would be given for it. */
export interface Meaning {
  readonly id: string
  readonly of: 'engineer' | 'load' | 'slope' | 'drain' | 'sleeves' | 'protection' | 'clear' | 'point' | 'caution'
  readonly says: string
  readonly why: string
  readonly takes?: Takes
}

/** What of a wall its surroundings are judged by. Heights and lengths in m. */
export interface StoodAt {
  /** From the bottom of the pad to the top of the cap. */
  readonly height: number
  readonly length: number
  /** Ids of the work of its system, for inspection points. */
  readonly stages: readonly string[]
}

/** How far back from the face things push on a wall of this height, m. @example reachOfLoads(plan, 1.2) // 2.4 */
export const reachOfLoads = (plan: Ruled, height: number) => limitsOf(plan).loadReach.value * height

/**
 * Why a stand makes the wall an engineer's; undefined where it does not. Unknown is taken for the worst.
 *
 * @param height - of the wall as built, m
 * @example engineerFor({ kind: 'drive', away: 1.5 }, plan, 1) // 'a drive, parking or stored goods 1.50 m behind it, …'
 */
export function engineerFor(stand: Surrounding, plan: Ruled, height: number): string | undefined {
  const limits = limitsOf(plan)
  const reach = reachOfLoads(plan, height)
  const near = (stand.away ?? 0) < reach - 1e-6
  const where = stand.away === undefined ? 'nobody has said how far from it' : `${said.given(stand.away)} behind its face`
  const within = `within ${said.length(reach, 2)}, which is ${limits.loadReach.value} × its height`
  switch (stand.kind) {
    case 'slope':
      return (stand.size ?? 1) > limits.levelBehind.value + 1e-9 && near
        ? `the ground behind it rises${stand.size === undefined ? ', nobody has said how steeply' : ` ${stand.size} up per 1 back`}`
        : undefined
    case 'drive':
    case 'pool':
    case 'building':
      return near ? `${STAND_NAMES[stand.kind].toLowerCase()} (${where}) stands ${within}` : undefined
    case 'wall': {
      // Above or below it: the higher of the two reaches further.
      const both = reachOfLoads(plan, Math.max(height, stand.size ?? height))
      return (stand.away ?? 0) < both - 1e-6
        ? `another wall (${where}) stands within ${said.length(both, 2)}, ${limits.loadReach.value} × the higher of both`
        : undefined
    }
    case 'water':
      return 'water stands or flows at it'
    case 'fence':
      return (stand.away ?? 0) < limits.fenceBehind.value - 1e-6
        ? `a fence or rail (${where}) stands nearer than ${said.given(limits.fenceBehind.value)}`
        : undefined
  }
}

/** Water, kN/m³. */
const WATER = 9.81

/** A load spread over the ground behind the wall, kPa; 0 where a thing is none or too far back. */
export function surchargeOf(stand: Surrounding, plan: Ruled, height: number): number {
  if ((stand.away ?? 0) >= reachOfLoads(plan, height)) return 0
  if (stand.kind === 'drive') return limitsOf(plan).driveLoad.value
  return stand.kind === 'pool' ? (stand.size ?? 0) * WATER : 0
}

/**
 * What a thing in the surroundings means for the wall: whether it is an engineer's, what it loads, which drains, sleeves, protection and
 * inspection points it asks for, and what to be careful of; each with its reason. Nothing is changed: `takes` says what the plan would be given.
 *
 * @example meaningsOf({ kind: 'fence', away: 0.5 }, plan, at).map((m) => m.of) // ['engineer', 'sleeves', 'caution']
 */
export function meaningsOf(stand: Surrounding, plan: Ruled, at: StoodAt): Meaning[] {
  const limits = limitsOf(plan)
  const list: Meaning[] = []
  const put = (of: Meaning['of'], says: string, why: string, takes?: Takes) =>
    list.push({ id: `${stand.kind}-${of}`, of, says, why, ...(takes ? { takes } : {}) })
  const engineer = engineerFor(stand, plan, at.height)
  const reach = reachOfLoads(plan, at.height)
  if (engineer) put('engineer', `An engineer’s wall: ${engineer}.`, 'Its plan and who made it are asked for before the dig.')
  else if (stand.kind === 'drive' || stand.kind === 'pool' || stand.kind === 'building' || stand.kind === 'wall')
    put('load', `Further back than ${said.length(reach, 2)}: it is not counted as a load on this wall.`, limits.loadReach.reason)
  const load = surchargeOf(stand, plan, at.height)
  if (load > 0)
    put(
      'load',
      `A load of ${said.pressure(load)} on the ground behind the wall.`,
      stand.kind === 'drive' ? limits.driveLoad.reason : `Water ${said.given(stand.size ?? 0)} deep weighs that much; the engineer says what counts.`,
    )
  /** A point of inspection after the first of these that the system knows. */
  const point = (id: string, title: string, stages: readonly string[], why: string) => {
    const stage = stages.find((s) => at.stages.includes(s))
    if (stage)
      put('point', `To be looked at: ${title.toLowerCase()}.`, why, {
        point: { id, title, kind: 'witness', roles: ['inspector', 'foreman'], own: true, at: { stage }, why: why.slice(0, 300) } as AddedPoint,
      })
  }
  const heel = (why: string) =>
    put('drain', 'A second pipe at the back of the cut.', why, { heel: { above: startBy(plan, 'heelAbove'), fall: startBy(plan, 'fall') / 100 } })
  switch (stand.kind) {
    case 'slope':
      if (stand.size !== undefined)
        put(
          'slope',
          `Ground behind rises ${stand.size} up per 1 back.`,
          (stand.size > limits.levelBehind.value ? 'It is in the engineer’s sum. ' : '') + limits.levelBehind.reason,
        )
      heel('What falls on the slope comes down behind the wall; it is caught before it reaches the fill.')
      point('swale', 'Swale above the wall', ['top', 'cap', 'final'], 'Water that runs down the slope is led past the wall, not over it.')
      break
    case 'drive':
      put(
        'caution',
        'No wheels within reach of the wall until it is filled and released; then a kerb or rail keeps them off its top.',
        limits.loadReach.reason,
      )
      point(
        'kerb',
        'Kerb or rail along the drive',
        ['top', 'cap', 'final'],
        'A wheel on the cap pushes the top courses out, however well the wall was built.',
      )
      break
    case 'pool':
      heel('Every pool leaks some day, and then the wall holds water.')
      put(
        'caution',
        'What empties the pool, and what it loses, is led away by a pipe of its own and never behind the wall.',
        'A wall is not made to hold water.',
      )
      point('pool-drain', 'Where the pool empties to', ['drain', 'invert', 'final'], 'It is hidden once the fill is in.')
      break
    case 'building':
      put(
        'caution',
        'No cut below a footing, nor within its depth of one, without the engineer’s word: lengths, props and order of the dig are his.',
        'A footing that loses the ground beside it goes down.',
      )
      point(
        'building-cracks',
        'Building looked at before the dig, with photos',
        ['set-out', 'dig', 'final'],
        'Cracks that were there before are nobody’s fault; those that come are a warning.',
      )
      break
    case 'fence': {
      const behind = Math.max(stand.away ?? 0, limits.fenceBehind.value)
      const least = startBy(plan, 'postDeep')
      // Half as deep as the fence is high.
      const deep = Math.min(5, Math.max(least, (stand.size ?? 0) / 2))
      if (at.length >= 0.5)
        put(
          'sleeves',
          `Sleeves for its posts, ${said.given(behind)} behind the face, ${said.given(deep)} deep, as the fill comes up.`,
          limits.fenceBehind.reason,
          {
            builtIn: {
              kind: 'sleeves',
              name: 'Fence',
              from: 0,
              to: at.length,
              spacing: Math.min(startBy(plan, 'postApart'), at.length),
              behind,
              diameter: startBy(plan, 'postSleeve'),
              deep,
            } as BuiltInData,
          },
        )
      put(
        'caution',
        'Posts of a fence are never driven in afterwards nor through layers; a closed fence catches the wind and is the engineer’s.',
        limits.fenceBehind.reason,
      )
      break
    }
    case 'water':
      heel('Water comes from behind when it falls in front: it must get out as fast.')
      put(
        'protection',
        'Stone or fabric against scour at the toe, as deep as the engineer says, and sediment held back while the ground is open.',
        'What the pad stands on is carried away first.',
        {
          builtIn: { kind: 'erosion', name: 'Towards the water', from: 0, to: at.length, measure: 'silt-fence' } as BuiltInData,
        },
      )
      put('caution', 'Permits for work at water, and a look at the level before every day in the trench.', 'A trench beside water fills from below.')
      break
    case 'wall':
      if ((stand.away ?? 0) < at.height)
        put(
          'clear',
          'What of the old wall goes is taken out in short lengths, with the ground behind it sloped or held.',
          'A wall that stood for years may be all that holds the bank.',
          {
            builtIn: {
              kind: 'clear',
              name: 'Old wall',
              from: 0,
              to: at.length,
              what: 'structure',
              how: 'remove',
              note: 'In short lengths, the bank behind it sloped or held.',
            } as BuiltInData,
          },
        )
      put('caution', 'A wall above stands on what this one holds; which of them is built first is the engineer’s.', limits.loadReach.reason)
  }
  return list
}

interface Taking {
  readonly builtIn?: readonly BuiltInData[] | undefined
  readonly water?: { readonly heel?: unknown } | undefined
  readonly rules?: { readonly added?: readonly AddedPoint[] | undefined } | undefined
}

/** Does a plan hold already what a meaning would give it? */
export function holdsAlready(plan: Taking, { takes }: Meaning): boolean {
  if (!takes) return true
  if (takes.heel) return plan.water?.heel !== undefined
  if (takes.point) return plan.rules?.added?.some((p) => p.id === takes.point?.id) ?? false
  return plan.builtIn?.some((b) => b.kind === takes.builtIn?.kind && b.name === takes.builtIn?.name) ?? false
}

/** A plan with what a meaning gives it; the plan itself where it holds that already. @example takeIn(plan, meaning).builtIn */
export function takeIn<P extends Taking>(plan: P, meaning: Meaning): P {
  const { takes } = meaning
  if (!takes || holdsAlready(plan, meaning)) return plan
  if (takes.heel) return { ...plan, water: { ...plan.water, heel: takes.heel } }
  if (takes.point) return { ...plan, rules: { ...plan.rules, added: [...(plan.rules?.added ?? []), takes.point] } }
  return { ...plan, builtIn: [...(plan.builtIn ?? []), takes.builtIn as BuiltInData] }
}
