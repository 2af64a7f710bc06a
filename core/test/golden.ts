import { createHash } from 'node:crypto'
import {
  beddingAdvice,
  clearances,
  courseSheet,
  coursesAt,
  cutEdge,
  cutList,
  densityReport,
  digReport,
  drainPlan,
  emptyState,
  filterOf,
  fold,
  gridOn,
  type Layout,
  laidPipe,
  layerReport,
  layerSchedule,
  layOut,
  levelBooks,
  lineOf,
  nonconformances,
  padAdvice,
  padFacts,
  padReadings,
  padThickness,
  proposeOutlets,
  quantities,
  type RecordFile,
  rollBook,
  rollCuttings,
  say,
  screedPlan,
  sectionAt,
  soilParameters,
  soilsOf,
  stakesOf,
  statusOf,
  storedPlan,
  unmatched,
  verdictOf,
  type WallState,
  walkOrder,
  weatherCautions,
  weatherOf,
} from '@stone-tally/core'

/** Numbers to the hundredth of a millimetre, sentences as a reader in metres has them, so that two machines write the same. */
const plain = (value: unknown): unknown =>
  JSON.parse(
    say(
      JSON.stringify(value, (_k, v) =>
        typeof v === 'number' ? +v.toFixed(5) : v instanceof Map ? [...v] : v instanceof Float64Array || v instanceof Uint16Array ? [...v] : v,
      ) ?? 'null',
      'metric',
    ),
  )
const digest = (value: unknown) =>
  createHash('sha256')
    .update(JSON.stringify(plain(value)))
    .digest('hex')
    .slice(0, 16)
const short = <T>(list: readonly T[], of: (x: T) => unknown) => list.map(of)

/** What a plan comes to. Long lists by their digest: a change of any number of them is a change of it. */
export function layoutGolden(layout: Layout) {
  const { length } = layout.plan
  const stations = [0, length / 3, length / 2, length * 0.8, length]
  return plain({
    buried: layout.buried,
    steps: layout.steps,
    tops: layout.tops,
    courses: short(layout.courses, (c) => [c.course, c.bottom, c.top, c.offset]),
    runs: short(layout.runs, (runs) => [runs.reduce((n, r) => n + r.pieces.length, 0), digest(runs.map((r) => [r.from, r.to, r.pieces]))]),
    caps: [layout.caps.length, digest(layout.caps)],
    cells: short([...layout.cells.values()], (c) => [c.section, c.course, c.first, c.last, c.pad, c.pieces.length, digest([c.stretches, c.pieces])]),
    stakes: [digest(stakesOf(layout)), digest(stakesOf(layout, 1.5, 2))],
    cutEdge: digest(cutEdge(layout)),
    clearances: clearances(layout),
    sections: stations.map((s) => digest([sectionAt(layout, s), coursesAt(layout, s).map((c) => c.course)])),
    grid: layout.building.layers.map((g) => gridOn(layout, g.course)?.over ?? []),
    layers: layerSchedule(layout),
    rolls: digest(rollCuttings(layout, layerSchedule(layout))),
    cuts: digest(cutList(layout)),
    quantities: quantities(layout).map((q) => [q.id, q.value, q.unit, q.working]),
    drain: { ...drainPlan(layout), points: digest(drainPlan(layout)?.points) },
    outlets: proposeOutlets(layout),
    walk: layout.plan.sections.map((s) => walkOrder(layout, [s.from + 0.1, (s.from + s.to) / 2, s.to - 0.1])),
  })
}

/** What a record comes to under the plan revisions it was made under. */
export function recordGolden(state: WallState) {
  const sections = state.layout.plan.sections.map((s) => s.id)
  return plain({
    entries: state.entries.map(({ entry }) => {
      const v = verdictOf(state, entry)
      return [entry.kind, v?.verdict, v?.text, v?.deviation, lineOf(state, entry, { units: 'metric' }), lineOf(state, entry, { units: 'imperial' })]
    }),
    steps: state.steps.flatMap((step) => {
      const s = statusOf(state, step)
      return s.state === 'todo'
        ? []
        : [[step.key, s.state, s.done, s.total, s.open.length, s.hold, s.missing, s.conflicts.length, digest(s.deviations)]]
    }),
    findings: nonconformances(state).map((n) => [n.found.entry.kind, n.state, n.rechecks.length]),
    unmatched: unmatched(state).length,
    dig: {
      ...digReport(state),
      steps: digReport(state).steps.map((s) => [
        s.order,
        s.bank,
        s.done,
        s.overDig,
        digest(s.points.map((p) => [p.station, p.ground, p.target, p.deviation])),
      ]),
    },
    pads: sections.map((s) => ({
      readings: digest(padReadings(state, s)),
      thickness: padThickness(state, s),
      screed: digest(screedPlan(padReadings(state, s), 0.005)),
    })),
    soils: soilsOf(state).map((s) => [s.data.from, s.data.to, s.finding.class, s.finding.undercut, s.finding.because, s.finding.advice, s.open]),
    values: (['foundation', 'retained', 'reinforced'] as const).map((z) => soilParameters(state, z)),
    pad: [padFacts(state), padAdvice(padFacts(state)).map((o) => [o.material, o.score, o.ruledOut, o.reasonsFor, o.against, o.drain])],
    density: { ...densityReport(state), tests: densityReport(state).tests.map((t) => [t.data.method, t.result?.relative, t.text, t.out, t.closed]) },
    books: levelBooks(state).map((b) => [
      b.day,
      b.with,
      b.book.ok && b.book.value.rows.map((r) => [r.kind, r.point, r.hi, r.elevation, r.adjusted, r.doubtful]),
      b.book.ok && b.book.value.legs,
    ]),
    layers: layerReport(state).map((l) => ({ ...l, entries: undefined })),
    rolls: rollBook(state),
    pipe: laidPipe(state).map((p) => ({ ...p, entry: undefined })),
    filter: filterOf(state) && { result: filterOf(state)?.result, advice: filterOf(state)?.advice },
    weather: weatherOf(state).now && weatherCautions(weatherOf(state).now as never, weatherOf(state).expected),
    bedding: sections.map((s) => beddingAdvice(state, s)),
    sheets: sections.flatMap((s) => [2, 3, 8].map((c) => courseSheet(state, s, c)?.facts(0.003, 20))),
  })
}

/** A record file folded anew, as a reader of it does. */
export function stateOfFile(file: RecordFile): WallState {
  const layouts = file.revisions.map((r) => {
    const laid = layOut(storedPlan(r.plan))
    if (!laid.ok) throw new Error(JSON.stringify(laid.problems))
    return laid.value
  })
  return file.entries.length === 0 ? emptyState(layouts) : fold(layouts, file.entries)
}
