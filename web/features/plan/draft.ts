import {
  failAll,
  formatLength,
  layOut,
  ok,
  type Plan,
  type Problem,
  parseLength,
  type Result,
  readPlan,
  SYSTEMS,
  type Unit,
  type UnitSystem,
} from '@stone-tally/core'

/** A plan as it is typed: every length a text in the crew's units. */
export interface Draft {
  name: string
  site: string
  drawing: string
  engineer: string
  system: string
  unit: string
  length: string
  grades: { station: string; toe: string; top: string }[]
  benchmarkName: string
  benchmark: string
  embedFixed: string
  embedShare: string
  padMaterial: Plan['pad']['material']
  padThickness: string
  padWidth: string
  padLift: string
  minRun: string
  behind: string
  slope: string
  stone: string
  pipe: string
  fall: string
  outlets: { station: string; invert: string }[]
  grid: { course: string; length: string; type: string }[]
  sections: { id: string; to: string }[]
  openCourses: string
  topStyle: 'stepped' | 'level' | 'cap-following'
  wasteUnits: string
  wasteStone: string
  wasteGrid: string
}

export function emptyDraft(units: UnitSystem): Draft {
  const l = (m: number) => (units === 'metric' ? `${m}` : formatLength(m, units))
  return {
    name: '',
    site: '',
    drawing: '',
    engineer: '',
    system: SYSTEMS[0]?.id ?? '',
    unit: SYSTEMS[0]?.units[0]?.id ?? '',
    length: '',
    grades: [
      { station: '0', toe: '', top: '' },
      { station: '', toe: '', top: '' },
    ],
    benchmarkName: 'BM 1',
    benchmark: '',
    embedFixed: l(0.15),
    embedShare: '10',
    padMaterial: 'dense-graded',
    padThickness: l(0.15),
    padWidth: l(0.6),
    padLift: l(0.1),
    minRun: l(1.2),
    behind: l(1),
    slope: '0.5',
    stone: l(0.3),
    pipe: l(0.1),
    fall: '1',
    outlets: [{ station: '0', invert: '' }],
    grid: [],
    sections: [{ id: 'A', to: '' }],
    openCourses: '1',
    topStyle: 'stepped',
    wasteUnits: '3',
    wasteStone: '10',
    wasteGrid: '5',
  }
}

/** The draft of a plan in force, to make its next revision from. */
export function draftOf(plan: Plan, units: UnitSystem): Draft {
  const l = (m: number) => (units === 'metric' ? `${m}` : formatLength(m, units))
  const fixed = plan.embedment.find((r) => r.kind === 'fixed')
  const share = plan.embedment.find((r) => r.kind === 'fraction')
  return {
    name: plan.name,
    site: plan.site,
    drawing: plan.drawing ?? '',
    engineer: plan.engineer ?? '',
    system: plan.system,
    unit: plan.unit.id,
    length: l(plan.length),
    grades: plan.grades.map((g) => ({ station: l(g.station), toe: l(g.toe), top: l(g.top) })),
    benchmarkName: plan.benchmark.name,
    benchmark: l(plan.benchmark.elevation),
    embedFixed: fixed?.depth == null ? '' : l(fixed.depth),
    embedShare: share?.fraction == null ? '' : `${share.fraction * 100}`,
    padMaterial: plan.pad.material,
    padThickness: l(plan.pad.thickness),
    padWidth: l(plan.pad.width),
    padLift: l(plan.pad.maxLift),
    minRun: l(plan.pad.minRun),
    behind: l(plan.excavation.behind),
    slope: `${plan.excavation.slope}`,
    stone: l(plan.stone.width),
    pipe: l(plan.drain.diameter),
    fall: `${plan.drain.fall * 100}`,
    outlets: plan.drain.outlets.map((o) => ({ station: l(o.station), invert: l(o.invert) })),
    grid: plan.grid.map((g) => ({ course: `${g.course}`, length: l(g.length), type: g.type })),
    sections: plan.sections.map((s) => ({ id: s.id, to: l(s.to) })),
    openCourses: `${plan.rules?.openCourses ?? 1}`,
    topStyle: plan.top?.style ?? 'stepped',
    wasteUnits: `${plan.waste?.units ?? 3}`,
    wasteStone: `${plan.waste?.stone ?? 10}`,
    wasteGrid: `${plan.waste?.grid ?? 5}`,
  }
}

/** Where a field of the plan stands in the draft, to put a problem beside what was typed. */
const FIELD: Record<string, string> = {
  'unit.id': 'unit',
  'benchmark.name': 'benchmarkName',
  'benchmark.elevation': 'benchmark',
  'embedment[0].depth': 'embedFixed',
  'pad.material': 'padMaterial',
  'pad.thickness': 'padThickness',
  'pad.width': 'padWidth',
  'pad.maxLift': 'padLift',
  'pad.minRun': 'minRun',
  'excavation.behind': 'behind',
  'excavation.slope': 'slope',
  'stone.width': 'stone',
  'drain.diameter': 'pipe',
  'drain.fall': 'fall',
  'rules.openCourses': 'openCourses',
}
const draftField = (field: string) => FIELD[field] ?? field.replace(/^drain\.outlets/, 'outlets').replace(/\[(\d+)\]/g, '.$1')

/**
 * What was typed, as a plan the core has checked and laid out; problems carry the path of the draft's field.
 *
 * @param units - decides what a number without a unit means: metres or feet
 */
