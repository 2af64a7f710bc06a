import { said } from '../base/said'
import { alignmentOf, below, type SitePoint, stationOf, stationsOver, straight } from '../geometry'
import { answerTo, engineered, exposedHeight, groundReader, type Plan, STAND_NAMES, type StandFact, standFact, toeAt, topAt } from '../plan'
import { limitsOf, type SoilClass, slenderIn, stricterOf, type WallFact, type Whose, whoseBy } from '../rules'
import { buildingOf, capHeight, riseOf, type WallSystem } from '../systems'
import { formatSlope } from '../units/slope'
import type { PadStep } from './base-steps'
import { builtHeight, fromFirstCourse, padOnFill, rowsOn } from './built'
import type { Course } from './rows'
import { cutTopAt, turnsOf } from './site-cautions'

/** What decides whose wall it is: one line of the ladder that this wall and its place meet. */
export interface FoundFact extends StandFact {
  /** Opened by an answer on record, where it is asked first. */
  readonly answered?: string
}

/** Soil behind and below a wall, as the plan says or as it was found; undefined where nobody knows. */
export interface SoilKnown {
  readonly behind?: SoilClass | undefined
  readonly below?: SoilClass | undefined
}

/**
 * How far back from the face a cut reaches, m: to its edge at the top as planned, or to the line from its bottom that no foundation may lie
 * within, whichever is further; where the wall is deepest, or at one station.
 *
 * @example cutReach(plan, steps) // 2.8
 */
export function cutReach(plan: Plan, steps: readonly PadStep[], near?: number): number {
  const { foundation, course } = buildingOf(plan)
  const floor = course(1).depth + plan.excavation.behind
  const lean = Math.max(plan.excavation.slope, limitsOf(plan).footingLine.value)
  const depths = turnsOf(plan, steps)
    // A building beside a low end has nothing to do with the deep one; some strides either way it has.
    .filter((t) => near === undefined || Math.abs(t.station - near) <= ALONG)
    .map((t) => cutTopAt(plan, t.station) - t.pad + foundation.thickness)
  if (near !== undefined) {
    const step = steps.find((s) => near >= s.start - 1e-6 && near <= s.end + 1e-6) ?? steps[0]
    if (step) depths.push(cutTopAt(plan, near) - step.elevation + foundation.thickness)
  }
  return floor + lean * Math.max(0, ...depths)
}
/** How far along the wall a thing has to do with its cut, m. */
const ALONG = 3

/** Slope of the ground as it was measured, behind (rise per 1 back) and in front (fall per 1 out), the steepest over what reaches the wall. */
function measuredSlopes(plan: Plan, reach: number): { behind: number; front: number } {
  if (!plan.found) return { behind: 0, front: 0 }
  const ground = groundReader(plan.found)
  const { depth } = buildingOf(plan).course(1)
  // Beyond what was measured the nearest level stands in for the ground: it says nothing of a slope.
  const back = Math.min(reach, Math.max(...plan.found.points.map((p) => p.behind)))
  const out = Math.min(reach, Math.max(...plan.found.points.map((p) => -p.behind)))
  let [behind, front] = [0, 0]
  for (const station of stationsOver(0, plan.length, 1)) {
    for (const b of stationsOver(depth + ACROSS, Math.max(back, depth + ACROSS), ACROSS))
      if (b <= back + 1e-9) behind = Math.max(behind, (ground(station, b) - topAt(plan, station)) / (b - depth))
    for (const b of stationsOver(ACROSS, Math.max(out, ACROSS), ACROSS))
      if (b <= out + 1e-9) front = Math.max(front, (toeAt(plan, station) - ground(station, -b)) / b)
  }
  return { behind, front }
}
/** Levels of rough ground are compared this far apart at least, m. */
const ACROSS = 0.5

/**
 * How high all that stands over the depth that resists is, m, and how many times as high as deep where that is most: the unit, a basket or mat,
 * row by row where they are not equally deep; a footing where the wall is tied to it with bars.
 */
function standsOn(plan: Plan, built: { height: number }): { height: number; slender: number } {
  const building = buildingOf(plan)
  const { foundation, course, reach, tied } = building
  const from = fromFirstCourse(plan) ? 0 : foundation.thickness
  const height = built.height - from
  if (tied) return { height, slender: (height + foundation.thickness) / foundation.width }
  let [slender, under] = [0, 0]
  for (let n = 1; under < height - 1e-6; n++) {
    const { depth, height: rise } = course(n)
    slender = Math.max(slender, (height - under) / Math.max(depth, reach?.(n) ?? 0))
    under += rise
  }
  return { height, slender }
}

