import type { CheckMeasure, Requirement, Stage } from './stage'

/** What of a cast foundation is measured, whatever stands on it. */
const MEASURES: Readonly<Record<string, readonly CheckMeasure[]>> = {
  bars: [
    { id: 'cover', text: 'Cover, the least found', least: 'foundation.cover' },
    { id: 'lap', text: 'Lap, the shortest found', least: 'foundation.lap' },
  ],
  pad: [
    { id: 'slump', text: 'Slump of the concrete', least: 'slumpMin', most: 'slumpMax' },
    { id: 'warm', text: 'Temperature of the concrete', of: 'temperature', least: 'concreteCold', most: 'concreteHot' },
  ],
}

const damp: Stage = {
  id: 'damp',
  title: 'Concrete kept damp',
  witness: 'pad-lifts',
  scope: 'section',
  when: 'every',
  how: 'Covered and kept damp from the evening of the pour on, against sun, wind, rain and frost.',
  work: {
    type: 'check',
    detail: 'With what it was covered, and until when',
    items: [
      { id: 'covered', text: 'Covered against sun, wind and frost' },
      { id: 'damp', text: 'Kept damp until it is loaded' },
    ],
  },
  requires: [{ stage: 'pad', of: 'same', force: 'hard', why: 'nothing is poured yet' }],
}

/** Which clock a cast foundation runs, by the limit that holds its days; sand and cement set under their own weight. */
const clockOf = (foundation: string, machine: boolean) =>
  foundation === 'footing' ? 'cureUnits' : foundation === 'lean-concrete' ? (machine ? 'cureLeanHeavy' : 'cureLean') : undefined

/**
 * Stages on a cast foundation since rule table 3: its measures, its clock and its curing are the foundation's, whatever stands on it.
 *
 * @param machine - are the units set by one?
 * @example withConcrete(stages, 'lean-concrete', true).find((s) => s.id === 'units')?.requires
 */
export function withConcrete(stages: readonly Stage[], foundation: string, machine: boolean): readonly Stage[] {
  const days = clockOf(foundation, machine)
  if (!days) return stages
  const footing = foundation === 'footing'
  return stages.flatMap((s): Stage[] => {
    if (s.id === 'pad') return [footing ? measured(withoutCure(s)) : s, damp]
    if (footing && s.id === 'bars') return [measured(s)]
    if (s.id !== 'units') return [s]
    const clock: Requirement = { stage: 'pad', of: 'same', force: 'soft', days, why: 'concrete cures before it is loaded' }
    return [
      {
        ...s,
        requires: [
          ...s.requires.filter((r) => !(r.stage === 'pad' && r.days !== undefined)),
          clock,
          { stage: 'damp', of: 'same', force: 'soft', why: 'nobody has said that the concrete was kept damp' },
        ],
      },
    ]
  })
}
/** That it is kept damp is looked at after the pour, not with it. */
const withoutCure = (s: Stage): Stage =>
  s.work.type === 'check' ? { ...s, work: { ...s.work, items: s.work.items.filter((i) => i.id !== 'cured') } } : s
const measured = (s: Stage): Stage => {
  const more = MEASURES[s.id]
  if (!more || s.work.type !== 'check') return s
  const own = s.work.measures ?? []
  return { ...s, work: { ...s.work, measures: [...own, ...more.filter((m) => !own.some((o) => o.id === m.id))] } }
}
