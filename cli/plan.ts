import { type Layout, layOut, pointsOver, quantities, stepAt, toeAt } from '@stone-tally/core'

/** What the Board computes for a wall, as plain JSON (SI). */
export function layoutReport(layout: Layout) {
  const { plan } = layout
  return {
    name: plan.name,
    system: layout.system.id,
    embedment: layout.buried,
    steps: layout.steps.map((s) => ({
      ...s,
      bottom: s.elevation - plan.pad.thickness,
      dig: pointsOver({ from: s.start, to: s.end }, 3).map((station) => ({
        station,
        elevation: stepAt(layout.steps, station) - plan.pad.thickness,
        depth: toeAt(plan, station) - (stepAt(layout.steps, station) - plan.pad.thickness),
        belowBenchmark: plan.benchmark.elevation - (stepAt(layout.steps, station) - plan.pad.thickness),
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

export const REPORTS: Readonly<Record<string, (layout: Layout) => unknown>> = {
  layout: layoutReport,
  quantities: (layout) => ({ quantities: quantities(layout) }),
}
export { layOut }
