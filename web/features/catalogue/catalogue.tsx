'use client'

import {
  formatLength,
  type Problem,
  parseAmount,
  readUnitsCsv,
  SYSTEMS,
  say,
  systemOf,
  UNIT_PROFILES,
  type Unit,
  type UnitsPreview,
} from '@stone-tally/core'
import { useRef, useState } from 'react'
import styled from 'styled-components'
import { send } from '@/device/send'
import type { Me } from '@/features/wall'
import type { Listed } from '@/server/catalogue'
import { Bar } from '@/ui/bar'
import { Ask, Button, Choice, Field, LinkButton, NowButton, Page, Problems, Quiet, Row, Small, Stack } from '@/ui/controls'
import { OrderedTable } from '@/ui/ordered-table'
import { usePreferences } from '@/ui/preferences'
import { UnitFace } from './unit-face'

const Grid = styled.div`display: grid; gap: 12px 14px; grid-template-columns: repeat(auto-fill, minmax(150px, 1fr)); align-items: start;`

export const PROFILE_WORDS: Record<(typeof UNIT_PROFILES)[number], string> = {
  lug: 'Lug on top',
  'rear-lip': 'Rear lip',
  'tongue-groove': 'Tongue and groove',
  pattern: 'Pattern of shapes',
  landscape: 'Small landscape stone',
  basket: 'Basket',
  'big-block': 'Its own weight, set by machine',
  'wire-mat': 'Wire mat in the fill',
  masonry: 'Mortar, bars and grout',
}

/** Lengths of a unit that can be edited, with their words; the others are numbers of their own. */
const LENGTHS = [
  ['height', 'Height'],
  ['length', 'Length'],
  ['depth', 'Depth'],
  ['setback', 'Setback a course'],
  ['capHeight', 'Cap height'],
  ['capLength', 'Cap length'],
  ['cornerLength', 'Corner unit, face'],
  ['minRadius', 'Smallest radius'],
  ['capTaper', 'Tapered caps under radius'],
  ['minPiece', 'Shortest cut piece'],
] as const
const NUMBERS = [
  ['mass', 'Mass, kg'],
  ['coreVolume', 'Core volume, m³'],
  ['perPallet', 'On a pallet'],
  ['porosity', 'Air between stones, 0 to 0.6'],
] as const
const OPTIONAL = new Set(['capLength', 'cornerLength', 'minRadius', 'capTaper', 'minPiece', 'perPallet', 'porosity'])

