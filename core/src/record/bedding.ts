import { said } from '../base/said'
import { expectedAt } from '../forecast'
import { limitsOf } from '../rules'
import { statusOf } from './fold'
import { growthReport } from './growth-report'
import type { UnitLevelData } from './kinds'
import { live, type WallState } from './state'
import { limitAt } from './target'

/** What to do with one unit of the first course, and what it becomes if it is left alone. */
export interface UnitAdvice {
  /** Number of the unit in its section, from the lower station. */
  readonly unit: number
  readonly from: number
  readonly to: number
  readonly what: string
  /** At the top of the wall, in words. */
  readonly left: string
}

const mm = (v: number) => said.small(Math.abs(v))

/**
 * Which units of a course on the pad to lift or knock, by how much, from the level readings and the spirit level on single units.
 *
 * @param course - the lowest of the section when left out
 * @example beddingAdvice(state, 'B')[0] // { unit: 12, what: 'Knock the back down 3 mm.', … }
 */
export function beddingAdvice(state: WallState, section: string, course?: number): UnitAdvice[] {
  const { layout } = state
  const advice: UnitAdvice[] = []
  const first = [...layout.cells.values()].find((c) => c.section === section && (course === undefined ? c.first : c.course === course))
  if (!first) return advice
  const unit = layout.building.course(first.course)
  const rocks = limitsOf(layout.plan).unitLevel.value
  const height = Math.max(...layout.courses.map((c) => c.top)) - Math.min(...layout.courses.map((c) => c.bottom))
  const growth = growthReport(state, section, 'level')
  const steps = state.steps.filter(
    (s) => s.section === section && s.course === first.course && s.stage.work.type === 'readings' && s.stage.work.target === 'course-top',
  )
  for (const step of steps) {
    for (const r of statusOf(state, step).read) {
      const verdict = r.entry && state.outs.get(r.entry.entry.id)
      if (!r.entry || verdict?.deviation === undefined) continue
      const limit = limitAt(layout, step.stage, { section, course: first.course, station: r.station }).value
      const index = first.pieces.findIndex((p) => r.station >= p.start - 1e-6 && r.station <= p.to + 1e-6)
      const piece = first.pieces[index]
      if (!piece) continue
      const column = growth.columns.find((c) => Math.abs(c.station - r.station) < 0.01)
      const top = column ? expectedAt(column.growth, column.growth.top) : undefined
      advice.push({
        unit: index + 1,
        from: piece.start,
        to: piece.to,
        what: `${verdict.deviation > 0 ? 'Knock it down' : 'Lift it'} ${mm(verdict.deviation)}; ${mm(limit)} either way is allowed.`,
        left: top ? `Left alone the top is about ${mm(top.deviation)} ${top.deviation > 0 ? 'high' : 'low'}, give or take ${mm(top.band)}.` : '',
      })
    }
    for (const e of state.logs.get(step.key)?.work ?? []) {
      if (e.entry.kind !== 'unit-level' || !live(state, e.entry.id)) continue
      // A newer reading of the same unit replaces it.
      const d = e.entry.data as UnitLevelData
      const newer = state.logs
        .get(step.key)
        ?.work.some(
          (o) => o.entry.kind === 'unit-level' && o.seq > e.seq && live(state, o.entry.id) && (o.entry.data as UnitLevelData).unit === d.unit,
        )
      const piece = first.pieces[d.unit - 1]
      if (newer || !piece) continue
      const { along = 0, across = 0, diagonal = 0 } = d
      const parts: string[] = []
      if (Math.abs(along) > rocks) parts.push(`knock down the ${along > 0 ? 'end of higher' : 'end of lower'} stations ${mm(along)}`)
      if (Math.abs(across) > rocks) parts.push(`knock down the ${across > 0 ? 'back' : 'front'} ${mm(across)}`)
      if (parts.length === 0 && Math.abs(diagonal) > rocks) parts.push(`it rocks corner to corner: lift it and dress the bed ${mm(diagonal)}`)
      if (parts.length === 0) continue
      const text = parts.join(', ')
      const lean = (across / unit.depth) * height
      advice.push({
        unit: d.unit,
        from: piece.start,
        to: piece.to,
        what: `${text[0]?.toUpperCase()}${text.slice(1)}.`,
        left: Math.abs(lean) > 0.001 ? `Left alone the top here stands ${mm(lean)} ${lean > 0 ? 'further out' : 'further back'}.` : '',
      })
    }
  }
  return advice.sort((a, b) => a.unit - b.unit)
}
