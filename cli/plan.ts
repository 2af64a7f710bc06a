import {
  type Layout,
  type LimitName,
  layOut,
  limitDef,
  limitsOf,
  pointOf,
  pointsOver,
  quantities,
  RULE_UNITS,
  type Stage,
  stepAt,
  stepsOf,
  toeAt,
} from '@stone-tally/core'

/** What the Board computes for a wall, as plain JSON (SI). */
export function layoutReport(layout: Layout) {
  const { plan } = layout
  return {
    name: plan.name,
    system: layout.system.id,
    embedment: layout.buried,
    steps: layout.steps.map((s) => ({
      ...s,
      bottom: s.elevation - layout.building.foundation.thickness,
      dig: pointsOver({ from: s.start, to: s.end }, 3).map((station) => ({
        station,
        elevation: stepAt(layout.steps, station) - layout.building.foundation.thickness,
        depth: toeAt(plan, station) - (stepAt(layout.steps, station) - layout.building.foundation.thickness),
        belowBenchmark: plan.benchmark.elevation - (stepAt(layout.steps, station) - layout.building.foundation.thickness),
      })),
    })),
    tops: layout.tops,
    courses: layout.courses,
    sections: plan.sections.map((s) => ({
      ...s,
      courses: [...layout.cells.values()]
        .filter((c) => c.section === s.id)
        .map((c) => ({
          course: c.course,
          stretches: c.stretches,
          units: c.pieces.length,
          full: c.pieces.filter((p) => p.kind === 'full').length,
          half: c.pieces.filter((p) => p.kind === 'half').length,
          cut: c.pieces.filter((p) => p.kind === 'cut').length,
        })),
    })),
    cautions: layout.cautions,
  }
}

/** Where a rule of the plan comes from: the level that set it last, or `shipped`. */
const fromOf = (layout: Layout, rule: string) => layout.plan.book?.set.find((s) => s.rule === rule)?.level ?? 'shipped'

/** A limit by name as the plan has it: value, unit, reason, and the level it comes from. */
function limitHere(layout: Layout, name: string) {
  const def = limitDef(name)
  const limit = limitsOf(layout.plan)[name as LimitName]
  return {
    limit: name,
    value: limit.value,
    unit: def ? RULE_UNITS[def.of] : '',
    sense: def?.sense ?? 'within',
    reason: limit.reason,
    from: fromOf(layout, `limit.${name}`),
  }
}

/** Names of the limits a stage is judged by. */
function limitsAt(stage: Stage): string[] {
  const { work } = stage
  if (work.type === 'readings') return [work.limit, ...(work.firstLimit ? [work.firstLimit] : [])]
  if (work.type === 'check') return (work.measures ?? []).flatMap((m) => [m.least, m.most].filter((x): x is string => x !== undefined))
  // Passes are by plant and material; one number for all of them stood beside those that are judged.
  if (work.type === 'lifts')
    return [
      'compaction',
      ...([
        'passesTamper',
        'passesTamperFine',
        'passesLight',
        'passesLightFine',
        'passesHeavy',
        'passesHeavyFine',
        'passesRoller',
        'passesRollerFine',
      ] as const),
      ...(['liftPlate', 'liftHand', 'backfillLift', 'looseHand'] as const),
    ]
  if (work.type === 'grid') return ['gridFrontMin', 'gridFrontMax', 'gridCover', 'gridLapSoil']
  if (work.type === 'pipe') return ['pipeBed', 'invert', 'pipeFallShare']
  return []
}

/** Every step in working order: what is recorded there, what must come before, by which limits it is judged and where each rule comes from. */
export function stagesReport(layout: Layout) {
  return {
    name: layout.plan.name,
    system: layout.system.id,
    choices: (layout.plan.book?.choices ?? []).map((c) => ({ ...c, from: fromOf(layout, `choice.${c.choice}`) })),
    steps: stepsOf(layout).map((step) => {
      const { stage } = step
      const point = stage.hold ?? stage.witness
      const held = point === undefined ? undefined : pointOf(layout.plan, point)
      return {
        stage: stage.id,
        title: stage.title,
        ...(step.section === undefined ? {} : { section: step.section }),
        ...(step.course === undefined ? {} : { course: step.course }),
        work: stage.work.type,
        items: stage.work.type === 'check' || stage.work.type === 'pipe' ? stage.work.items.map((i) => i.text) : [],
        gates: stage.requires.map((r) => ({ stage: r.stage, of: r.of, force: r.force, why: r.why })),
        limits: limitsAt(stage).map((name) => limitHere(layout, name)),
        ...(held
          ? {
              point: {
                id: held.id,
                title: held.title,
                kind: held.kind,
                roles: held.kind === 'hold' ? held.roles : [],
                own: held.own,
                from: fromOf(layout, `point.${held.id}`),
              },
            }
          : {}),
      }
    }),
  }
}

/** Every piece: where it is, and its position along its own course's face (m). */
export const unitsReport = (layout: Layout) => ({
  name: layout.plan.name,
  units: [...layout.cells.values()].flatMap((cell) =>
    cell.pieces.map((p) => ({
      section: cell.section,
      course: cell.course,
      kind: p.kind,
      ...(p.shape ? { shape: p.shape } : {}),
      station: p.start,
      to: p.to,
      along: p.at,
      length: p.length,
    })),
  ),
})

/** Inspection points of the wall, each at every step it is looked at. */
export const pointsReport = (layout: Layout) => ({
  name: layout.plan.name,
  points: stepsOf(layout).flatMap((step) => {
    const id = step.stage.hold ?? step.stage.witness
    const point = id === undefined ? undefined : pointOf(layout.plan, id)
    return point
      ? [
          {
            point: point.id,
            title: point.title,
            kind: point.kind,
            roles: point.kind === 'hold' ? point.roles : [],
            own: point.own,
            reason: point.reason,
            stage: step.stage.id,
            ...(step.section === undefined ? {} : { section: step.section }),
            ...(step.course === undefined ? {} : { course: step.course }),
            from: fromOf(layout, `point.${point.id}`),
          },
        ]
      : []
  }),
})

export const REPORTS: Readonly<Record<string, (layout: Layout) => unknown>> = {
  layout: layoutReport,
  quantities: (layout) => ({ quantities: quantities(layout) }),
  stages: stagesReport,
  units: unitsReport,
  points: pointsReport,
  cautions: (layout) => ({ name: layout.plan.name, cautions: layout.cautions }),
}
export { layOut }
