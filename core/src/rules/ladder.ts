/**
 * Whose wall it is, from the mildest to the strictest. crew: built by the rules alone. ask: by the crew once the authority or a competent
 * person has answered, on record. engineer: by the plan of a named engineer.
 */
export const WHOSE = ['crew', 'ask', 'engineer'] as const
export type Whose = (typeof WHOSE)[number]
export const WHOSE_NAMES: Readonly<Record<Whose, string>> = { crew: 'The crew’s', ask: 'Ask first', engineer: 'An engineer’s' }

/** What of a wall and its place decides whose it is. */
export const WALL_FACTS = [
  ...(['footing', 'fence-open', 'slope', 'water-led', 'slender', 'boundary'] as const),
  ...(['drive', 'pool', 'building', 'wall', 'fence-closed', 'barrier', 'made-behind'] as const),
  ...(['slope-steep', 'front-steep', 'front-erodible', 'made-below', 'water-stands'] as const),
  ...(['foundation', 'swelling', 'organic', 'seismic'] as const),
  ...(['height', 'fill', 'system', 'opening', 'cut'] as const),
] as const
export type WallFact = (typeof WALL_FACTS)[number]

/** beyond: ask first where it stands further off than the wall is high; nearer, or where nobody said how far, an engineer's. */
export const STEPS = [...WHOSE, 'beyond'] as const
export type LadderStep = (typeof STEPS)[number]

const STRICT: Readonly<Record<LadderStep, number>> = { crew: 0, ask: 1, beyond: 2, engineer: 3 }
/** Does one step of the ladder ask for less than another? @example milder('ask', 'engineer') // true */
export const milder = (a: LadderStep, b: LadderStep): boolean => STRICT[a] < STRICT[b]
export const STEP_NAMES: Readonly<Record<LadderStep, string>> = { ...WHOSE_NAMES, beyond: 'Ask first beyond its own height, else an engineer’s' }

/** A line of the ladder: what a fact makes of a low wall, and of a higher one up to the engineer's threshold. */
export interface Rung {
  readonly fact: WallFact
  readonly title: string
  readonly low: LadderStep
  readonly higher: LadderStep
  readonly reason: string
}
const rung = (fact: WallFact, title: string, low: LadderStep, higher: LadderStep, reason: string): Rung => ({ fact, title, low, higher, reason })

