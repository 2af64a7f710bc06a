'use client'

import {
  type Adopted,
  alignmentOf,
  formatLength,
  type Layout,
  layOut,
  type Plan,
  type Problem,
  SYSTEMS,
  startPlan,
  withLine,
} from '@stone-tally/core'
import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { LinePanel } from '@/features/plan/set-out/line-panel'
import { PlanView } from '@/features/plan/set-out/plan-view'
import { lineOf, useDraft } from '@/features/plan/set-out/use-draft'
import { NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { useWidth } from '@/ui/drawing/use-width'
import { usePreferences } from '@/ui/preferences'

const Beside = styled.div`display: grid; gap: 18px; grid-template-columns: minmax(0, 1fr) 420px; align-items: start; @media (max-width: 900px) { grid-template-columns: minmax(0, 1fr); }`
const BEGIN = 12

/** A wall of no heights worth speaking of, so that there is a line to draw. */
function beginning(from: Adopted | undefined): { plan: Plan; layout: Layout } {
  const straight = startPlan(SYSTEMS[0] as (typeof SYSTEMS)[number], BEGIN)
  const line = from?.alignment
  const plan = line ? withLine(straight, line.vertices as never, line.closed ?? false) : straight
  const laid = layOut(plan)
  if (!laid.ok) throw new Error(laid.problems[0]?.message)
  return { plan, layout: laid.value }
}

/** The line of a wall that is not there yet: points are dragged, put between others, or typed. */
export function SketchLine({ from, onTake, onBack }: { from: Adopted | undefined; onTake(line: Adopted): void; onBack(): void }) {
  const { units } = usePreferences()
  const begin = useMemo(() => beginning(from), [from])
  const draft = useDraft(begin.plan, begin.layout)
  const [selected, setSelected] = useState(1)
  const [box, width] = useWidth<HTMLDivElement>(760)
  const line = lineOf(draft.plan)
  const made = alignmentOf(line.vertices as never, line.closed)
  const problems: readonly Problem[] = made.ok ? [] : made.problems
  return (
    <Beside>
      <div ref={box}>
        <PlanView
          draft={draft}
          width={Math.max(280, width)}
          height={Math.max(320, Math.round(width * 0.62))}
          units={units}
          clear={[]}
          selected={selected}
          onSelect={(i) => setSelected(i ?? 0)}
          course={1}
          snap={false}
          readOnly={false}
        />
      </div>
      <Stack>
        <p>
          Drag the points, or choose one and type it; “One more point” puts another at the end, “Point in between” one after the chosen. The fill lies
          on the left of the line as it runs from point 1.
        </p>
        <LinePanel draft={draft} units={units} selected={selected} onSelect={setSelected} readOnly={false} />
        <Problems list={problems} />
        <Row>
          <NowButton
            isDisabled={!made.ok}
            onPress={() =>
              made.ok &&
              onTake({
                length: Math.round(made.value.length * 1e6) / 1e6,
                alignment: { vertices: line.vertices as never, closed: line.closed },
                notes: [],
              })
            }
          >
            {made.ok ? `Take this line, ${formatLength(made.value.length, units, 2)}` : 'Take this line'}
          </NowButton>
          <Quiet isDisabled={!draft.canUndo} onPress={draft.undo}>
            Undo
          </Quiet>
          <Quiet isDisabled={!draft.canRedo} onPress={draft.redo}>
            Redo
          </Quiet>
        </Row>
        <Row>
          <Quiet onPress={onBack}>Another way in</Quiet>
        </Row>
      </Stack>
    </Beside>
  )
}
