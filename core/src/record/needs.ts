import { said } from '../base/said'
import { stationsOver } from '../geometry'
import { identifySoil, type SoilAnswers, type SoilFinding } from '../ground'
import { cutTopAt, type Stretch, turnsOf } from '../layout'
import { limitsOf, since, tableOf } from '../rules'
import { formatSlope } from '../units/slope'
import type { RecordedEntry } from './entry'
import { type CutData, cutDepth, type SoilData } from './kinds'
import type { WallState } from './state'
import { type Step, stepKey } from './step'

/** Kinds that a stage may need from elsewhere in its section: when one comes in, the stage is looked at again. */
export const NEEDED: ReadonlySet<string> = new Set(['soil', 'cut', 'undercut', 'clearance'])

/** By which rule table a fact was recorded: that of its own revision. */
export const tableAt = (state: WallState, { entry }: RecordedEntry): number => tableOf(state.layouts[entry.revision - 1]?.plan ?? state.layout.plan)

/** Was it released under earlier rules? What lies under a pad is not asked about again because rules changed. */
const releasedBefore = (state: WallState, step: Step) =>
  (state.logs.get(step.key)?.releases ?? []).some(
    (e) =>
      !state.superseded.has(e.entry.id) &&
      (e.entry.data as { decision?: string }).decision === 'released' &&
      tableAt(state, e) < tableOf(state.layout.plan),
  )

/** Facts of a kind that stand in a section, whichever stage they were recorded at. */
function here(state: WallState, section: string | undefined, kind: string): RecordedEntry[] {
  const stages = state.layout.system.stages.filter((s) => s.scope === 'section')
  return stages
    .flatMap((s) => state.logs.get(stepKey({ stage: s.id, section }))?.work ?? [])
    .filter((e) => e.entry.kind === kind && !state.superseded.has(e.entry.id))
    .sort((a, b) => a.seq - b.seq)
}

interface Judged extends Stretch {
  readonly place?: 'floor' | 'sides' | undefined
  readonly finding: SoilFinding
  readonly answers: SoilAnswers
}

/**
 * What a stage still needs to know of the ground, in words: the soil all along its section, and the cut where it is deep enough to bury
 * somebody, held as the soil found in it asks for. Nothing under rule table 1.
 *
 * @example needsOf(state, step) // ['the soil from 4.50 to 9.00']
 */
export function needsOf(state: WallState, step: Step): string[] {
  const needs = step.stage.needs ?? []
  const { plan } = state.layout
  if (needs.length === 0 || tableOf(plan) === 1 || step.section === undefined) return []
  const own = plan.sections.find((s) => s.id === step.section)
  if (!own || releasedBefore(state, step)) return []
  const soils = here(state, step.section, 'soil').map(({ entry }): Judged => {
    const d = entry.data as SoilData
    return {
      from: d.from,
      to: d.to,
      place: d.place,
      answers: d.answers,
      finding: identifySoil(d.answers, tableOf(state.layouts[entry.revision - 1]?.plan ?? plan)),
    }
  })
  const words: string[] = []
  if (needs.includes('soil')) {
    // What stopped the work was made safe by name; what it is to build on is still to be judged.
    const gaps = uncovered(
      own,
      soils.filter((s) => !s.finding.stop && s.place !== 'sides'),
    )
    for (const g of gaps) words.push(`the soil from ${said.station(g.from)} to ${said.station(g.to)}`)
  }
  if (needs.includes('cut')) words.push(...cutNeeds(state, step.section, own, soils))
  return words
}

function cutNeeds(state: WallState, section: string, own: Stretch, soils: readonly Judged[]): string[] {
  const { layout } = state
  const limits = limitsOf(layout.plan)
  const deep = turnsOf(layout.plan, layout.steps, own)
    .map((t) => ({ station: t.station, depth: cutTopAt(layout.plan, t.station) - t.pad + layout.building.foundation.thickness }))
    .reduce((a, b) => (b.depth > a.depth ? b : a))
  if (deep.depth <= limits.shoreAbove.value + 1e-6) return []
  const cuts = new Map<string, { station: number; data: CutData }>()
  for (const { entry } of here(state, section, 'cut')) {
    const station = entry.where.station ?? own.from
    cuts.set(station.toFixed(2), { station, data: entry.data as CutData })
  }
  if (![...cuts.values()].some((c) => cutDepth(layout, c.station) > limits.shoreAbove.value + 1e-6)) {
    return [
      `the cut, ${said.length(deep.depth, 2)} deep at ${said.station(deep.station)}: how it is held, water, spoil, plant, the way out, who judged it`,
    ]
  }
  if (since(layout.plan, 3)) return cutNeedsByStretch(state, section, own, soils)
  const words: string[] = []
  for (const { station, data } of cuts.values()) {
    if (cutDepth(layout, station) <= limits.shoreAbove.value + 1e-6 || data.shored) continue
    // A class given by a name does not stand against what was found in the same cut.
    const found = soils.filter((s) => station >= s.from - 0.05 && station <= s.to + 0.05).pop()?.finding
    if (!found || found.class === 'lean-clay' || found.class === 'fat-clay') continue
    const steep = !data.benched && (data.slope ?? 0) < limits.cutSlope.value - 1e-6
    if (steep || data.benched) {
      words.push(
        `the cut at ${said.station(station)}: ${found.meaning.name.toLowerCase()} was found there, which ${data.benched ? 'does not stand in benches' : `stands no steeper than ${limits.cutSlope.value} across per m up`}`,
      )
    }
  }
  return words
}

