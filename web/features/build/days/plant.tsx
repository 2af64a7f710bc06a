'use client'

import { MACHINE_KINDS, MACHINES, type MachineName, type PlantDays, type Programme, plantDays, say, type WallState } from '@stone-tally/core'
import { useState } from 'react'
import { useHere, useRecord, useTypedForm, type WallFeed } from '@/features/wall'
import { Caution, Choice, Field, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { dayWords } from '@/ui/day-words'
import { usePreferences } from '@/ui/preferences'
import { Table } from '@/ui/table'

const money = (n: number) => n.toLocaleString('en-GB', { maximumFractionDigits: 0 })
const count = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`

/** Plant against the days it is needed: what is on hire, what it costs, and when it can go back. */
export function Plant({ state, programme, today, record }: { state: WallState; programme: Programme; today: string; record: WallFeed['record'] }) {
  const { me } = useHere()
  const { units } = usePreferences()
  const list = plantDays(state, programme, today)
  const may = me.role === 'foreman' || me.role === 'office'
  return (
    <Stack>
      {list
        .flatMap((p) => p.words)
        .map((w) => (
          <Caution key={w}>▲ {say(w, units)}</Caution>
        ))}
      {list.length === 0 ? (
        <p>Nothing that is left needs plant.</p>
      ) : (
        <Table
          label="Plant"
          rows={list.flatMap(hiresOf)}
          id={(r) => r.hire?.entry ?? r.plant.plant}
          columns={[
            { head: 'Plant', cell: (r) => (r.first ? r.plant.title : '') },
            { head: 'Needed', cell: (r) => (r.first ? neededWords(r.plant) : '') },
            { head: 'Days', is: 'n', cell: (r) => (r.first ? r.plant.needed.length : '') },
            { head: 'At once', is: 'n', cell: (r) => (r.first ? r.plant.most || '' : '') },
            { head: 'Here', is: 'wrap', cell: ({ hire }) => (hire ? hereWords(hire) : 'nobody said that one is here; it is taken to be') },
            { head: 'Idle ahead', is: 'n', cell: ({ hire }) => (hire && hire.to !== undefined ? hire.idle : '') },
            {
              head: 'Cost',
              is: 'n',
              cell: ({ hire }) => (
                <>
                  {hire?.cost === undefined ? '' : money(hire.cost)}
                  {hire?.saved ? <div style={{ color: 'var(--soft)' }}>{money(hire.saved)} idle</div> : null}
                </>
              ),
            },
            { head: 'What to do', cell: ({ hire }) => (hire && may ? <CallOff entry={hire.entry} name={hire.name} record={record} /> : null) },
          ]}
        />
      )}
      {may ? <HireForm today={today} record={record} list={list} /> : <p>The foreman or the office records what is on hire.</p>}
    </Stack>
  )
}

/** A row for each hire, and one for plant that nobody hired; what is needed stands with the first. */
const hiresOf = (plant: PlantDays): { plant: PlantDays; hire: PlantDays['hires'][number] | undefined; first: boolean }[] =>
  plant.hires.length === 0 ? [{ plant, hire: undefined, first: true }] : plant.hires.map((hire, i) => ({ plant, hire, first: i === 0 }))
function neededWords({ needed }: PlantDays): string {
  const [first, last] = [needed[0], needed[needed.length - 1]]
  return first && last ? (first === last ? dayWords(first) : `${dayWords(first)} to ${dayWords(last)}`) : 'no more'
}
const hereWords = (h: PlantDays['hires'][number]) =>
  `${h.count > 1 ? `${h.count} × ` : ''}${h.name}, ${h.to === undefined ? `since ${dayWords(h.from)}` : `${dayWords(h.from)} to ${dayWords(h.to)}`}`

/** A hire that is called off, or was never so: struck out, to be read with its reason. */
function CallOff({ entry, name, record }: { entry: string; name: string; record: WallFeed['record'] }) {
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  const { busy, problems, go } = useRecord(record)
  if (!open)
    return (
      <Quiet aria-label={`Take ${name} out`} onPress={() => setOpen(true)}>
        Take out
      </Quiet>
    )
  return (
    <Stack>
      <Row>
        <Field label={`Why ${name} is taken out`} value={reason} onChange={setReason} />
        <Quiet
          isDisabled={busy || reason.trim().length < 3}
          onPress={() => go([{ kind: 'strike', where: {}, supersedes: entry, data: { reason: reason.trim() } }])}
        >
          Take out
        </Quiet>
        <Quiet onPress={() => setOpen(false)}>Leave it</Quiet>
      </Row>
      <Problems list={problems} />
    </Stack>
  )
}

function HireForm({ today, record, list }: { today: string; record: WallFeed['record']; list: readonly PlantDays[] }) {
  const { v, set, letGo } = useTypedForm('hire', { plant: 'plate', name: '', count: '1', from: '', to: '', supplier: '', perDay: '' })
  const { busy, problems, setProblems, go } = useRecord(record)
  const plant = (MACHINE_KINDS as readonly string[]).includes(v.plant) ? (v.plant as MachineName) : 'plate'
  const own = list.find((p) => p.plant === plant)
  const number = (text: string) => (text.trim() === '' ? Number.NaN : Number(text.replace(',', '.')))
  const send = async () => {
    const wrong = [
      ...(Number.isInteger(number(v.count)) && number(v.count) > 0
        ? []
        : [{ field: 'How many', message: `must be a whole number, not "${v.count}"` }]),
      ...(v.perDay.trim() === '' || Number.isFinite(number(v.perDay))
        ? []
        : [{ field: 'Price of a day', message: `must be a number, not "${v.perDay}"` }]),
    ]
    if (wrong.length > 0) return setProblems(wrong)
    const data = {
      plant,
      count: number(v.count),
      from: v.from || today,
      ...(v.to ? { to: v.to } : {}),
      ...(v.name.trim() ? { name: v.name.trim() } : {}),
      ...(v.supplier.trim() ? { supplier: v.supplier.trim() } : {}),
      ...(v.perDay.trim() ? { perDay: number(v.perDay) } : {}),
    }
    if (await go([{ kind: 'hire', where: {}, data }])) letGo()
  }
  const [first, last] = [own?.needed[0], own?.needed[own.needed.length - 1]]
  return (
    <Stack role="group" aria-label="Plant that comes">
      <h2>Plant that comes</h2>
      <Choice
        label="Which"
        hideLabel
        value={plant}
        options={MACHINE_KINDS.map((k) => [k, MACHINES[k].title] as const)}
        onChange={(k) => set({ plant: k })}
      />
      <p>
        {MACHINES[plant].title} {MACHINES[plant].works}.{' '}
        {first && last
          ? `Needed on ${count(own?.needed.length ?? 0, 'day')}, ${dayWords(first)} to ${dayWords(last)}.`
          : 'Nothing that is left needs one.'}{' '}
        {first && last ? <Quiet onPress={() => set({ from: first, to: last })}>Take these days</Quiet> : null}
      </p>
      <Row>
        <Short label="What it is called" value={v.name} onChange={(name) => set({ name })} />
        <Short label="How many" value={v.count} onChange={(n) => set({ count: n })} decimal />
        <Short label="From" value={v.from} onChange={(from) => set({ from })} day />
        <Short label="Last day; empty: it stays" value={v.to} onChange={(to) => set({ to })} day />
        <Short label="From whom" value={v.supplier} onChange={(supplier) => set({ supplier })} />
        <Short label="Price of a day (may stay empty)" value={v.perDay} onChange={(perDay) => set({ perDay })} decimal />
        <NowButton isDisabled={busy} onPress={send}>
          Record
        </NowButton>
      </Row>
      <Problems list={problems} />
    </Stack>
  )
}

const Short = ({ label, value, onChange, day, decimal }: { label: string; value: string; onChange(v: string): void; day?: true; decimal?: true }) => (
  <div style={{ flex: '1 1 150px', minWidth: 130, maxWidth: 240 }}>
    <Field label={label} value={value} onChange={onChange} type={day ? 'date' : 'text'} {...(decimal ? { inputMode: 'decimal' as const } : {})} />
  </div>
)
