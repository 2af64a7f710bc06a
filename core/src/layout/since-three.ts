import { said } from '../base/said'
import { below } from '../geometry'
import { answerMissing, engineered, engineerMissing, exposedHeight, notCovered, type Plan } from '../plan'
import { clashesOf, limitsOf, schoolBy } from '../rules'
import { buildingOf, type WallSystem } from '../systems'
import { longestWay, stoodOn } from '../water/drain'
import type { PadStep } from './base-steps'
import type { Course } from './rows'
import { type FoundFact, factsOf, frontSteepest, whoseWall } from './whose'

interface Word {
  readonly id: string
  readonly message: string
  readonly blocks: boolean
}

/** What stands between a wall and its crew by the ladder, in words. */
export function ladderWords(plan: Plan, facts: readonly FoundFact[], height: number): Word[] {
  const { engineer, ask } = whoseWall(plan, facts)
  const words: Word[] = []
  const list = (of: readonly FoundFact[]) => [...new Set(of.map((f) => f.says))].join('; ')
  if (engineer.length > 0) {
    const missing = engineerMissing(plan)
    const not = missing.length > 0 ? [] : notCovered(plan, { height, length: plan.length, facts: engineer.map((f) => f.fact) })
    if (missing.length > 0)
      words.push({
        id: 'engineer',
        blocks: true,
        message: `This wall is an engineer's: ${list(engineer)}. Enter ${joined(missing)} in the plan before it goes on.`,
      })
    else if (not.length > 0)
      words.push({
        id: 'engineer-covers',
        blocks: true,
        message: `The plan of ${plan.engineerBy} does not cover this wall: ${not.join('; ')}. Ask the engineer, and enter what the plan covers.`,
      })
  }
  if (ask.length > 0) {
    const half = (plan.asked ?? []).filter((a) => a.facts.some((f) => ask.some((x) => x.fact === f))).flatMap(answerMissing)
    words.push({
      id: 'ask-first',
      blocks: true,
      message: `Ask first: ${list(ask)}. The authority or a competent person says whether the crew may build it; enter who, as what, when, by which paper and what was asked${half.length > 0 ? ` (still missing: ${joined([...new Set(half)])})` : ''}.`,
    })
  }
  return words
}
const joined = (words: readonly string[]) => (words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words[words.length - 1]}`)

/** What the rules ask of every wall before the dig and nobody has said; it counts as the worst of its kind, so it is asked. */
function unsaid(plan: Plan): Word[] {
  if (engineered(plan)) return []
  return [
    ...(plan.holds === undefined && !plan.stands?.length
      ? [
          {
            id: 'holds',
            blocks: true,
            message:
              'Nobody has said what the wall holds: a slope, loads, water, a structure, another wall, earthquakes, or nothing of these. Say it in the plan before digging.',
          },
        ]
      : []),
    ...(plan.front === undefined
      ? [
          {
            id: 'front-unsaid',
            blocks: true,
            message: 'Nobody has said how the ground in front falls away, or whether it washes out. Say it in the plan before digging.',
          },
        ]
      : []),
  ]
}

/** A fall over the top that somebody may take. */
function guardWords(plan: Plan): Word[] {
  const drop = exposedHeight(plan)
  const { guardAbove } = limitsOf(plan)
  // A low rail is no guard, and one nobody said the height of is none.
  const rail = (plan.stands ?? []).some((s) => (s.kind === 'fence' || s.kind === 'barrier') && (s.away ?? 0) < 1 && (s.size ?? 0) >= guardAbove.value)
  if (drop <= guardAbove.value + 1e-6 || plan.edge === 'nobody' || rail) return []
  return [
    {
      id: 'guard',
      blocks: false,
      message: `${plan.edge === 'people' ? 'People come' : 'Nobody has said that no one comes'} to an edge with a fall of ${said.length(drop, 2)}. ${guardAbove.reason} Plan a guard with posts of its own, and an edge protection while it is built.`,
    },
  ]
}

/** Clean stone behind the units, pipe and the way out of the water. */
export function waterWords(plan: Plan, courses: readonly Course[], facts: readonly FoundFact[]): Word[] {
  const { drain, stone, foundation } = buildingOf(plan)
  const limits = limitsOf(plan)
  const words: Word[] = []
  const rows = new Set(courses.map((c) => c.course)).size
  const named = engineered(plan)
  if (stone && stone.width < 1e-6) {
    const high = rows > limits.courseWithoutStone.value
    words.push({
      id: 'no-stone',
      blocks: high && !named,
      message: `The plan has no clean stone behind the units. ${limits.courseWithoutStone.reason}${high && !named ? ' Plan the stone, or name the engineered plan that leads the water off another way.' : ''}`,
    })
  }
  if (!drain) {
    const drained = schoolBy(plan, 'low-pipe') === 'drained'
    const height = exposedHeight(plan)
    const free = plan.soil?.below === 'clean-gravel' || plan.soil?.below === 'clean-sand'
    const water = facts.some((f) => f.fact === 'water-led' || f.fact === 'water-stands')
    const lacks = [
      ...(below(limits.heightWithoutPipe.value, height)
        ? [`it shows ${said.length(height, 2)}, at most ${said.given(limits.heightWithoutPipe.value)}`]
        : []),
      ...(free ? [] : ['nobody says that clean gravel or sand lies below']),
      ...(foundation.drains ? [] : ['its pad holds water']),
      ...(stone && stone.width > 1e-6 ? [] : ['there is no clean stone behind it']),
      ...(water ? ['water comes to it'] : []),
    ]
    const school = drained && lacks.length === 0
    const high = rows > limits.courseWithoutPipe.value
    words.push({
      id: 'no-pipe',
      blocks: high && !named && !school,
      message: school
        ? 'The wall is planned without a pipe, as its company builds low walls on ground that lets water through: the pad must have its way out open, and it is looked at.'
        : high && !named
          ? `The wall is planned without a pipe behind it, and water that stands there pushes it over: plan one, or name the engineered plan that leads the water off another way.${drained ? ` Built without one it would have to be otherwise: ${lacks.join('; ')}.` : ''}`
          : 'The wall is planned without a pipe: water must have another way out behind it.',
    })
    return words
  }
  const ways = longestWay({ length: plan.length, fall: drain.fall, outlets: drain.outlets })
  const most = drain.maxOutletSpacing
  // Two outlets as far apart as allowed send water half as far; an end without one sends it all the way.
  if (below(most, ways.end.way))
    words.push({
      id: 'outlet-end',
      blocks: false,
      message: `From the ${ways.end.at === 0 ? 'start' : 'end'} of the wall water runs ${said.length(ways.end.way, 1)} to its outlet, further than the ${said.given(most)} that outlets may be apart: add one nearer to that end.`,
    })
  else if (below(most, ways.most))
    words.push({
      id: 'outlet-way',
      blocks: false,
      message: `Water runs up to ${said.length(ways.most, 1)} to an outlet, further than the ${said.given(most)} that outlets may be apart; add one.`,
    })
  for (const o of stoodOn(drain))
    words.push({
      id: 'outlet-dead',
      blocks: false,
      message: `No water reaches the outlet at ${said.given(o.station)}: it lies above the line of its neighbours. Lower it, or leave it out.`,
    })
  for (const [name, value, title] of [
    ['pipeBed', plan.water?.bed, 'Stone below the pipe'],
    ['pipeCover', plan.water?.cover, 'Stone over the pipe'],
  ] as const) {
    const limit = limits[name].value
    if (value != null && value < limit - 0.0005 && !plan.rules?.limits?.some((l) => l.limit === name))
      words.push({
        id: `drawn-${name}`,
        blocks: true,
        message: `${title} is planned at ${said.small(value)}, under the ${said.small(limit)} of the rules. ${limits[name].reason} Less takes the drawing that says so, with its reference, among the limits of the drawing.`,
      })
  }
  return words
}

/** Ground in front: how deep the wall has to be buried there, and where no depth answers. */
export function frontWords(plan: Plan, steepest: number): Word[] {
  const { frontNoFigure } = limitsOf(plan)
  return steepest > frontNoFigure.value + 1e-9
    ? [{ id: 'front-figure', blocks: false, message: `No depth of embedment is given here: ${frontNoFigure.reason}` }]
    : []
}

/** Limits that the drawing sets kinder than they ship, and those that clash with what is firm. */
function drawingWords(plan: Plan): Word[] {
  return clashesOf(plan).map((c) => ({ id: `${c.clash ? 'clash' : 'deviation'} ${c.limit}`, blocks: false, message: c.message }))
}

/**
 * What rule table 3 says of a plan besides what table 2 does: whose wall it is, what nobody said, guard, stone and the way of the water, what
 * a drawing sets kinder.
 *
 * @example sinceThree(plan, system, steps, tops, courses, 1.2).filter((w) => w.blocks)
 */
export function sinceThree(
  plan: Plan,
  system: WallSystem,
  steps: readonly PadStep[],
  tops: readonly PadStep[],
  courses: readonly Course[],
  height: number,
): Word[] {
  const facts = factsOf({ plan, system, steps, tops, courses })
  return [
    ...ladderWords(plan, facts, height),
    ...unsaid(plan),
    ...guardWords(plan),
    ...waterWords(plan, courses, facts),
    ...frontWords(plan, frontSteepest(plan, steps)),
    ...matWords(plan, height),
    ...drawingWords(plan),
    ...contradictions(plan),
  ]
}

/** What the plan says in two places and not alike. */
function contradictions(plan: Plan): Word[] {
  const { rules } = plan
  return [
    ...(rules?.heightFrom && rules.heightFrom !== schoolBy(plan, 'height-from')
      ? [
          {
            id: 'height-from',
            blocks: false,
            message: `The plan counts the height from ${rules.heightFrom === 'pad' ? 'the bottom of the pad' : 'the underside of the first course'}; its company does not, and that is what holds.`,
          },
        ]
      : []),
    ...(rules?.ownRelease && schoolBy(plan, 'second-eyes') !== 'own'
      ? [
          {
            id: 'own-release',
            blocks: false,
            message: 'The plan lets people release what they recorded themselves; its company does not, and that is what holds.',
          },
        ]
      : []),
  ]
}

/** Mats against what holds a mass together. */
function matWords(plan: Plan, height: number): Word[] {
  const building = buildingOf(plan)
  const { reach, course } = building
  if (!reach) return []
  const { matShare, matSpacing } = limitsOf(plan)
  const words: Word[] = []
  const rows: { n: number; length: number; high: number }[] = []
  for (let n = 1, at = 0; at < height - 1e-6 && n < 200; n++) {
    rows.push({ n, length: reach(n), high: course(n).height })
    at += course(n).height
  }
  // A piece that lies no further into the fill than it is deep is no mat.
  const mats = rows.filter((r) => r.length > course(r.n).depth + 1e-6)
  const short = mats.filter((r) => below(r.length, matShare.value * height))
  if (short.length > 0)
    words.push({
      id: 'mat-length',
      blocks: false,
      message: `Mats of course ${short.map((r) => r.n).join(', ')} are shorter than ${matShare.value} of the height (${said.length(matShare.value * height, 2)}). ${matShare.reason}`,
    })
  const wide = mats.filter((r) => below(matSpacing.value, r.high))
  if (wide.length > 0)
    words.push({ id: 'mat-spacing', blocks: false, message: `Courses of mats are ${said.length(wide[0]?.high ?? 0, 2)} high. ${matSpacing.reason}` })
  return words
}
