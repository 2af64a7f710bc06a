'use client'

import { formatAmount, layOut, type Plan, type Result, say, type Way, wayOf } from '@stone-tally/core'
import { useState } from 'react'
import { Button, Caution, Quiet, Row, Stack, Wide } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { useHydrated } from '@/ui/use-hydrated'

/** A way of building the same wall: what it is called, and the plan it makes. */
export interface Variant {
  readonly id: string
  readonly title: string
  plan(): Result<Plan>
}
const MOST = 3
const ROWS: readonly (readonly [keyof Way, string, 'm³' | ''])[] = [
  ['courses', 'Courses', ''],
  ['units', 'Units to set', ''],
  ['cuts', 'Cuts', ''],
  ['padSteps', 'Pad steps', ''],
  ['dig', 'Dig', 'm³'],
  ['pad', 'Pad', 'm³'],
  ['stone', 'Drainage stone', 'm³'],
  ['backfill', 'Backfill', 'm³'],
  ['layers', 'Layers of geogrid', ''],
  ['days', 'Working days, one crew', ''],
  ['loads', 'Lorries of 18 t', ''],
]

/** Two or three ways of the same wall side by side: what each takes; one is kept, the others stay as they were. */
export function CompareWays({ now, variants, onKeep }: { now: Plan | undefined; variants: readonly Variant[]; onKeep(id: string): void }) {
  const { units } = usePreferences()
  const [chosen, setChosen] = useState<readonly string[]>([])
  const here = useHydrated()
  if (!here || !now || variants.length === 0) return null
  const today = new Date().toISOString().slice(0, 10)
  const own = layOut(now)
  const list = chosen.flatMap((id) => variants.filter((v) => v.id === id))
  const made = list.map((v) => {
    const plan = v.plan()
    const laid = plan.ok ? layOut(plan.value) : plan
    return {
      v,
      way: laid.ok ? wayOf(laid.value, today) : undefined,
      why: laid.ok ? undefined : `${laid.problems[0]?.field ?? ''} ${laid.problems[0]?.message ?? ''}`,
    }
  })
  const ways = [
    ...(own.ok ? [{ title: 'As planned', id: '', way: wayOf(own.value, today) }] : []),
    ...made.flatMap((m) => (m.way ? [{ title: m.v.title, id: m.v.id, way: m.way }] : [])),
  ]
  const number = (v: number, of: string) => (of === 'm³' ? formatAmount({ value: v, unit: 'm³' }, units) : `${Math.round(v * 10) / 10}`)
  return (
    <Stack role="group" aria-label="Ways compared">
      <Row style={{ gap: 6 }}>
        {variants.map((v) => (
          <Quiet
            key={v.id}
            aria-pressed={chosen.includes(v.id)}
            isDisabled={!chosen.includes(v.id) && chosen.length >= MOST - 1}
            onPress={() => setChosen(chosen.includes(v.id) ? chosen.filter((c) => c !== v.id) : [...chosen, v.id])}
          >
            {chosen.includes(v.id) ? '● ' : ''}
            {v.title}
          </Quiet>
        ))}
      </Row>
      {made.flatMap((m) =>
        m.why
          ? [
              <Caution key={m.v.id}>
                ▲ {m.v.title}: {say(m.why, units)}.
              </Caution>,
            ]
          : [],
      )}
      {ways.length > 1 ? (
        <Wide role="region" aria-label="What each way takes" tabIndex={0}>
          <table>
            <thead>
              <tr>
                <th>It takes</th>
                {ways.map((w) => (
                  <th key={w.id} className="n">
                    {w.title}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {ROWS.map(([id, title, of]) => {
                const least = Math.min(...ways.map((w) => w.way[id]))
                return (
                  <tr key={id}>
                    <td>{title}</td>
                    {ways.map((w) => (
                      <td key={w.id} className="n">
                        {w.way[id] <= least + 1e-9 && ways.some((o) => o.way[id] > least + 1e-9) ? (
                          <strong>{number(w.way[id], of)}</strong>
                        ) : (
                          number(w.way[id], of)
                        )}
                      </td>
                    ))}
                  </tr>
                )
              })}
              <tr>
                <td>The least of each stands in bold</td>
                {ways.map((w) => (
                  <td key={w.id} className="n">
                    {w.id ? <Button onPress={() => onKeep(w.id)}>Keep {w.title}</Button> : null}
                  </td>
                ))}
              </tr>
            </tbody>
          </table>
        </Wide>
      ) : null}
    </Stack>
  )
}