/** Rule table 3, in the order in which facts are named; the strictest counts. docs/engineering.md has a paragraph for each step. */
const LADDER: readonly Rung[] = [
  rung('footing', 'It stands on a footing', 'ask', 'ask', 'A footing is concrete with bars: somebody who knows the ground says its size.'),
  rung('fence-open', 'An open fence on it', 'ask', 'ask', 'Posts want ground of their own and a hand on the rail pushes.'),
  rung('slope', 'Ground rises gently behind', 'ask', 'engineer', 'A slope of 10H:1V to 4H:1V pushes up to half as much again.'),
  rung('water-led', 'Water comes to it and is led away', 'ask', 'engineer', 'It is dry as long as what leads the water away works.'),
  rung('slender', 'High for its depth', 'ask', 'engineer', 'Dry units stand by their weight over their depth.'),
  rung(
    'boundary',
    'A boundary within the cut',
    'ask',
    'ask',
    'Who digs there digs on a neighbour’s ground: the neighbour or the authority says so first.',
  ),
  rung('drive', 'A drive, parking or stored goods', 'beyond', 'engineer', 'Wheels and goods push on a wall as soil above it would.'),
  rung('pool', 'A pool or pond', 'beyond', 'engineer', 'Water is heavy, and a pool leaks some day.'),
  rung('building', 'A building', 'beyond', 'engineer', 'Its load spreads through the ground behind the wall.'),
  rung('wall', 'Another wall', 'beyond', 'engineer', 'A wall above stands on what this one holds, a wall below holds what this one stands on.'),
  rung('fence-closed', 'A closed or higher fence', 'beyond', 'engineer', 'Wind on a closed fence turns the top courses over.'),
  rung('barrier', 'A vehicle barrier', 'beyond', 'engineer', 'A barrier that stops a car hands the blow to what holds it.'),
  rung('made-behind', 'Made ground behind', 'beyond', 'engineer', 'Nobody knows what was tipped there, nor how hard it pushes.'),
  rung(
    'slope-steep',
    'Steep ground behind',
    'engineer',
    'engineer',
    'Steeper than 4H:1V, a slope about doubles what pushes, and may come down itself.',
  ),
  rung('front-steep', 'Steep ground in front', 'engineer', 'engineer', 'The toe stands on the edge of a slope that may go.'),
  rung('front-erodible', 'Ground in front washes out', 'engineer', 'engineer', 'What is carried away in front no longer holds the toe.'),
  rung('made-below', 'Made ground below', 'engineer', 'engineer', 'It carries no wall unless it is dug out and replaced.'),
  rung('water-stands', 'Water stands or flows at it', 'engineer', 'engineer', 'Water that stands pushes harder than soil and carries the toe away.'),
  rung('foundation', 'A foundation within the cut', 'engineer', 'engineer', 'A footing that loses the ground beside it goes down.'),
  rung('swelling', 'Swelling ground', 'engineer', 'engineer', 'Clay that swells pushes many times as hard as soil at rest.'),
  rung('organic', 'Organic ground', 'engineer', 'engineer', 'It rots and settles for years.'),
  rung('seismic', 'Earthquakes, by the local rule', 'engineer', 'engineer', 'Shaking adds to what pushes and takes from what holds.'),
  rung('height', 'Height', 'engineer', 'engineer', 'Above the threshold most codes ask for a licensed engineer and a permit.'),
  rung('fill', 'It would stand on fill', 'engineer', 'engineer', 'New fill below a pad settles for years.'),
  rung('system', 'What it is built of', 'engineer', 'engineer', 'Units, mats or baskets in that number hold by a design of their own.'),
  rung('opening', 'Something through its layers', 'engineer', 'engineer', 'What is cut or bent round holds less.'),
  rung('cut', 'The depth of its cut', 'engineer', 'engineer', 'Cuts this deep are designed.'),
]
const BY_FACT = new Map(LADDER.map((r) => [r.fact, r]))

interface Laddered {
  readonly book?: { readonly ladder?: readonly Pick<Rung, 'fact' | 'low' | 'higher'>[] | undefined } | undefined
}
/**
 * The ladder a plan is judged by: that of its book, frozen when it was issued, else the shipped one.
 *
 * @example ladderOf(plan).find((r) => r.fact === 'pool')?.low // 'beyond'
 */
export const ladderOf = (plan: Laddered): readonly Rung[] => {
  const own = plan.book?.ladder
  if (!own) return LADDER
  return LADDER.map((r) => {
    const set = own.find((o) => o.fact === r.fact)
    return set ? { ...r, low: set.low, higher: set.higher } : r
  })
}

/** The stricter of two. @example stricterOf('ask', 'crew') // 'ask' */
export const stricterOf = (a: Whose, b: Whose): Whose => (WHOSE.indexOf(a) >= WHOSE.indexOf(b) ? a : b)

/**
 * What a fact makes of a wall by the ladder.
 *
 * @param low - does the wall show no more than a low one?
 * @param beyond - does the thing stand further off than the wall is high?
 * @example whoseBy(plan, 'pool', { low: true, beyond: false }) // 'engineer'
 */
export function whoseBy(plan: Laddered, fact: WallFact, at: { readonly low: boolean; readonly beyond: boolean }): Whose {
  const rung = ladderOf(plan).find((r) => r.fact === fact) as Rung
  const step = at.low ? rung.low : rung.higher
  return step === 'beyond' ? (at.beyond ? 'ask' : 'engineer') : step
}
/** The words of a fact. @example rungOf('pool').title // 'A pool or pond' */
export const rungOf = (fact: WallFact): Rung => BY_FACT.get(fact) as Rung
