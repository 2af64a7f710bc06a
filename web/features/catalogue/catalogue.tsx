'use client'

import { formatLength, SYSTEMS, say } from '@stone-tally/core'
import { useState } from 'react'
import type { Me } from '@/features/wall'
import type { Listed } from '@/server/catalogue'
import { Bar } from '@/ui/bar'
import { Button, LinkButton, NowButton, Page, Problems, Quiet, Row, Small, Stack } from '@/ui/controls'
import { FileButton } from '@/ui/file-button'
import { OrderedTable } from '@/ui/ordered-table'
import { usePreferences } from '@/ui/preferences'
import { UnitFace } from './unit-face'
import { PROFILE_WORDS, UnitForm } from './unit-form'
import { useCatalogue } from './use-catalogue'

const counted = (n: number, of: string) => `${n} ${of}${n === 1 ? '' : 's'}`

/** The unit catalogue of a company: look, change, add, in and out as CSV. Walls keep the unit they were planned with. */
export function Catalogue({ me, units: listed }: { me: Me; units: readonly Listed[] }) {
  const { units } = usePreferences()
  const { preview, problems, look, leave, put, remove } = useCatalogue()
  const [editing, setEditing] = useState<Listed>()
  const may = me.role === 'foreman' || me.role === 'office'
  // The unit stands once, over its column.
  const l = (v: number | undefined | null) => (v == null ? '' : formatLength(v, units).replace(/ m$/, ''))
  const u = units === 'metric' ? ', m' : ''
  return (
    <>
      <Bar person={me}>
        <strong>Unit catalogue</strong>
      </Bar>
      <Page>
        <Row style={{ justifyContent: 'space-between' }}>
          <h1>Unit catalogue</h1>
          <Row>
            <LinkButton href="/api/catalogue">Save as CSV</LinkButton>
            {may ? (
              <>
                <FileButton label="Catalogue file" accept=".csv,text/csv" onFile={look}>
                  Import CSV
                </FileButton>
                <Button onPress={() => listed[0] && setEditing({ ...listed[0], own: true, unit: { ...listed[0].unit, id: '', name: '' } })}>
                  Add a unit
                </Button>
              </>
            ) : null}
          </Row>
        </Row>
        <p style={{ color: 'var(--soft)' }}>
          Made-up units to start from; put in your maker’s own figures. A wall keeps the unit it was planned with until a revision takes another.
        </p>
        <Problems list={problems} />
        {preview ? (
          <Stack>
            <h2>
              {preview.name}: {counted(preview.read.good.length, 'unit')} can be taken
              {preview.read.bad.length > 0 ? `, ${counted(preview.read.bad.length, 'line')} cannot` : ''}
            </h2>
            <ul style={{ margin: 0, paddingLeft: 18 }}>
              {preview.read.bad.map((b) => (
                <li key={b.line}>
                  ▲ line {b.line}: {say(b.message, units)}
                </li>
              ))}
              {preview.read.good.map((g) => (
                <li key={g.unit.id}>
                  {listed.some((u) => u.unit.id === g.unit.id) ? 'changes' : 'adds'} {g.unit.name} ({formatLength(g.unit.length, units)} ×{' '}
                  {formatLength(g.unit.height, units)})
                </li>
              ))}
            </ul>
            <Row>
              <NowButton isDisabled={preview.read.good.length === 0} onPress={() => put(preview.read.good)}>
                Take {counted(preview.read.good.length, 'unit')}
              </NowButton>
              <Button onPress={() => leave()}>Take nothing</Button>
            </Row>
          </Stack>
        ) : null}
        {SYSTEMS.map((s) => (
          <section key={s.id}>
            <h2>{s.name}</h2>
            <p style={{ color: 'var(--soft)' }}>{s.summary}</p>
            <OrderedTable
              label={s.name}
              rows={listed.filter((u) => u.system === s.id)}
              id={(u) => u.unit.id}
              middle
              columns={[
                { head: 'Face', cell: (u) => <UnitFace unit={u.unit} system={u.system} /> },
                {
                  head: 'Unit',
                  by: (u) => u.unit.name,
                  cell: (u) => (
                    <>
                      <strong>{u.unit.name}</strong>
                      <Small>{u.own ? 'your own' : 'ships with Stone Tally'}</Small>
                    </>
                  ),
                },
                { head: 'Holds by', by: (u) => u.unit.profile, cell: (u) => (u.unit.profile ? PROFILE_WORDS[u.unit.profile] : '') },
                { head: <>Length{u}</>, is: 'n', by: (u) => u.unit.length, cell: (u) => l(u.unit.length) },
                { head: <>Height{u}</>, is: 'n', by: (u) => u.unit.height, cell: (u) => l(u.unit.height) },
                { head: <>Depth{u}</>, is: 'n', by: (u) => u.unit.depth, cell: (u) => l(u.unit.depth) },
                { head: <>Setback{u}</>, is: 'n', by: (u) => u.unit.setback, cell: (u) => l(u.unit.setback) },
                { head: <>Least radius{u}</>, is: 'n', by: (u) => u.unit.minRadius, cell: (u) => l(u.unit.minRadius) },
                { head: 'Mass, kg', is: 'n', by: (u) => u.unit.mass, cell: (u) => u.unit.mass },
                {
                  head: 'Also',
                  cell: (u) =>
                    [
                      u.unit.half === false ? '' : 'half',
                      u.unit.cornerLength ? 'corner' : '',
                      u.unit.capHeight > 0 ? 'cap' : '',
                      u.unit.pattern ? `${new Set(u.unit.pattern.pieces.map((p) => p.shape)).size} shapes` : '',
                    ]
                      .filter(Boolean)
                      .join(', '),
                },
                {
                  head: '',
                  unseen: 'What to do',
                  cell: (u) =>
                    may ? (
                      <Row style={{ gap: 6, flexWrap: 'nowrap' }}>
                        <Quiet onPress={() => setEditing(u)}>Change</Quiet>
                        <Quiet onPress={() => remove(u.unit.id)} aria-label={`Leave out ${u.unit.name}`}>
                          ✕
                        </Quiet>
                      </Row>
                    ) : null,
                },
              ]}
            />
          </section>
        ))}
        {editing ? <UnitForm key={editing.unit.id} start={editing} onClose={() => setEditing(undefined)} onPut={(u) => put([u])} /> : null}
      </Page>
    </>
  )
}
