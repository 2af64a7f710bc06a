import {
  ANSWERED_BY,
  type Answer,
  formatLength,
  type Plan,
  type Problem,
  parseAmount,
  SOIL_CLASSES,
  type SoilClass,
  type UnitSystem,
  WALL_FACTS,
  type WallFact,
} from '@stone-tally/core'
import type { Draft, Line } from './draft-fields'
import { shownAs } from './part'

/** Who signs for the wall, what was asked first, and the soil somebody said, as texts of the form. */
export type Signed = Pick<
  Draft,
  | 'engineerLicence'
  | 'engineerOn'
  | 'coversHeight'
  | 'coversFrom'
  | 'coversTo'
  | 'coversFacts'
  | 'asked'
  | 'soilBehind'
  | 'soilBelow'
  | 'soilBy'
  | 'edge'
>

/** An answer nobody gave yet, to these facts. */
export const newAnswer = (facts: readonly WallFact[]): Line => ({
  cells: { facts: facts.join(','), who: '', as: 'authority', on: '', reference: '', question: '', may: 'yes' },
})

export function signedTexts(plan: Partial<Plan>, units: UnitSystem): Signed {
  const length = (m: number | undefined) => (m === undefined ? '' : units === 'metric' ? `${m}` : formatLength(m, units))
  const c = plan.engineerCovers
  return {
    engineerLicence: plan.engineerLicence ?? '',
    engineerOn: plan.engineerOn ?? '',
    coversHeight: shownAs('length', c?.height, units),
    coversFrom: length(c?.from),
    coversTo: length(c?.to),
    coversFacts: c?.facts.join(',') ?? '',
    asked: (plan.asked ?? []).map((a, was) => ({
      was,
      cells: {
        facts: a.facts.join(','),
        who: a.who,
        as: a.as,
        on: a.on ?? '',
        reference: a.reference ?? '',
        question: a.question ?? '',
        may: a.may ? 'yes' : 'no',
      },
    })),
    soilBehind: plan.soil?.behind ?? '',
    soilBelow: plan.soil?.below ?? '',
    soilBy: plan.soil?.by ?? '',
    edge: plan.edge ?? '',
  }
}

/** @example factsRead('pool,fence-open') // ['fence-open', 'pool'] */
export const factsRead = (text: string): WallFact[] => WALL_FACTS.filter((f) => text.split(',').includes(f))
const soilOf = (text: string): SoilClass | undefined => SOIL_CLASSES.find((s) => s === text)

/** What was typed of it, as the plan has it; what nobody touched stays to the last digit. */
export function signedRead(
  draft: Draft,
  shown: Draft | undefined,
  base: Plan | undefined,
  units: UnitSystem,
  /** Of the wall, m: what a plan covers where nobody says how far. */
  length: number,
  problems: Problem[],
): Pick<Plan, 'engineerLicence' | 'engineerOn' | 'engineerCovers' | 'asked' | 'soil' | 'edge'> {
  const metres = (field: 'coversHeight' | 'coversFrom' | 'coversTo', own: number | undefined): number => {
    if (shown && own !== undefined && draft[field] === shown[field]) return own
    if (field !== 'coversHeight' && draft[field].trim() === '') return field === 'coversFrom' ? 0 : length
    const read = parseAmount(draft[field], 'length', units)
    if (read.ok) return read.value
    problems.push({
      field,
      message: draft[field].trim() === '' ? 'is missing; say what the plan covers' : (read.problems[0]?.message ?? 'is not a length'),
    })
    return Number.NaN
  }
  const own = base?.engineerCovers
  const covers = [draft.coversHeight, draft.coversFacts].some((t) => t.trim() !== '')
  const soil = {
    ...(soilOf(draft.soilBehind) ? { behind: soilOf(draft.soilBehind) } : {}),
    ...(soilOf(draft.soilBelow) ? { below: soilOf(draft.soilBelow) } : {}),
    ...(draft.soilBy.trim() ? { by: draft.soilBy.trim() } : {}),
  }
  const asked = draft.asked.map(({ cells: c }): Answer => {
    const text = (name: string) => (c[name] ?? '').trim()
    return {
      facts: factsRead(text('facts')),
      who: text('who'),
      as: ANSWERED_BY.find((a) => a === text('as')) ?? 'authority',
      ...(text('on') ? { on: text('on') } : {}),
      ...(text('reference') ? { reference: text('reference') } : {}),
      ...(text('question') ? { question: text('question') } : {}),
      may: text('may') !== 'no',
    } as Answer
  })
  const edge = draft.edge === 'people' || draft.edge === 'nobody' ? draft.edge : undefined
  return {
    engineerLicence: draft.engineerLicence.trim() || undefined,
    engineerOn: draft.engineerOn.trim() || undefined,
    engineerCovers: covers
      ? {
          height: metres('coversHeight', own?.height),
          from: metres('coversFrom', own?.from),
          to: metres('coversTo', own?.to),
          facts: factsRead(draft.coversFacts),
        }
      : undefined,
    asked: asked.length > 0 ? asked : undefined,
    soil: Object.keys(soil).length > 0 ? (soil as NonNullable<Plan['soil']>) : undefined,
    edge,
  } as never
}
