'use client'

import { buildingOf, formatLength, type UnitSystem } from '@stone-tally/core'
import { Choice, Quiet, Stack } from '@/ui/controls'
import { setGrade } from './plan-view'
import { lengthOf, Typed } from './typed'
import type { Draft } from './use-draft'

/** Toe and top at stations, as numbers. */
export function GradesPanel({ draft, units, readOnly }: { draft: Draft; units: UnitSystem; readOnly: boolean }) {
  const l = lengthOf(units)
  const { grades } = draft.plan
  const add = () =>
    draft.edit((p) => {
      // In the middle of the longest stretch without a point.
      let widest = 0
      for (let i = 1; i < p.grades.length - 1; i++) {
        const gap = (k: number) => (p.grades[k + 1]?.station ?? 0) - (p.grades[k]?.station ?? 0)
        if (gap(i) > gap(widest)) widest = i
      }
      const [a, b] = [p.grades[widest], p.grades[widest + 1]]
      if (!a || !b) return p
      const half = (x: number, y: number) => Math.round(((x + y) / 2) * 1000) / 1000
      const next = [...p.grades]
      next.splice(widest + 1, 0, { station: half(a.station, b.station), toe: half(a.toe, b.toe), top: half(a.top, b.top) })
      return { ...p, grades: next }
    })
  return (
    <Stack>
      <Choice
        label="The top"
        value={draft.plan.top?.style ?? 'stepped'}
        options={[
          ['stepped', 'Steps'],
          ['level', 'Level'],
          ['cap-following', 'Cap on grade'],
        ]}
        onChange={(style) => !readOnly && draft.edit((p) => ({ ...p, top: { ...p.top, style } }))}
      />
      <Typed
        label="Shortest top step"
        value={draft.plan.top?.minRun ?? buildingOf(draft.plan).foundation.minRun}
        {...l}
        onTake={(minRun) => minRun >= 0 && draft.edit((p) => ({ ...p, top: { style: p.top?.style ?? 'stepped', minRun } }), 'min run')}
        disabled={readOnly}
      />
      {grades.map((g, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a grade point is its place in the list
        <div key={i} style={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr 40px', gap: 8, alignItems: 'end' }}>
          <Typed
            label="Station"
            value={g.station}
            {...l}
            onTake={(station) => i > 0 && i < grades.length - 1 && draft.edit((p) => setGrade(p, i, { station }), `st ${i}`)}
            disabled={readOnly || i === 0 || i === grades.length - 1}
          />
          <Typed label="Toe" value={g.toe} {...l} onTake={(toe) => draft.edit((p) => setGrade(p, i, { toe }), `toe ${i}`)} disabled={readOnly} />
          <Typed label="Top" value={g.top} {...l} onTake={(top) => draft.edit((p) => setGrade(p, i, { top }), `top ${i}`)} disabled={readOnly} />
          {i > 0 && i < grades.length - 1 && !readOnly ? (
            <Quiet
              onPress={() => draft.edit((p) => ({ ...p, grades: p.grades.filter((_, k) => k !== i) }))}
              aria-label={`Take out the grade point at ${formatLength(g.station, units, 2)}`}
            >
              ✕
            </Quiet>
          ) : (
            <span />
          )}
        </div>
      ))}
      {readOnly ? null : (
        <div>
          <Quiet onPress={add}>Add a grade point</Quiet>
        </div>
      )}
    </Stack>
  )
}
