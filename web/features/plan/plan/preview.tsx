import { formatAmount, formatLength, layOut, type Plan, quantities, type Result, say } from '@stone-tally/core'
import { useMemo, useRef } from 'react'
import styled from 'styled-components'
import { Caution } from '@/ui/controls'
import { Elevation } from '@/ui/drawing/elevation'
import { useWidth } from '@/ui/drawing/use-width'
import { usePreferences } from '@/ui/preferences'
import { Effect } from './effect'

const Wide = styled.div`overflow-x: auto;`

/** What the plan means: drawn and counted. */
export function Preview({
  plan,
  problem,
  issue,
  subject,
}: {
  plan: Plan | undefined
  problem: string | undefined
  issue(p: Plan): Result<Plan>
  subject: string | undefined
}) {
  const { units } = usePreferences()
  const [ref, width] = useWidth<HTMLDivElement>(1140)
  // What was drawn last stays while a field is wrong.
  const last = useRef(plan)
  if (plan) last.current = plan
  const drawn = last.current
  const under = drawn && issue(drawn)
  // biome-ignore lint/correctness/useExhaustiveDependencies: what it is issued under follows from the plan alone
  const laid = useMemo(() => (under?.ok ? layOut(under.value) : undefined), [drawn])
  return (
    <div ref={ref}>
      {laid?.ok && problem ? (
        <p style={{ margin: '0 0 6px' }}>
          <strong>▲ {say(problem, units)}.</strong> <span style={{ color: 'var(--soft)' }}>The drawing shows the plan before that.</span>
        </p>
      ) : null}
      {laid?.ok ? (
        <>
          <Elevation
            layout={laid.value}
            width={width}
            height={Math.max(110, Math.round((width / (laid.value.plan.length + 1)) * 4) + 20)}
            from={-0.5}
            to={laid.value.plan.length + 0.5}
            units={units}
            label="The wall as planned"
          />
          <Effect layout={laid.value} subject={subject ?? ''} />
          {laid.value.cautions.map((c) => (
            <Caution key={c.id}>{say(c.message, units)}</Caution>
          ))}
          <details open={subject === undefined} style={{ marginTop: 8 }}>
            <summary style={{ minHeight: 48, cursor: 'pointer' }}>
              {laid.value.courses.length} courses, {laid.value.steps.length} pad steps, buried {formatLength(laid.value.buried.depth, units, 2)} or
              more
            </summary>
            <Wide>
              <table aria-label="Pad steps">
                <thead>
                  <tr>
                    <th>Pad step</th>
                    <th>Pad top</th>
                    <th>Bottom of dig</th>
                    <th>Below benchmark</th>
                  </tr>
                </thead>
                <tbody>
                  {laid.value.steps.map((s) => (
                    <tr key={s.start}>
                      <td>
                        {formatLength(s.start, units, 2)} to {formatLength(s.end, units, 2)}
                      </td>
                      <td>{formatLength(s.elevation, units)}</td>
                      <td>{formatLength(s.elevation - laid.value.building.foundation.thickness, units)}</td>
                      <td>{formatLength(laid.value.plan.benchmark.elevation - s.elevation + laid.value.building.foundation.thickness, units)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </Wide>
            <Wide>
              <table aria-label="What it takes" style={{ marginTop: 10 }}>
                <thead>
                  <tr>
                    <th>Takes</th>
                    <th>Amount</th>
                    <th>Why</th>
                  </tr>
                </thead>
                <tbody>
                  {quantities(laid.value).map((q) => (
                    <tr key={q.id}>
                      <td>{say(q.name, units)}</td>
                      <td>
                        <strong>{formatAmount(q, units)}</strong>
                      </td>
                      <td style={{ color: 'var(--soft)' }}>{say(q.working, units)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </Wide>
          </details>
        </>
      ) : (
        <p style={{ color: 'var(--soft)' }}>The wall is drawn here as soon as the plan makes one. {problem ? `Next: ${say(problem, units)}` : ''}</p>
      )}
    </div>
  )
}
