'use client'

import {
  DRAIN_SCHOOLS,
  type DrainSchool,
  formatLength,
  formatSmall,
  formatStation,
  type Outlet,
  type Plan,
  type Problem,
  parseLength,
  RUNOFF,
} from '@stone-tally/core'
import { useState } from 'react'
import type { Me } from '@/features/wall'
import { Check, Choice, Field, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'
import { send } from '@/ui/send'

const SCHOOLS = Object.entries(DRAIN_SCHOOLS).map(([id, s]) => [id as DrainSchool, s.name] as const)
type Draft = NonNullable<Plan['water']>

/** What the plan says of water; a change is a new revision, as every change of the plan. */
export function DrainForm({
  wall,
  plan,
  revision,
  me,
  proposal,
  fits,
}: {
  wall: string
  plan: Plan
  /** Number of the revision in force. */
  revision: number
  me: Me
  proposal: readonly Outlet[] | undefined
  fits: DrainSchool
}) {
  // A change of units in the middle of typing would change what a bare number means.
  const [units] = useState(usePreferences().units)
  const metric = units === 'metric'
  const [long, small] = metric ? (['m', 'mm'] as const) : (['ft', 'in'] as const)
  const own = plan.water
  const asSmall = (m: number | undefined) => (m === undefined ? '' : metric ? `${Math.round(m * 1000)}` : formatSmall(m, units).replace('"', ''))
  const asPlace = (list: Draft['possible']) =>
    (list ?? [])
      .map(
        (o) => `${metric ? o.station.toFixed(2) : formatStation(o.station, units)}  ${metric ? o.invert.toFixed(3) : formatLength(o.invert, units)}`,
      )
      .join('\n')
  const [open, setOpen] = useState(false)
  const [school, setSchool] = useState<DrainSchool>(own?.school ?? fits)
  const [sock, setSock] = useState(own?.sock ?? false)
  const [bed, setBed] = useState(asSmall(own?.bed))
  const [cover, setCover] = useState(asSmall(own?.cover))
  const [places, setPlaces] = useState(asPlace(own?.possible))
  const [heel, setHeel] = useState(own?.heel !== undefined)
  const [above, setAbove] = useState(asSmall(own?.heel?.above ?? 0.3))
  const [area, setArea] = useState(own?.area === undefined ? '' : `${own.area}`)
  const [runoff, setRunoff] = useState(own?.runoff === undefined ? '' : `${own.runoff}`)
  const [rain, setRain] = useState(own?.rain === undefined ? '' : `${own.rain}`)
  // What reads as it was shown keeps the plan's own value: it was rounded for reading only.
  const [shown] = useState({ bed, cover, above, places: places.split('\n') })
  const [take, setTake] = useState(false)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [busy, setBusy] = useState(false)
  const may = me.role === 'foreman' || me.role === 'office'
  if (!may) return null
  if (!open) {
    return (
      <Row>
        <Quiet onPress={() => setOpen(true)}>Change what the plan says of water</Quiet>
      </Row>
    )
  }
  const put = async () => {
    const bad: Problem[] = []
    const length = (field: string, text: string, unit: 'm' | 'ft' | 'mm' | 'in') => {
      if (!text.trim()) return undefined
      const value = parseLength(text, unit)
      if (value.ok) return value.value
      bad.push(...value.problems.map((p) => ({ ...p, field })))
      return undefined
    }
    const plain = (field: string, text: string) => {
      if (!text.trim()) return undefined
      const value = Number(text.replace(',', '.'))
      if (Number.isFinite(value)) return value
      bad.push({ field, message: `"${text}" is not a number` })
      return undefined
    }
    const possible = places
      .split('\n')
      .filter((l) => l.trim())
      .flatMap((l, i) => {
        const same = own?.possible?.[shown.places.indexOf(l)]
        if (same && l.trim()) return [same]
        const [s, e, ...rest] = l.trim().split(/[\s;]+/)
        const [station, invert] = [length(`Place ${i + 1}`, s ?? '', long), length(`Place ${i + 1}`, e ?? '', long)]
        if (station === undefined || invert === undefined || rest.length > 0) {
          bad.push({ field: `Place ${i + 1}`, message: `"${l}" is not a station and an elevation` })
          return []
        }
        return [{ station, invert }]
      })
    const values = {
      bed: own?.bed !== undefined && bed === shown.bed ? own.bed : length('Stone below', bed, small),
      cover: own?.cover !== undefined && cover === shown.cover ? own.cover : length('Stone above', cover, small),
      area: plain('Area', area),
      runoff: plain('Runs off', runoff),
      rain: plain('Rain', rain),
    }
    const lift = own?.heel && above === shown.above ? own.heel.above : length('Outlets of the heel drain', above, small)
    if (heel && lift === undefined && bad.length === 0)
      bad.push({ field: 'Outlets of the heel drain', message: 'is missing; say how far above those of the toe drain' })
    if (bad.length > 0) return setProblems(bad)
    const water: Draft = {
      school,
      sock,
      ...Object.fromEntries(Object.entries(values).filter(([, v]) => v !== undefined)),
      ...(possible.length > 0 ? { possible } : {}),
      ...(heel && lift !== undefined ? { heel: { fall: Math.max(plan.drain.fall, 0.01), ...own?.heel, above: lift } } : {}),
    }
    setBusy(true)
    const next = { ...plan, water, ...(take && proposal ? { drain: { ...plan.drain, outlets: proposal.map((o) => ({ ...o })) } } : {}) }
    const answer = await send('POST', `/api/walls/${wall}/revisions`, { plan: next, base: revision })
    setBusy(false)
    if (answer.ok) window.location.reload()
    else setProblems(answer.problems)
  }
  return (
    <Stack>
      <Choice label="Where the pipe sits" value={school} options={SCHOOLS} onChange={setSchool} />
      <Row>
        <Field label={`Stone below, ${small}`} value={bed} onChange={setBed} inputMode="decimal" />
        <Field label={`Stone above, ${small}`} value={cover} onChange={setCover} inputMode="decimal" />
      </Row>
      <Check checked={sock} onChange={setSock}>
        Sock on the pipe
      </Check>
      <Check checked={heel} onChange={setHeel}>
        Second pipe at the back of the cut
      </Check>
      {heel ? <Field label={`Its outlets above those of the toe drain, ${small}`} value={above} onChange={setAbove} inputMode="decimal" /> : null}
      <Field
        long
        label={`Places where water could leave: station and elevation of each, ${long}`}
        value={places}
        onChange={setPlaces}
        hint="one a line"
      />
      <Row>
        <Field label="Ground above that drains here, m²" value={area} onChange={setArea} inputMode="decimal" />
        <Field
          label="Share that runs off"
          value={runoff}
          onChange={setRunoff}
          inputMode="decimal"
          hint={RUNOFF.map(([, n, v]) => `${n.toLowerCase()} ${v}`).join(', ')}
        />
        <Field label="Rain, mm in an hour" value={rain} onChange={setRain} inputMode="decimal" />
      </Row>
      {proposal ? (
        <Check checked={take} onChange={setTake}>
          Take the outlets worked out above into the plan
        </Check>
      ) : null}
      <NowButton isDisabled={busy} onPress={put}>
        Issue as a new revision
      </NowButton>
      <Problems list={problems} />
    </Stack>
  )
}