/**
 * Do its layers hold a mass together: each long enough for the height, none further from the next than layers may be? One short strip is no
 * reinforced wall.
 *
 * @param height - of the wall as built, without its pad, m
 * @example layersHold(plan, 1.4)
 */
export function layersHold(plan: Plan, height: number): boolean {
  const building = buildingOf(plan)
  const limits = limitsOf(plan)
  const layers = building.layers.filter((l) => !below(l.length, limits.gridShare.value * height)).sort((a, b) => a.course - b.course)
  if (layers.length === 0) return false
  const levels = [0, ...layers.map((l) => riseOf(building, l.course)), height - capHeight(building)]
  return levels.every((level, i) => i === 0 || !below(limits.gridSpacing.value + LEVELLED, level - (levels[i - 1] as number)))
}
/** A layer lies on a whole course: what the last course lacks to the spacing is nobody's, m. */
const LEVELLED = 0.005

/** Structures on the drawing, with how far behind the face they stand and where: buildings, and the lines of buildings the wall is measured from. */
function drawnStructures(plan: Plan): { name: string; away: number; station: number }[] {
  const line = plan.alignment ? alignmentOf(plan.alignment.vertices as never, plan.alignment.closed) : undefined
  if (!line?.ok && plan.alignment) return []
  const alignment = line?.ok ? line.value : straight(plan.length)
  const things = [
    ...(plan.obstacles ?? []).flatMap((o) => (o.kind === 'structure' ? [{ name: o.name, points: o.points, radius: o.radius ?? 0 }] : [])),
    ...(plan.references ?? []).flatMap((r) => (r.kind === 'building-line' ? [{ name: r.name, points: r.points, radius: 0 }] : [])),
  ]
  return things.flatMap(({ name, points, radius }) => {
    const near = pointsAlong(points)
      .map((p) => stationOf(alignment, p))
      // What lies in front of the wall is not held by it.
      .filter((at) => at.offset > 0)
      .reduce<{ away: number; station: number } | undefined>((a, b) => (a && a.away <= b.away ? a : { away: b.away, station: b.station }), undefined)
    return near ? [{ name, away: Math.max(0, near.away - radius), station: near.station }] : []
  })
}
function pointsAlong(points: readonly SitePoint[]): SitePoint[] {
  return points.flatMap((p, i) => {
    const next = points[i + 1]
    if (!next) return [p]
    const n = Math.min(400, Math.max(1, Math.ceil(Math.hypot(next.easting - p.easting, next.northing - p.northing))))
    return Array.from({ length: n }, (_, k) => ({
      easting: p.easting + ((next.easting - p.easting) * k) / n,
      northing: p.northing + ((next.northing - p.northing) * k) / n,
    }))
  })
}

/** What a fact is judged at. */
interface Judged {
  readonly plan: Plan
  readonly system: WallSystem
  readonly steps: readonly PadStep[]
  readonly tops: readonly PadStep[]
  readonly courses: readonly Course[]
}

/**
 * Every fact that decides whose wall it is, since rule table 3: its height, what stands around, the ground behind, in front and below, what it
 * stands on and how slender it is. What nobody said counts as the worst of its kind.
 *
 * @param soil - as it was found; as the plan says where left out
 * @param layered - are layers laid that hold it? As the plan has them where left out
 * @example factsOf(layout).filter((f) => f.whose === 'engineer').map((f) => f.says)
 */
