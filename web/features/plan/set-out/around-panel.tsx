'use client'

import type { Clearance, Plan, UnitSystem } from '@stone-tally/core'
import { say } from '@stone-tally/core'
import { useState } from 'react'
import { Button, Choice, Field, Quiet, Small, Stack } from '@/ui/controls'
import { Openings } from './openings'
import { lengthOf, Pair } from './typed'
import type { Draft } from './use-draft'

type Obstacle = NonNullable<Plan['obstacles']>[number]
type Reference = NonNullable<Plan['references']>[number]

/** What the wall is measured from and what stands around it, with the clearances. */
export function AroundPanel({ draft, units, clear, readOnly }: { draft: Draft; units: UnitSystem; clear: readonly Clearance[]; readOnly: boolean }) {
  const l = lengthOf(units)
  const [kind, setKind] = useState<Obstacle['kind'] | Reference['kind']>('tree')
  const [name, setName] = useState('')
  const [points, setPoints] = useState('')
  const [radius, setRadius] = useState('')
  const [clearance, setClearance] = useState(units === 'metric' ? '1.5' : `5'`)
  const [wrong, setWrong] = useState<string>()
  const reference = kind === 'building-line' || kind === 'string' || kind === 'benchmark'
  const add = () => {
    const list = points
      .split(/[;\n]/)
      .map((t) => t.trim())
      .filter(Boolean)
      .map((t) => t.split(/\s+/).map((x) => l.read(x)))
    if (name.trim() === '') return setWrong('give it a name')
    if (list.length === 0 || list.some((p) => p.length !== 2 || p.some((x) => !x.ok))) return setWrong('write points as "east north", one a line')
    const at = list.map(([e, n]) => ({ easting: e?.ok ? e.value : 0, northing: n?.ok ? n.value : 0 }))
    const [r, c] = [l.read(radius), l.read(clearance)]
    if (!reference && at.length === 1 && !(r.ok && r.value > 0)) return setWrong('a single point needs a radius')
    setWrong(undefined)
    draft.edit((p) =>
      reference
        ? { ...p, references: [...(p.references ?? []), { name: name.trim(), kind: kind as Reference['kind'], points: at }] }
        : {
            ...p,
            obstacles: [
              ...(p.obstacles ?? []),
              {
                name: name.trim(),
                kind: kind as Obstacle['kind'],
                points: at,
                clearance: c.ok ? c.value : 0,
                ...(r.ok && r.value > 0 ? { radius: r.value } : {}),
              },
            ],
          },
    )
    setName('')
    setPoints('')
  }
  return (
    <Stack>
      <h2>Clearances</h2>
      {clear.length === 0 ? (
        <p style={{ color: 'var(--soft)' }}>
          Nothing stands around yet. Add trees, services and structures, so that the dig is checked against them.
        </p>
      ) : null}
      <ul style={{ margin: 0, padding: 0, listStyle: 'none', display: 'grid', gap: 8 }}>
        {clear.map((c) => (
          <li key={c.obstacle} style={{ display: 'flex', gap: 8, justifyContent: 'space-between', alignItems: 'start' }}>
            <span style={c.ok ? {} : { fontWeight: 600 }}>
              {c.ok ? '✓' : '▲'} {say(c.message, units)}
            </span>
            {readOnly ? null : (
              <Quiet
                onPress={() => draft.edit((p) => ({ ...p, obstacles: (p.obstacles ?? []).filter((_, k) => k !== c.obstacle) }))}
                aria-label={`Take out ${c.name}`}
              >
                ✕
              </Quiet>
            )}
          </li>
        ))}
      </ul>
      <Openings draft={draft} units={units} readOnly={readOnly} />
      <h2>References</h2>
      <ul style={{ margin: 0, padding: 0, listStyle: 'none', display: 'grid', gap: 8 }}>
        {(draft.plan.references ?? []).map((r, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: names may repeat
          <li key={i} style={{ display: 'flex', gap: 8, justifyContent: 'space-between' }}>
            <span>
              {r.name} <Small style={{ display: 'inline' }}>{r.kind.replace('-', ' ')}</Small>
            </span>
            {readOnly ? null : (
              <Quiet
                onPress={() => draft.edit((p) => ({ ...p, references: (p.references ?? []).filter((_, k) => k !== i) }))}
                aria-label={`Take out ${r.name}`}
              >
                ✕
              </Quiet>
            )}
          </li>
        ))}
      </ul>
      {readOnly ? null : (
        <>
          <h2 className="minor">Add</h2>
          <Choice
            label="What"
            hideLabel
            value={kind}
            options={[
              ['tree', 'Tree'],
              ['service', 'Service'],
              ['structure', 'Structure'],
              ['building-line', 'Building line'],
              ['string', 'String'],
              ['benchmark', 'Benchmark'],
            ]}
            onChange={setKind}
          />
          <Field label="Name" value={name} onChange={setName} />
          <Field label="Points: east north, one a line" value={points} onChange={setPoints} long error={wrong} />
          {reference ? null : (
            <Pair>
              <Field label="Radius" value={radius} onChange={setRadius} hint="for a single point" />
              <Field label="Keep clear" value={clearance} onChange={setClearance} />
            </Pair>
          )}
          <div>
            <Button onPress={add}>Add</Button>
          </div>
        </>
      )}
    </Stack>
  )
}
