'use client'

import type { Clearance, UnitSystem } from '@stone-tally/core'
import { say } from '@stone-tally/core'
import { Button, Choice, Field, Quiet, Small, Stack } from '@/ui/controls'
import { withoutObstacle } from './around'
import { Openings } from './openings'
import { Pair } from './typed'
import { useAround } from './use-around'
import type { Draft } from './use-draft'

/** What the wall is measured from and what stands around it, with the clearances. */
export function AroundPanel({
  draft,
  units,
  clear,
  readOnly,
}: {
  draft: Pick<Draft, 'plan' | 'layout' | 'edit'>
  units: UnitSystem
  clear: readonly Clearance[]
  readOnly: boolean
}) {
  const of = useAround(units, draft.edit)
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
              <Quiet onPress={() => draft.edit((p) => withoutObstacle(p, draft.layout.plan, c.obstacle))} aria-label={`Take out ${c.name}`}>
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
              {r.name} <Small style={{ display: 'inline' }}>({r.kind.replace('-', ' ')})</Small>
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
            value={of.typed.kind}
            options={[
              ['tree', 'Tree'],
              ['service', 'Service'],
              ['structure', 'Structure'],
              ['building-line', 'Building line'],
              ['string', 'String'],
              ['benchmark', 'Benchmark'],
            ]}
            onChange={(kind) => of.set('kind', kind)}
          />
          <Field label="Name" value={of.typed.name} onChange={(name) => of.set('name', name)} error={of.wrong('name')} />
          <Field
            label="Points: east north, one a line"
            value={of.typed.points}
            onChange={(points) => of.set('points', points)}
            long
            error={of.wrong('points')}
          />
          {of.reference ? null : (
            <Pair>
              <Field
                label="Radius"
                value={of.typed.radius}
                onChange={(radius) => of.set('radius', radius)}
                hint="for a single point"
                error={of.wrong('radius')}
              />
              <Field label="Keep clear" value={of.typed.clearance} onChange={(far) => of.set('clearance', far)} error={of.wrong('clearance')} />
            </Pair>
          )}
          <div>
            <Button onPress={of.add}>Add</Button>
          </div>
        </>
      )}
    </Stack>
  )
}