export function factsOf({ plan, system, steps, tops, courses }: Judged, soil: SoilKnown = {}, layered?: boolean): FoundFact[] {
  const limits = limitsOf(plan)
  const built = builtHeight(plan, steps, tops)
  const showing = exposedHeight(plan)
  const low = showing <= limits.lowShowing.value + 1e-6
  const facts: FoundFact[] = []
  const put = (fact: WallFact, says: string, beyond = false) => facts.push({ fact, says, whose: whoseBy(plan, fact, { low, beyond }) })

  const own = plan.rules?.engineeredAbove
  const limit = own == null ? limits.engineeredAbove.value : Math.min(own, limits.engineeredAbove.value)
  if (below(limit, built.height))
    put(
      'height',
      `it stands ${said.length(built.height, 2)} from ${fromWhere(plan)} to its top at ${said.station(built.station)}, over ${said.given(limit)}`,
    )

  const at = { height: built.height, showing, length: plan.length, stages: [] }
  const cut = cutReach(plan, steps)
  for (const s of plan.stands ?? []) {
    const found = standFact(s, plan, { ...at, cut })
    if (found) facts.push(found)
  }
  for (const s of drawnStructures(plan)) {
    const found = standFact({ kind: 'building', away: Math.round(s.away * 100) / 100 } as never, plan, {
      ...at,
      cut: cutReach(plan, steps, s.station),
    })
    if (found)
      facts.push({
        ...found,
        says: found.says.replace(STAND_NAMES.building.toLowerCase(), `${s.name}, on the drawing at ${said.station(s.station)}`),
      })
  }
  facts.push(...ticked(plan, { ...at, cut }))

  const reach = Math.max(limits.loadReach.value * built.height, cut)
  const measured = measuredSlopes(plan, reach)
  const said_ = Math.max(0, ...(plan.stands ?? []).flatMap((s) => (s.kind === 'slope' ? [s.size ?? Number.POSITIVE_INFINITY] : [])))
  if (measured.behind > Math.max(said_, limits.levelBehind.value) + SLOPE_READ)
    put(
      measured.behind > limits.steepBehind.value + 1e-9 ? 'slope-steep' : 'slope',
      `the ground behind was measured rising ${formatSlope(1 / measured.behind)}${said_ > 0 ? `, the plan says ${formatSlope(1 / said_)}` : ', though nobody said that it rises'}`,
    )
  const front = frontOf(plan, measured.front)
  if (front > limits.steepFront.value + 1e-9)
    put(
      'front-steep',
      `the ground in front falls ${formatSlope(1 / front)}${front > (plan.front?.slope ?? 0) ? ' as it was measured' : ''}, steeper than ${formatSlope(1 / limits.steepFront.value)}`,
    )
  if (plan.front?.erodible) put('front-erodible', 'the ground in front washes out')

  const onFill = padOnFill(plan, steps)
  if (onFill)
    put(
      'fill',
      `the bottom of its pad lies ${said.length(onFill.by, 2)} above the ground as found at ${said.station(onFill.station)}: it would stand on fill`,
    )

  for (const o of plan.openings ?? []) {
    const through = crossed(plan, courses, o)
    if (through) put('opening', `${o.name} at ${said.station(o.station)} goes through ${through}: what is cut or bent round holds less`)
  }

  const { foundation } = buildingOf(plan)
  for (const why of system.engineered(plan, plan.system.data, rowsOn(steps, courses)))
    put(foundation.kind === 'footing' && why.includes('footing') ? 'footing' : 'system', why)

  const known: SoilKnown = { behind: soil.behind ?? plan.soil?.behind, below: soil.below ?? plan.soil?.below }
  facts.push(...soilFacts(plan, known, low))
  const stands = standsOn(plan, built)
  if (!(layered ?? layersHold(plan, stands.height))) {
    const slender = stands.slender
    const [name, soilSaid] = worstSoil(known)
    if (slender > limits[name].value + 1e-6)
      put(
        'slender',
        `it is ${slender.toFixed(1)} times as high as ${buildingOf(plan).tied ? 'its footing is wide' : 'its units are deep'}, over ${limits[name].value} in ${soilSaid}`,
      )
  }
  return facts.map((f) => (f.whose === 'ask' && answerTo(plan, f.fact)?.may ? { ...f, answered: answerTo(plan, f.fact)?.who ?? '' } : f))
}
/** The steeper of what is said of the ground in front and what was measured. */
const frontOf = (plan: Plan, measured: number) => Math.max(plan.front?.slope ?? 0, measured > (plan.front?.slope ?? 0) + SLOPE_READ ? measured : 0)
/** How steeply the ground in front falls away, down per 1 out: as said, or as it was measured where that is steeper. */
export const frontSteepest = (plan: Plan, steps: readonly PadStep[]): number => frontOf(plan, measuredSlopes(plan, cutReach(plan, steps)).front)

/** The layer or mats that something through the wall would cut, in words; undefined where it meets none. */
function crossed(plan: Plan, courses: readonly Course[], o: { station: number; width: number; bottom: number; height: number }): string | undefined {
  const building = buildingOf(plan)
  const beside = (c: Course) => c.stretches.some((s) => s.from < o.station + o.width / 2 - 1e-6 && s.to > o.station - o.width / 2 + 1e-6)
  const within = (level: number) => level > o.bottom - 1e-6 && level < o.bottom + o.height + 1e-6
  const layer = building.layers.find((l) => courses.some((c) => c.course === l.course && within(c.top)))
  if (layer) return `the layer on course ${layer.course}`
  const mat =
    building.reach && courses.find((c) => within(c.bottom) && beside(c) && (building.reach?.(c.course) ?? 0) > building.course(c.course).depth)
  return mat ? `the mats of course ${mat.course}` : undefined
}

