import { said } from '../base/said'
import { choice, type InferType, optionalChoice, optionalQuantity, optionalText, record } from '../base/schema'
import { type AddedPoint, limitsOf, type Ruled, since, startBy, type WallFact, type Whose, whoseBy } from '../rules'
import { formatSlope } from '../units/slope'
import type { BuiltInData } from './built-in'

/** What stands behind, above or at a wall, in the words of whoever looks at the place. */
export const STANDS = ['slope', 'drive', 'pool', 'building', 'fence', 'water', 'wall', 'barrier', 'boundary'] as const
export type StandKind = (typeof STANDS)[number]
export const STAND_NAMES: Readonly<Record<StandKind, string>> = {
  slope: 'Ground that rises behind it',
  drive: 'A drive, parking or stored goods',
  pool: 'A pool or pond',
  building: 'A building',
  fence: 'A fence or rail on top',
  water: 'Water that stands or flows at it',
  wall: 'Another wall, old or new',
  barrier: 'A barrier that stops cars',
  boundary: 'The boundary of the ground',
}

/** What is asked of some things besides how far and how much; nobody's answer is the worse one. */
export const STAND_HOWS: Readonly<
  Partial<Record<StandKind, { readonly label: string; readonly options: readonly (readonly [StandHow, string])[] }>>
> = {
  fence: {
    label: 'The fence is',
    options: [
      ['open', 'Open: rails, wire, bars'],
      ['closed', 'Closed: boards, panels, hedge'],
    ],
  },
  water: {
    label: 'The water',
    options: [
      ['led', 'Is led away before it gets there'],
      ['stands', 'Stands or flows at it'],
    ],
  },
}
const HOWS = ['open', 'closed', 'led', 'stands'] as const
export type StandHow = (typeof HOWS)[number]

/**
 * One thing a wall has to do with. What nobody has said is taken for the worst: a drive without a distance stands at the wall.
 * SI: `away` m from the face back to its nearest edge; `size` as {@link STAND_SIZES} say.
 */
