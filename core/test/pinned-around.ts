// Made-up walls of every system with what may stand around them, be built into them or speak against them; marks of all that is said and drawn of each.
import {
  alignmentOf,
  builtHeight,
  builtInDrawn,
  clearances,
  compareLayouts,
  coursesAt,
  cutEdge,
  cutTopAt,
  drainPlan,
  engineerReasons,
  frostCover,
  gridOn,
  handlesOf,
  issueUnder,
  type Layout,
  layOut,
  lineBeside,
  meaningsOf,
  movedBy,
  PAPERS,
  type Plan,
  type Problem,
  padOnFill,
  picksOf,
  pieceEstimate,
  pointsOver,
  poleStrips,
  proposeHeel,
  proposeLayers,
  proposeOutlets,
  proposeSpots,
  quantities,
  radiusPoints,
  readPlan,
  runsReceived,
  runsToSend,
  STANDS,
  spotPoint,
  stakesOf,
  standWrong,
  stepAt,
  storyPole,
  tallyJsonSchema,
  trenchOf,
  turnsOf,
  wallFacts,
} from '@stone-tally/core'
import { type Draw, drawn, type JsonSchema, pick } from './drawn'
import { mark, numbers, parts, plainly } from './pinned'
import { startedThen } from './started'

const SYSTEMS_THEN = ['hollow-core', 'rear-lip', 'tongue-groove', 'pattern', 'landscape', 'glued', 'gabion', 'big-block', 'masonry'] as const
export const AROUND = SYSTEMS_THEN.length * 6

const BUILT_IN = (tallyJsonSchema() as unknown as { $defs: { plan: { properties: { builtIn: { items: { oneOf: readonly JsonSchema[] } } } } } }).$defs
  .plan.properties.builtIn.items.oneOf
const round = (v: number, by = 1000) => Math.round(v * by) / by

/** A line of straight legs, bends and corners, now and then closed. */
function lineBy(draw: Draw) {
  const whole = (most: number) => Math.floor(draw(0, most + 0.999))
  if (whole(8) === 0) {
    const r = round(draw(4, 7))
    const at = (x: number, y: number) => ({ easting: x, northing: y, bulge: Math.tan(Math.PI / 8) })
    return { closed: true, vertices: [at(r, 0), at(0, r), at(-r, 0), at(0, -r)] }
  }
  let [e, n, heading] = [round(draw(0, 500)), round(draw(0, 500)), draw(0, 6)]
  const vertices = [{ easting: e, northing: n, bulge: 0 }]
  for (let k = whole(2); k >= 0; k--) {
    const long = draw(4, 9)
    e = round(e + long * Math.cos(heading))
    n = round(n + long * Math.sin(heading))
    vertices.push({ easting: e, northing: n, bulge: 0 })
    heading += (whole(1) ? 1 : -1) * pick(draw, [0.05, 0.7, Math.PI / 2])
  }
  if (whole(2) === 0) (vertices[0] as { bulge: number }).bulge = round(draw(-0.2, 0.2))
  return { closed: false, vertices }
}

/** One of the things that are built in, of sizes that things have, somewhere along a wall. */
function builtInBy(draw: Draw, n: number, length: number) {
  const of = drawn(pick(draw, BUILT_IN), draw, ['culvert']) as Record<string, unknown>
  const from = round(draw(0, length * 0.6))
  const sizes: Record<string, number> = {
    from,
    to: round(Math.min(length, from + draw(1, 5))),
    station: from,
    grate: round(10.9 + draw(0, 0.4)),
    bottom: round(9.8 + draw(0, 0.4)),
    invert: round(9.6 + draw(0, 0.4)),
    elevation: round(9.9 + draw(0, 0.6)),
    spacing: round(draw(0.6, 2.5)),
    behind: round(draw(0.25, 1.5)),
    diameter: round(draw(0.05, 0.3)),
    deep: round(draw(0.4, 1.2)),
    fall: round(draw(0.005, 0.03)),
    width: round(draw(0.5, 3)),
    lap: 0.3,
    roll: 2,
  }
  for (const [name, size] of Object.entries(sizes)) if (typeof of[name] === 'number') of[name] = size
  return { ...of, name: `thing ${n}`, ...('opening' in of ? { opening: 'culvert' } : {}) }
}