export function planOf(
  draft: Draft,
  units: UnitSystem,
  catalogue: readonly { system: string; unit: Unit }[] = SYSTEMS.flatMap((s) => s.units.map((unit) => ({ system: s.id, unit }))),
  base?: Plan,
): Result<Plan> {
  const problems: Problem[] = []
  const metres = (field: string, value: string): number => {
    const read = parseLength(value, units === 'metric' ? 'm' : 'ft')
    if (read.ok) return read.value
    problems.push({ field, message: value.trim() === '' ? 'is missing' : (read.problems[0]?.message ?? 'is not a length') })
    return Number.NaN
  }
  const number = (field: string, value: string): number => {
    const n = Number(value.replace(',', '.'))
    if (value.trim() !== '' && Number.isFinite(n)) return n
    problems.push({ field, message: value.trim() === '' ? 'is missing' : `"${value}" is not a number` })
    return Number.NaN
  }
  // A wall keeps its own unit until another is chosen, whatever became of the catalogue since.
  const kept = base && base.unit.id === draft.unit ? { system: base.system, unit: base.unit } : undefined
  const chosen = kept ?? catalogue.find((u) => u.unit.id === draft.unit)
  const unit = chosen?.unit
  if (!unit) return failAll([{ field: 'unit', message: 'choose a unit from the catalogue' }])
  // The set-out rules the length of a wall that has one.
  const length = base?.alignment ? base.length : metres('length', draft.length)
  // What was rounded for the form is the end of the wall again.
  const toEnd = (v: number) => (base?.alignment && Math.abs(v - length) < 0.005 ? length : v)
  const ends = draft.sections.map((s, i) =>
    i === draft.sections.length - 1 && s.to.trim() === '' ? length : toEnd(metres(`sections.${i}.to`, s.to)),
  )
  const value = {
    name: draft.name.trim(),
    site: draft.site.trim(),
    ...(draft.drawing.trim() ? { drawing: draft.drawing.trim() } : {}),
    ...(draft.engineer.trim() ? { engineer: draft.engineer.trim() } : {}),
    ...(base?.alignment ? { alignment: base.alignment } : {}),
    ...(base?.openings ? { openings: base.openings } : {}),
    ...(base?.references ? { references: base.references } : {}),
    ...(base?.obstacles ? { obstacles: base.obstacles } : {}),
    ...(base?.water ? { water: base.water } : {}),
    ...(base?.gridRolls ? { gridRolls: base.gridRolls } : {}),
    ...(draft.topStyle === 'stepped' && !base?.top ? {} : { top: { ...base?.top, style: draft.topStyle } }),
    waste: {
      units: number('wasteUnits', draft.wasteUnits),
      stone: number('wasteStone', draft.wasteStone),
      grid: number('wasteGrid', draft.wasteGrid),
    },
    system: chosen.system,
    unit,
    length,
    grades: draft.grades.map((g, i) => ({
      station: i === draft.grades.length - 1 && g.station.trim() === '' ? length : toEnd(metres(`grades.${i}.station`, g.station)),
      toe: metres(`grades.${i}.toe`, g.toe),
      top: metres(`grades.${i}.top`, g.top),
    })),
    benchmark: { name: draft.benchmarkName.trim(), elevation: metres('benchmark', draft.benchmark) },
    embedment: [
      { kind: 'fixed', depth: metres('embedFixed', draft.embedFixed) },
      ...(draft.embedShare.trim() ? [{ kind: 'fraction', fraction: number('embedShare', draft.embedShare) / 100 }] : []),
      // Schools the form does not ask for stay as the plan has them.
      ...(base?.embedment.filter((r) => r.kind === 'perHeight') ?? []),
      base?.embedment.find((r) => r.kind === 'courses') ?? { kind: 'courses', count: 1 },
    ],
    pad: {
      material: draft.padMaterial,
      thickness: metres('padThickness', draft.padThickness),
      width: metres('padWidth', draft.padWidth),
      maxLift: metres('padLift', draft.padLift),
      looseFactor: base?.pad.looseFactor ?? 1.25,
      minRun: metres('minRun', draft.minRun),
    },
    excavation: { behind: metres('behind', draft.behind), slope: number('slope', draft.slope) },
    stone: { width: metres('stone', draft.stone) },
    drain: {
      diameter: metres('pipe', draft.pipe),
      fall: number('fall', draft.fall) / 100,
      outlets: draft.outlets.map((o, i) => ({ station: metres(`outlets.${i}.station`, o.station), invert: metres(`outlets.${i}.invert`, o.invert) })),
      maxOutletSpacing: base?.drain.maxOutletSpacing ?? 15,
    },
    grid: draft.grid.map((g, i) => ({
      course: number(`grid.${i}.course`, g.course),
      length: metres(`grid.${i}.length`, g.length),
      type: g.type.trim(),
    })),
    sections: draft.sections.map((s, i) => ({ id: s.id.trim(), from: i === 0 ? 0 : (ends[i - 1] ?? 0), to: ends[i] ?? length })),
    rules: { ...base?.rules, openCourses: number('openCourses', draft.openCourses) },
  }
  if (problems.length > 0) return failAll(problems)
  const plan = readPlan(value)
  const placed = (list: readonly Problem[]) => failAll(list.map((p) => ({ field: draftField(p.field), message: p.message })))
  if (!plan.ok) return placed(plan.problems)
  const laid = layOut(plan.value)
  return laid.ok ? ok(plan.value) : placed(laid.problems)
}
