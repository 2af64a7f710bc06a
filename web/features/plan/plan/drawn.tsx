'use client'

import { formatLength, type Handle, type Layout, say } from '@stone-tally/core'
import { LongSection } from '@/features/plan/set-out/long-section'
import { Caution } from '@/ui/controls'
import { Elevation } from '@/ui/drawing/elevation'
import { useWidth } from '@/ui/drawing/use-width'
import { usePreferences } from '@/ui/preferences'
import { Table } from '@/ui/table'
import { Takes } from '@/ui/takes'
import { useMatches } from '@/ui/use-matches'
import { Effect } from './effect'
import { problemSaid } from './labels'
import { RoughSection } from './rough-section'
import type { SubjectId } from './subjects'
import type { PlanForm } from './use-plan-form'

/** What is moved on the drawing where a subject is asked about. */
const MOVED: Readonly<Partial<Record<SubjectId, readonly Handle['of'][]>>> = {
  line: [],
  ground: ['toe', 'top'],
  pad: ['step'],
  water: ['outlet'],
  grid: ['layer'],
  built: ['opening'],
}
const HANDS: Readonly<Partial<Record<SubjectId, string>>> = {
  ground: 'Drag the round points to change a grade, or move them with the arrow keys.',
  pad: 'Drag a bar to move a pad step along; it only ever gets deeper.',
  water: 'Drag a triangle to move an outlet.',
  grid: 'Drag a diamond to move a layer to another course.',
  built: 'Drag a square to move an opening.',
}

/** The wall as it is typed, drawn and counted; what the subject is about is moved on the drawing itself. */
export function Drawn({
  of,
  subject,
  readOnly,
  before,
}: {
  of: PlanForm
  subject: SubjectId | undefined
  readOnly: boolean
  /** The wall as it was issued last, where this is its revision. */
  before?: Layout | undefined
}) {
  const { units } = usePreferences()
  const [ref, width] = useWidth<HTMLDivElement>(1140)
  const { layout, problems } = of
  // While a field is wrong the plan of before is looked at, not moved.
  const edits = of.edits ?? of.lastEdits
  const still = readOnly || of.edits === undefined
  const narrow = useMatches('(max-width: 640px)')
  const first = problems[0]
  const problem = first && problemSaid(first.field, first.message, of.system)
  if (!layout)
    return (
      <div ref={ref}>
        <RoughSection grades={of.draft.grades} units={of.units} width={Math.min(width, 1140)} />
        <p style={{ color: 'var(--soft)' }}>The wall is drawn here as soon as the plan makes one. {problem ? `Next: ${say(problem, units)}` : ''}</p>
      </div>
    )
  const hands = subject && HANDS[subject]
  return (
    <div ref={ref}>
      {problem ? (
        <p style={{ margin: '0 0 6px' }}>
          <strong>▲ {say(problem, units)}.</strong> <span style={{ color: 'var(--soft)' }}>The drawing shows the plan before that.</span>
        </p>
      ) : null}
      <Elevation
        layout={layout}
        width={width}
        height={Math.min(narrow ? 170 : 360, Math.max(110, Math.round((width / (layout.plan.length + 1)) * 4) + 20))}
        from={-0.5}
        to={layout.plan.length + 0.5}
        units={units}
        label="The wall as planned"
      />
      {edits && (subject === undefined || (MOVED[subject]?.length ?? 0) > 0) ? (
        <>
          <div style={{ height: 8 }} />
          <LongSection
            draft={edits}
            width={Math.max(280, width)}
            height={190}
            units={units}
            readOnly={still}
            only={subject && MOVED[subject]}
            before={before}
          />
          {hands && !readOnly ? <p style={{ color: 'var(--soft)', fontSize: 15, margin: '4px 0 0' }}>{hands}</p> : null}
        </>
      ) : null}
      {of.progress === undefined ? null : <p role="status">Laying out {Math.round(of.progress * 100)} %</p>}
      <Effect layout={layout} subject={subject ?? ''} />
      <Cautions layout={layout} folded={narrow === true && subject !== undefined} />
      <Counted layout={layout} open={subject === undefined} />
    </div>
  )
}

/** What a person must know of the plan; on a phone folded, since the question comes first there. */
function Cautions({ layout, folded }: { layout: Layout; folded: boolean }) {
  const { units } = usePreferences()
  const list = layout.cautions.map((c) => <Caution key={`${c.id} ${c.message}`}>{say(c.message, units)}</Caution>)
  const stops = layout.cautions.filter((c) => c.blocks).length
  if (!folded || list.length === 0) return <>{list}</>
  return (
    <details>
      <summary style={{ minHeight: 48, cursor: 'pointer', display: 'list-item', paddingTop: 12 }}>
        ▲ {list.length} {list.length === 1 ? 'thing' : 'things'} to know{stops > 0 ? `, ${stops} before the dig` : ''}
      </summary>
      {list}
    </details>
  )
}

const many = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`

/** Pad steps and what the wall takes, as tables. */
function Counted({ layout, open }: { layout: Layout; open: boolean }) {
  const { units } = usePreferences()
  const { thickness } = layout.building.foundation
  return (
    <details open={open} style={{ marginTop: 8 }}>
      <summary style={{ minHeight: 48, cursor: 'pointer' }}>
        {many(layout.courses.length, 'course')}, {many(layout.steps.length, 'pad step')}, buried {formatLength(layout.buried.depth, units, 2)} or more
      </summary>
      <Table
        label="Pad steps"
        rows={layout.steps}
        id={(s) => s.start}
        columns={[
          {
            head: 'Pad step',
            cell: (s) => (
              <>
                {formatLength(s.start, units, 2)} to {formatLength(s.end, units, 2)}
              </>
            ),
          },
          { head: 'Pad top', cell: (s) => formatLength(s.elevation, units) },
          { head: 'Bottom of dig', cell: (s) => formatLength(s.elevation - thickness, units) },
          { head: 'Below benchmark', cell: (s) => formatLength(layout.plan.benchmark.elevation - s.elevation + thickness, units) },
        ]}
      />
      <Takes layout={layout} />
    </details>
  )
}