/** Slopes are read to about so much, up per 1 across. */
const SLOPE_READ = 0.02

const fromWhere = (plan: Plan) => (fromFirstCourse(plan) ? 'the underside of the first course' : 'the bottom of the pad')

/** The soil that counts for how slender a wall may be: the worse of what is behind and below. */
function worstSoil({ behind, below: under }: SoilKnown): readonly ['slenderness' | 'slendernessSilty' | 'slendernessFine', string] {
  const names = [slenderIn(behind), slenderIn(under)]
  if (behind === undefined || under === undefined) return ['slendernessFine', 'soil nobody has named']
  return names.includes('slendernessFine')
    ? ['slendernessFine', 'silt or clay']
    : names.includes('slendernessSilty')
      ? ['slendernessSilty', 'silty or clayey sand']
      : ['slenderness', 'clean sand or gravel']
}

/** What the soil behind and below itself makes of the wall. @param low - does it show no more than a low wall? */
export function soilFacts(plan: Plan, { behind, below: under }: SoilKnown, low: boolean): FoundFact[] {
  const make = (fact: WallFact, says: string): FoundFact => ({ fact, says, whose: whoseBy(plan, fact, { low, beyond: false }) })
  return [
    ...(behind === 'fat-clay' || under === 'fat-clay'
      ? [make('swelling', `clay that swells lies ${where(behind === 'fat-clay', under === 'fat-clay')}`)]
      : []),
    ...(behind === 'organic' || under === 'organic'
      ? [make('organic', `organic ground lies ${where(behind === 'organic', under === 'organic')}`)]
      : []),
    ...(behind === 'made-ground' ? [make('made-behind', 'made ground lies behind it')] : []),
    ...(under === 'made-ground' ? [make('made-below', 'made ground lies below it')] : []),
  ]
}
const where = (behind: boolean, under: boolean) => (behind && under ? 'behind and below it' : behind ? 'behind it' : 'below it')

/** What was ticked of what it holds and nowhere said in plain words: the worst of its kind. */
function ticked(plan: Plan, at: Parameters<typeof standFact>[2]): FoundFact[] {
  const kinds = new Set((plan.stands ?? []).map((s) => s.kind))
  const low = (at.showing ?? at.height) <= limitsOf(plan).lowShowing.value + 1e-6
  const asked = { slope: 'slope', load: 'drive', water: 'water', structure: 'building', tier: 'wall' } as const
  return (plan.holds ?? []).flatMap((h): FoundFact[] => {
    if (h === 'seismic') return [{ fact: 'seismic', says: 'it has to do with earthquakes', whose: whoseBy(plan, 'seismic', { low, beyond: false }) }]
    const kind = asked[h]
    // Said in plain words with how far and how much: that is judged.
    if (kinds.has(kind) || (h === 'load' && kinds.has('pool')) || (h === 'structure' && kinds.has('pool'))) return []
    const found = standFact({ kind } as never, plan, at)
    return found ? [found] : []
  })
}

/** What still stands between a wall and its crew. */
export interface WhoseWall {
  readonly whose: Whose
  readonly facts: readonly FoundFact[]
  /** Facts that need the engineer's plan: all of that step, and those where somebody asked said no. */
  readonly engineer: readonly FoundFact[]
  /** Facts that are asked first and nobody has answered. */
  readonly ask: readonly FoundFact[]
}
/**
 * Whose wall it is by all its facts: the strictest counts. A whole engineer's plan opens what is asked first as well, where it covers it.
 *
 * @example whoseWall(plan, facts).whose // 'ask'
 */
export function whoseWall(plan: Plan, facts: readonly FoundFact[]): WhoseWall {
  const refused = (f: FoundFact) => f.whose === 'ask' && answerTo(plan, f.fact)?.may === false
  const engineer = facts.filter((f) => f.whose === 'engineer' || refused(f))
  const ask = facts.filter(
    (f) => f.whose === 'ask' && f.answered === undefined && !refused(f) && !(engineered(plan) && plan.engineerCovers?.facts.includes(f.fact)),
  )
  return { whose: facts.reduce<Whose>((w, f) => stricterOf(w, f.whose), 'crew'), facts, engineer, ask }
}