export const standSchema = record({
  kind: choice(STANDS),
  away: optionalQuantity({ min: 0, max: 200, unit: 'm' }),
  size: optionalQuantity({ min: 0, max: 20 }),
  how: optionalChoice(HOWS),
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
  readonly of: 'engineer' | 'ask' | 'load' | 'slope' | 'drain' | 'sleeves' | 'protection' | 'clear' | 'point' | 'caution'
  readonly says: string
  readonly why: string
  readonly takes?: Takes
}

/** What of a wall its surroundings are judged by. Heights and lengths in m. */
export interface StoodAt {
  /** From the bottom of the pad to the top of the cap. */
  readonly height: number
  /** What shows of it; the whole height where left out. */
  readonly showing?: number
  /** How far back from the face the cut reaches: its edge as planned, or the line from its bottom that no foundation lies within. */
  readonly cut?: number
  readonly length: number
  /** Ids of the work of its system, for inspection points. */
  readonly stages: readonly string[]
}

/** How far back from the face things push on a wall of this height, m. @example reachOfLoads(plan, 1.2) // 2.4 */
export const reachOfLoads = (plan: Ruled, height: number) => limitsOf(plan).loadReach.value * height

/**
 * Why a stand makes the wall an engineer's by rule table 2; undefined where it does not. Unknown is taken for the worst.
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
    // Not asked under the tables this judges by.
    case 'barrier':
    case 'boundary':
      return undefined
  }
}

/** What a thing that stands around makes of a wall: by which fact of the ladder, and why in words. */
export interface StandFact {
  readonly fact: WallFact
  readonly whose: Whose
  readonly says: string
}

/** The highest wall anybody would build beside another, m: where nobody said how high that one is. */
const TALLEST = 20

/**
 * What a stand makes of the wall since rule table 3; undefined where it is too far off to matter. Unknown is the worst of its kind.
 *
 * @example standFact({ kind: 'building', away: 1.9 }, plan, { height: 0.85, cut: 2.8, length: 9, stages: [] })?.whose // 'engineer'
 */
export function standFact(stand: Surrounding, plan: Ruled, at: StoodAt): StandFact | undefined {
  const limits = limitsOf(plan)
  const { kind, size, how } = stand
  const cut = at.cut ?? 0
  const away = stand.away ?? 0
  const low = (at.showing ?? at.height) <= limits.lowShowing.value + 1e-6
  const where = stand.away === undefined ? 'nobody has said how far off' : `${said.given(stand.away)} behind its face`
  const name = STAND_NAMES[kind].toLowerCase()
  const make = (fact: WallFact, says: string): StandFact => ({
    fact,
    says,
    whose: whoseBy(plan, fact, { low, beyond: stand.away !== undefined && away >= at.height - 1e-6 }),
  })
  const reach = Math.max(reachOfLoads(plan, at.height), cut)
  const within =
    reach > cut + 1e-6
      ? `within ${said.length(reach, 2)}, ${limits.loadReach.value} × its height`
      : `within ${said.length(reach, 2)} of the face, as far as its cut reaches`
  switch (kind) {
    case 'slope': {
      if (away >= reach - 1e-6) return undefined
      if (size === undefined) return make('slope-steep', 'the ground behind it rises, nobody has said how steeply')
      const says = `the ground behind it rises ${slopeSaid(size)}`
      if (size > limits.steepBehind.value + 1e-9) return make('slope-steep', `${says}, steeper than ${slopeSaid(limits.steepBehind.value)}`)
      return size > limits.levelBehind.value + 1e-9 ? make('slope', says) : undefined
    }
    case 'drive':
      return away < reach - 1e-6 ? make('drive', `${name} (${where}) stands ${within}`) : undefined
    case 'pool':
    case 'building':
      if (away < cut - 1e-6)
        return make(
          'foundation',
          `${name} (${where}) stands within the cut or the line of 1 : ${limits.footingLine.value} from its bottom, ${said.length(cut, 2)} back`,
        )
      return away < reach - 1e-6 ? make(kind, `${name} (${where}) stands ${within}`) : undefined
    case 'wall': {
      if (away < cut - 1e-6)
        return make(
          'foundation',
          `another wall (${where}) stands within the cut or the line of 1 : ${limits.footingLine.value} from its bottom, ${said.length(cut, 2)} back`,
        )
      const both = Math.max(reachOfLoads(plan, Math.max(at.height, size ?? TALLEST)), cut)
      const unsaid = size === undefined ? ', nobody has said how high it is' : ''
      return away < both - 1e-6
        ? make('wall', `another wall (${where}${unsaid}) stands within ${said.length(both, 2)}, ${limits.loadReach.value} × the higher of both`)
        : undefined
    }
    case 'water':
      return how === 'led'
        ? make('water-led', 'water comes to it and is led away')
        : make('water-stands', how === 'stands' ? 'water stands or flows at it' : 'water comes to it, and nobody has said that it is led away')
    case 'fence': {
      if (away >= Math.max(reach, limits.fenceBehind.value) - 1e-6) return undefined
      if (how === 'open' && size !== undefined && size <= limits.fenceOpen.value + 1e-6)
        return make('fence-open', `an open fence of ${said.given(size)} (${where}) stands on it`)
      const as = how === undefined ? 'a fence, open or closed nobody has said,' : `${how === 'open' ? 'an open' : 'a closed'} fence`
      const high = size === undefined ? 'nobody has said how high' : `${said.given(size)} high`
      return make('fence-closed', `${as} (${high}; ${where}) stands on it`)
    }
    case 'barrier':
      return away < reach - 1e-6 ? make('barrier', `a barrier that stops cars (${where}) stands ${within}`) : undefined
    case 'boundary':
      return away < cut - 1e-6
        ? make('boundary', `the boundary (${where}) lies within the cut, which reaches ${said.length(cut, 2)} back`)
        : undefined
  }
}

/** So much up per 1 across, as a slope is written. */
const slopeSaid = (rise: number) => (rise <= 0 ? 'level' : formatSlope(1 / rise))

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
  const around = since(plan, 3) ? standFact(stand, plan, at) : undefined
  const engineer = since(plan, 3) ? (around?.whose === 'engineer' ? around.says : undefined) : engineerFor(stand, plan, at.height)
  const reach = Math.max(reachOfLoads(plan, at.height), since(plan, 3) ? (at.cut ?? 0) : 0)
  if (around?.whose === 'ask') put('ask', `Ask first: ${around.says}.`, 'The authority or a competent person answers, on record, before the dig.')
  if (engineer) put('engineer', `An engineer’s wall: ${engineer}.`, 'Its plan and who made it are asked for before the dig.')
  else if (around?.whose !== 'ask' && (stand.kind === 'drive' || stand.kind === 'pool' || stand.kind === 'building' || stand.kind === 'wall'))
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
          since(plan, 3) ? `Ground behind rises ${slopeSaid(stand.size)}.` : `Ground behind rises ${stand.size} up per 1 back.`,
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
      break
    case 'barrier':
      put(
        'caution',
        'Posts of a barrier stand in ground of their own behind the wall, never in its units, and no car comes near before they do.',
        limits.loadReach.reason,
      )
      break
    case 'boundary':
      put(
        'caution',
        'The line of the boundary is found and marked by who may, before the set-out; spoil and plant stay on this side of it.',
        'A wall or a cut over the line is taken out again.',
      )
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