/** May the sides stand as stiff clay does, by what was found in them? Soft, wet, pumping, swelling, tipped or unsure is never stiff clay. */
const stiff = (found: Judged | undefined) =>
  found?.finding.class === 'lean-clay' &&
  (found.answers.firm === 'hard' || found.answers.firm === 'firm') &&
  (found.answers.water === 'dry' || found.answers.water === 'moist')

/**
 * What the cut of a section still needs since rule table 3, in words: every stretch where it is deep enough to bury somebody, each held as the
 * soil found there asks for. One entry speaks for ten metres at most, and for one soil.
 */
function cutNeedsByStretch(state: WallState, section: string, own: Stretch, soils: readonly Judged[]): string[] {
  const { layout } = state
  const limits = limitsOf(layout.plan)
  const soilAt = (station: number) => soils.filter((s) => s.place !== 'floor' && station >= s.from - 0.05 && station <= s.to + 0.05).pop()
  // The last word on each place counts.
  const last = new Map<string, { station: number; from: number; to: number; data: CutData }>()
  for (const { entry } of here(state, section, 'cut')) {
    const data = entry.data as CutData
    const station = entry.where.station ?? own.from
    const half = limits.cutEvery.value / 2
    const from = data.from ?? station - half
    const to = Math.min(data.to ?? station + half, from + limits.cutEvery.value)
    last.set(station.toFixed(2), { station, from, to, data })
  }
  const looks = [...last.values()]
  const bare: number[] = []
  const words: string[] = []
  const told = new Set<string>()
  for (const station of stationsOver(own.from, own.to, 0.5)) {
    if (cutDepth(layout, station) <= limits.shoreAbove.value + 1e-6) continue
    const soil = soilAt(station)
    // A look at one soil says nothing of another.
    const look = looks
      .filter((l) => station >= l.from - 0.05 && station <= l.to + 0.05 && soilAt(l.station)?.finding.class === soil?.finding.class)
      .pop()
    if (!look) {
      bare.push(station)
      continue
    }
    const { data } = look
    if (data.shored) continue
    const firm = stiff(soil)
    const byName = firm && data.soil === 'stiff-clay' && data.sound === true && data.water === false && !!data.by?.trim()
    const least = byName ? limits.cutStiffClay.value : limits.cutSlope.value
    const steep = !data.benched && (data.slope ?? 0) < least - 1e-6
    if (!steep && !(data.benched && !firm)) continue
    const name = soil
      ? `${soil.finding.meaning.name.toLowerCase()}${firm ? '' : softly(soil)} was found there`
      : 'nobody has said which soil is there'
    const key = `${look.station} ${name}`
    if (told.has(key)) continue
    told.add(key)
    words.push(
      `the cut at ${said.station(look.station)}: ${name}, which ${data.benched ? 'does not stand in benches' : `stands no steeper than ${formatSlope(least)}`}`,
    )
  }
  if (bare.length > 0)
    words.unshift(
      `the cut from ${said.station(Math.min(...bare))} to ${said.station(Math.max(...bare))}, over ${said.given(limits.shoreAbove.value)} deep: how it is held, water, spoil, plant, the way out, who judged it; one look speaks for ${said.given(limits.cutEvery.value)} and one soil`,
    )
  return words
}
const softly = ({ answers }: Judged) =>
  answers.water === 'wet' || answers.water === 'seeping' ? ', wet,' : answers.firm === 'soft' || answers.firm === 'pumps' ? ', soft,' : ''

/** Stretches of a section that a list does not cover. */
export function uncovered(section: Stretch, laid: readonly { from?: number | undefined; to?: number | undefined }[]): { from: number; to: number }[] {
  const gaps: { from: number; to: number }[] = []
  let at = section.from
  for (const d of [...laid].sort((a, b) => (a.from ?? section.from) - (b.from ?? section.from))) {
    const from = d.from ?? section.from
    if (from >= section.to) break
    if (from > at + 0.05) gaps.push({ from: at, to: Math.min(from, section.to) })
    at = Math.max(at, d.to ?? section.to)
  }
  if (section.to > at + 0.05) gaps.push({ from: at, to: section.to })
  return gaps
}