/** A wall of a number as it is planned, before anything stands around it, and with all that does. */
export function plansOf(n: number): { readonly bare: Plan; readonly plan: Plan; readonly refused: readonly Problem[] } {
  const draw = numbers(611953 * (n + 1))
  const chance = (p: number) => draw(0, 1) < p
  const id = SYSTEMS_THEN[n % SYSTEMS_THEN.length] as (typeof SYSTEMS_THEN)[number]
  const alignment = lineBy(draw)
  const line = alignmentOf(alignment.vertices, alignment.closed)
  const length = line.ok ? Math.floor(line.value.length * 1000) / 1000 : 10
  const slope = alignment.closed ? 0 : draw(-0.05, 0.05)
  const tall = ['landscape', 'glued'].includes(id) ? draw(0.3, 0.6) : draw(0.8, 2.2)
  const grade = (station: number) => ({ station, toe: round(10 + slope * station), top: round(10 + slope * station * (n % 3) * 0.5 + tall) })
  const middle = round(length / 2)
  const bare = startedThen(id, {
    length,
    alignment: alignment as never,
    grades: [grade(0), ...(chance(0.4) ? [grade(middle)] : []), grade(length)],
    sections:
      chance(0.5) && !alignment.closed
        ? [
            { id: 'A', from: 0, to: middle },
            { id: 'B', from: middle, to: length },
          ]
        : [{ id: 'A', from: 0, to: length }],
  })
  const near = () => {
    const at = pick(draw, alignment.vertices)
    return { easting: round(at.easting + draw(-4, 4)), northing: round(at.northing + draw(-4, 4)) }
  }
  const places = (count: number) => Array.from({ length: count }, near)
  const change: Partial<Plan> = {
    ...(chance(0.5) ? { holds: [pick(draw, ['slope', 'load', 'water', 'structure', 'tier', 'seismic'] as const)] } : {}),
    ...(chance(0.5)
      ? {
          stands: Array.from({ length: 2 }, () => ({
            kind: pick(draw, STANDS.slice(0, 7)),
            ...(chance(0.7) ? { away: round(draw(0, 5)) } : {}),
            ...(chance(0.7) ? { size: round(draw(0.05, 2)) } : {}),
          })),
        }
      : {}),
    ...(chance(0.4)
      ? {
          found: {
            points: Array.from({ length: 12 }, () => ({
              station: round(draw(0, length)),
              behind: round(draw(-2, 5)),
              level: round(draw(9.8, 11.4)),
            })),
            ...(chance(0.5) ? { back: 3 } : {}),
          } as never,
        }
      : {}),
    ...(chance(0.5) ? { front: { slope: round(draw(0, 0.7)), erodible: chance(0.5) } } : {}),
    ...(chance(0.4) ? { frost: round(draw(0.1, 1)) } : {}),
    ...(chance(0.6)
      ? { top: { style: pick(draw, ['stepped', 'level', 'cap-following'] as const), ...(chance(0.5) ? { minRun: round(draw(0.5, 3)) } : {}) } }
      : {}),
    ...(chance(0.25) ? { padSteps: [round(length * 0.3), round(length * 0.7)] } : {}),
    ...(chance(0.5)
      ? { openings: [{ name: 'culvert', station: round(length * 0.4), width: 0.45, bottom: round(10 + draw(-0.1, 0.3)), height: 0.4 }] }
      : {}),
    references: [
      { name: 'kerb', kind: 'building-line' as const, points: places(2) },
      { name: 'bolt', kind: 'benchmark' as const, points: places(1) },
    ],
    obstacles: Array.from({ length: 3 }, (_, k) => ({
      name: `obstacle ${k}`,
      kind: pick(draw, ['tree', 'service', 'structure'] as const),
      points: places(k === 0 ? 1 : 2),
      ...(k === 0 ? { radius: round(draw(0.2, 1)) } : {}),
      clearance: round(draw(0.3, 3)),
    })),
    excavation: { behind: round(draw(0.5, 2)), slope: pick(draw, [0.2, 0.75, 1, 1.5]) },
    ...(chance(0.5)
      ? {
          water: {
            ...(chance(0.6) ? { school: pick(draw, ['in-pad', 'on-bed', 'raised'] as const) } : {}),
            sock: chance(0.5),
            holes: 0.008,
            possible: [{ name: 'ditch', station: round(draw(0, length)), invert: round(draw(9, 9.9)) }],
            ...(chance(0.6) ? { heel: { above: round(draw(0, 1)), fall: round(draw(0, 0.03)) } } : {}),
            area: round(draw(0, 900)),
            runoff: 0.6,
            rain: 40,
          },
        }
      : {}),
    builtIn: Array.from({ length: Math.floor(draw(0, 5)) }, (_, k) => builtInBy(draw, k, length)) as never,
    ...(chance(0.5)
      ? {
          rules: {
            ...(chance(0.5) ? { engineeredAbove: round(draw(0.6, 2)) } : {}),
            ...(chance(0.5) ? { heightFrom: 'first-course' as const } : {}),
            pointSpacing: round(draw(1, 4)),
          },
        }
      : {}),
    ...(chance(0.3) ? { engineerBy: '' } : {}),
  }
  const made = issueUnder({ ...bare, ...change } as Plan, {}, 2)
  if (!made.ok) throw new Error(JSON.stringify(made.problems))
  const read = readPlan(JSON.parse(JSON.stringify(made.value)))
  // What cannot be is refused with its reason, and laid out all the same: what is said then must hold as well.
  return { bare, plan: made.value, refused: read.ok ? [] : read.problems }
}