/** The unit catalogue of a company: look, change, add, in and out as CSV. Walls keep the unit they were planned with. */
export function Catalogue({ me, units: listed }: { me: Me; units: readonly Listed[] }) {
  const { units } = usePreferences()
  const file = useRef<HTMLInputElement>(null)
  const [editing, setEditing] = useState<Listed>()
  const [preview, setPreview] = useState<{ name: string; text: string; read: UnitsPreview }>()
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const may = me.role === 'foreman' || me.role === 'office'
  // The unit stands once, over its column.
  const l = (v: number | undefined | null) => (v == null ? '' : formatLength(v, units).replace(/ m$/, ''))
  const u = units === 'metric' ? ', m' : ''
  const take = async (picked: File | undefined) => {
    setProblems([])
    setPreview(undefined)
    if (!picked) return
    const text = picked.size > 2 * 1024 * 1024 ? 'x'.repeat(2 * 1024 * 1024 + 1) : await picked.text()
    const read = readUnitsCsv(text)
    if (read.ok) setPreview({ name: picked.name, text, read: read.value })
    else setProblems(read.problems)
  }
  const put = async (list: readonly { system: string; unit: Unit }[]) => {
    const answer = await send('PUT', '/api/catalogue', { units: list })
    if (answer.ok) window.location.reload()
    else setProblems(answer.problems)
    return answer.ok ? [] : answer.problems
  }
  const remove = async (id: string) => {
    const answer = await send('DELETE', `/api/catalogue?id=${encodeURIComponent(id)}`)
    if (answer.ok) window.location.reload()
    else setProblems(answer.problems)
  }
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
                <Button onPress={() => file.current?.click()}>Import CSV</Button>
                <Button onPress={() => listed[0] && setEditing({ ...listed[0], own: true, unit: { ...listed[0].unit, id: '', name: '' } })}>
                  Add a unit
                </Button>
                <input ref={file} type="file" accept=".csv,text/csv" hidden aria-label="Catalogue file" onChange={(e) => take(e.target.files?.[0])} />
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
              {preview.name}: {preview.read.good.length} units can be taken
              {preview.read.bad.length > 0 ? `, ${preview.read.bad.length} lines cannot` : ''}
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
                Take {preview.read.good.length} units
              </NowButton>
              <Button onPress={() => setPreview(undefined)}>Take nothing</Button>
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

function UnitForm({
  start,
  onClose,
  onPut,
}: {
  start: Listed
  onClose(): void
  onPut(u: { system: string; unit: Unit }): Promise<readonly Problem[]>
}) {
  const { units } = usePreferences()
  const [system, setSystem] = useState(start.system)
  const [profile, setProfile] = useState(start.unit.profile ?? 'lug')
  const [half, setHalf] = useState<'yes' | 'no'>(start.unit.half === false ? 'no' : 'yes')
  const [v, setV] = useState<Record<string, string>>(() => ({
    id: start.unit.id,
    name: start.unit.name,
    ...Object.fromEntries(
      LENGTHS.map(([k]) => [k, start.unit[k] == null ? '' : units === 'metric' ? `${start.unit[k]}` : formatLength(start.unit[k] as number, units)]),
    ),
    ...Object.fromEntries(NUMBERS.map(([k]) => [k, start.unit[k] == null ? '' : `${start.unit[k]}`])),
  }))
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const u = units === 'metric' ? 'm' : 'ft-in'
  const save = async () => {
    const wrong: Problem[] = []
    const unit: Record<string, unknown> = { id: (v.id ?? '').trim(), name: (v.name ?? '').trim(), profile, half: half === 'yes' }
    if (start.unit.pattern && profile === 'pattern') unit.pattern = start.unit.pattern
    for (const [k, name] of LENGTHS) {
      if ((v[k] ?? '').trim() === '' && OPTIONAL.has(k)) continue
      const read = parseAmount(v[k] ?? '', 'length', units)
      if (read.ok) unit[k] = read.value
      else wrong.push({ field: name, message: read.problems[0]?.message ?? '' })
    }
    for (const [k, name] of NUMBERS) {
      if ((v[k] ?? '').trim() === '' && OPTIONAL.has(k)) continue
      const n = Number((v[k] ?? '').replace(',', '.'))
      if (Number.isFinite(n) && (v[k] ?? '').trim() !== '') unit[k] = n
      else wrong.push({ field: name, message: `"${v[k]}" is not a number` })
    }
    setProblems(wrong.length > 0 ? wrong : await onPut({ system, unit: unit as unknown as Unit }))
  }
  const field = (k: string, label: string) => <Field key={k} label={label} name={k} value={v[k] ?? ''} onChange={(x) => setV({ ...v, [k]: x })} />
  return (
    <Ask title={start.unit.id ? `Change ${start.unit.name}` : 'Add a unit'} open onClose={onClose}>
      <Stack>
        <Grid>
          {field('id', 'Short name (letters, digits)')}
          {field('name', 'Name')}
        </Grid>
        <Choice label="System" value={system} options={SYSTEMS.map((s) => [s.id, s.noun.many] as const)} onChange={setSystem} />
        <Choice label="Holds by" value={profile} options={UNIT_PROFILES.map((p) => [p, PROFILE_WORDS[p]] as const)} onChange={setProfile} />
        <Choice
          label={`Half ${systemOf(system)?.noun.many ?? 'units'} are made`}
          value={half}
          options={[
            ['yes', 'Yes'],
            ['no', 'No, sawn'],
          ]}
          onChange={setHalf}
        />
        <Grid>
          {LENGTHS.map(([k, name]) => field(k, `${name}, ${u}`))}
          {NUMBERS.map(([k, name]) => field(k, name))}
        </Grid>
        <Problems list={problems} />
        <Row>
          <NowButton onPress={save}>Put into the catalogue</NowButton>
          <Button onPress={onClose}>Close</Button>
        </Row>
      </Stack>
    </Ask>
  )
}
