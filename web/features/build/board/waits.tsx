'use client'

import { say, stepKey, titleOf } from '@stone-tally/core'
import { usePreferences } from '@/ui/preferences'
import { Pick } from './course-table'
import type { BoardState } from './use-board'

/** Hold points that wait, work that no longer fits its plan, and findings that are open. */
export function Waits({ of: { state, holds, owed, lost, findings, goTo } }: { of: BoardState }) {
  const { units } = usePreferences()
  if (findings.length + holds.length + owed.length + lost.length === 0) return null
  return (
    <div>
      <h2 className="minor">Waits and findings</h2>
      <ul style={{ paddingLeft: 18, margin: '6px 0' }}>
        {holds.map((h) => (
          <li key={h.key}>
            <Pick onPress={() => goTo(h.key)}>⬣ {titleOf(h)}: waits for release</Pick>
          </li>
        ))}
        {owed.map((o) => (
          <li key={o.id}>
            <Pick onPress={() => goTo(o.step.key)}>
              ○ {say(o.message, units)}
              {o.at === 'density' ? ' owed' : ''}: {o.holds ? `${o.before} waits for it` : `before ${o.before.toLowerCase()} is released`}
            </Pick>
          </li>
        ))}
        {lost.map((u) => (
          <li key={`lost ${u.key}`}>
            <Pick onPress={() => goTo(u.key)}>
              ≠ {u.title}
              {u.section ? `, section ${u.section}` : ''}
              {u.course ? ` course ${u.course}` : ''}: {say(u.message, units)}
            </Pick>
          </li>
        ))}
        {findings.map((f) => {
          const at = state.byKey.get(stepKey(f.entry.where))
          return (
            <li key={f.entry.id}>
              <Pick onPress={() => goTo(stepKey(f.entry.where))}>
                ▲ {at ? titleOf(at) : state.byStage.get(f.entry.where.stage ?? '')?.title}: {say(state.outs.get(f.entry.id)?.text ?? '', units)}
              </Pick>
            </li>
          )
        })}
      </ul>
    </div>
  )
}