const stoodAt = (l: Layout) => ({
  height: builtHeight(l.plan, l.steps, l.tops).height,
  length: l.plan.length,
  stages: l.system.stages.map((s) => s.id),
})
const more: Readonly<Record<string, (l: Layout) => unknown>> = {
  stakes: (l) => [
    stakesOf(l),
    stakesOf(l, 1.5, 2),
    radiusPoints(l.alignment),
    lineBeside(l.alignment, 0.7),
    lineBeside(l.alignment, -1, 1, l.plan.length - 1),
  ],
  trench: (l) => [
    trenchOf(l.plan),
    cutEdge(l),
    clearances(l),
    turnsOf(l.plan, l.steps),
    [0, 0.4, 0.9].map((x) => cutTopAt(l.plan, x * l.plan.length)),
  ],
  engineer: (l) => [
    engineerReasons(l.plan, l.system, l.steps, l.tops, l.courses),
    builtHeight(l.plan, l.steps, l.tops),
    padOnFill(l.plan, l.steps),
    frostCover(l.plan, l.steps),
  ],
  facts: (l) => [wallFacts(l), pieceEstimate(l.plan), (l.plan.stands ?? []).map((s) => meaningsOf(s, l.plan, stoodAt(l)))],
  built: (l) => builtInDrawn(l),
  picks: (l) => picksOf(l),
  poles: (l) =>
    [0.1, 0.5, 0.85].flatMap((x) => [
      storyPole(l, x * l.plan.length),
      storyPole(l, x * l.plan.length, { hi: 12.4 }),
      storyPole(l, x * l.plan.length, { string: 10.6 }),
    ]),
  strips: () => (Object.keys(PAPERS) as (keyof typeof PAPERS)[]).map((p) => [poleStrips(9.7, 11.9, p), poleStrips(0, 0.2, p)]),
  layers: (l) => [proposeLayers(l), l.building.layers.map((g) => gridOn(l, g.course))],
  water: (l) => [drainPlan(l), proposeOutlets(l), proposeHeel(l)],
  spots: (l) => [
    proposeSpots(l, 4, l.plan.length / 2),
    proposeSpots(l, 3, 0, [{ station: 1, out: 2 }]),
    [-3, -1, 0.5, 2.5].map((out) => [standWrong(l, { station: l.plan.length * 0.3, out }, 2), spotPoint(l, { station: 1, out })]),
  ],
  handles: (l) =>
    handlesOf(l).map((h) => {
      const to = { ...h.at, station: h.at.station + 0.31, level: (h.at as { level?: number }).level ?? 0 }
      const moved = h.move(l.plan, to as never)
      return [h.id, h.of, h.at, h.goes, h.grain, (['grades', 'openings', 'padSteps', 'system'] as const).map((k) => moved[k])]
    }),
  moved: (l) =>
    (['line', 'grade'] as const).map((of) => {
      const to = movedBy(l.plan, of, 0.1)
      return [to.alignment, to.grades, to.length, to.system.data]
    }),
  across: (l) => [pointsOver({ from: 0, to: l.plan.length }, 1.7), coursesAt(l, 1).length, stepAt(l.steps, 1)],
  sent: (l) => {
    let lower: Layout['runs'][number] = []
    return l.runs.map((_, i) => {
      const sent = runsToSend(l, i)
      lower = runsReceived(sent, lower) as never
      return [sent.length, lower.length]
    })
  },
}

/** Marks of a wall and of all that stands around it, part by part; what it is refused for, and how it differs without. */
export function marksAround(n: number): Record<string, string> | string {
  const { bare, plan, refused } = plansOf(n)
  const [before, after] = [layOut(bare), layOut(plan)]
  if (!before.ok) return plainly(before.problems)
  const of = after.ok ? after.value : before.value
  return {
    ...(refused.length > 0 ? { refused: plainly(refused) } : {}),
    ...(after.ok ? {} : { stopped: plainly(after.problems) }),
    ...Object.fromEntries([...Object.entries(parts), ...Object.entries(more)].map(([name, part]) => [name, mark(part(of))])),
    ...(after.ok ? { differs: mark(compareLayouts(before.value, after.value)), back: mark(compareLayouts(after.value, before.value)) } : {}),
    amounts: mark(quantities(before.value)),
  }
}
