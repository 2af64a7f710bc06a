'use client'

import {
  buildingOf,
  DRAIN_SCHOOLS,
  type DrainSchool,
  formatLength,
  formatSmall,
  formatStation,
  type Layout,
  type Measure,
  type Outlet,
  type Plan,
  type Problem,
  parseAmount,
  proposeHeel,
  RUNOFF,
  typedAmount,
  unitOf,
  withAnswerTo,
} from '@stone-tally/core'
import { useState } from 'react'
import { send } from '@/device/send'
import { type Me, useTypedForm } from '@/features/wall'
import { AmountField } from '@/ui/amount-field'
import { Check, Choice, Field, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'

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
  layout,
}: {
  wall: string
  plan: Plan
  layout: Layout
  /** Number of the revision in force. */
  revision: number
  me: Me
  proposal: readonly Outlet[] | undefined
  fits: DrainSchool
}) {
  const { units } = usePreferences()
  const metric = units === 'metric'
  const own = plan.water
  const asSmall = (m: number | undefined) => (m === undefined ? '' : metric ? `${Math.round(m * 1000)}` : formatSmall(m, units).replace('"', ''))
  const asPlace = (list: Draft['possible']) =>
    (list ?? [])
      .map(
        (o) => `${metric ? o.station.toFixed(2) : formatStation(o.station, units)}  ${metric ? o.invert.toFixed(3) : formatLength(o.invert, units)}`,
      )
      .join('\n')
  const [open, setOpen] = useState(false)
  const now = {
    school: own?.school ?? fits,
    sock: own?.sock ? 'yes' : '',
    bed: asSmall(own?.bed),
    holes: asSmall(own?.holes),
    cover: asSmall(own?.cover),
    places: asPlace(own?.possible),
    heel: own?.heel === undefined ? '' : 'yes',
    above: asSmall(own?.heel?.above ?? 0.3),
    heelOutlets: asPlace(own?.heel?.outlets),
    area: own?.area === undefined ? '' : typedAmount(own.area, 'area', units),
    runoff: own?.runoff === undefined ? '' : `${own.runoff}`,
    rain: own?.rain === undefined ? '' : typedAmount(own.rain, 'rain', units),
  }
  // What is typed in other units waits there: a bare number would mean something else here.
  const { v, set, letGo, begun } = useTypedForm<{ readonly [K in keyof typeof now]: string }>(`drain ${units}`, now)
  const { bed, holes, cover, places, above, area, runoff, rain } = v
  const school = v.school as DrainSchool
  const [sock, heel] = [v.sock !== '', v.heel !== '']
  // What reads as it is shown keeps the plan's own value: it was rounded for reading only.
  const shown = { ...now, places: now.places.split('\n'), heelOutlets: now.heelOutlets.split('\n') }
  // Of the places the plan knows already: what is typed is worked out once it is in the plan.
  const proposedHeel = own?.heel ? proposeHeel(layout) : undefined
  const [take, setTake] = useState(false)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [busy, setBusy] = useState(false)
  const may = me.role === 'foreman' || me.role === 'office'
  if (!may) return null
  if (!open && !begun) {
    return (
      <Row>
        <Quiet onPress={() => setOpen(true)}>Change what the plan says of water</Quiet>
      </Row>
    )
  }
  const put = async () => {
    const bad: Problem[] = []
    const plain = (field: string, text: string) => {
      if (!text.trim()) return undefined
      const value = Number(text.replace(',', '.'))
      if (Number.isFinite(value)) return value
      bad.push({ field, message: `"${text}" is not a number` })
      return undefined
    }
    const amount = (field: string, text: string, measure: Measure) => {
      if (!text.trim()) return undefined
      const value = parseAmount(text, measure, units)
      if (value.ok) return value.value
      bad.push(...value.problems.map((p) => ({ ...p, field })))
      return undefined
    }
    // A line that reads as it was shown keeps what the plan has, to the last digit.
    const placesOf = (what: string, text: string, was: readonly string[], list: Draft['possible']) =>
      text
        .split('\n')
        .filter((l) => l.trim())
        .flatMap((l, i) => {
          const same = list?.[was.indexOf(l)]
          if (same) return [same]
          const field = `${what} ${i + 1}`
          const [s, e, ...rest] = l.trim().split(/[\s;]+/)
          const [station, invert] = [amount(field, s ?? '', 'length'), amount(field, e ?? '', 'length')]
          if (station === undefined || invert === undefined || rest.length > 0) {
            bad.push({ field, message: `"${l}" is not a station and an elevation` })
            return []
          }
          return [{ station, invert }]
        })
    const possible = placesOf('Place', places, shown.places, own?.possible)
    const heelOutlets = placesOf('Outlet of the heel drain', v.heelOutlets, shown.heelOutlets, own?.heel?.outlets)
    const values = {
      bed: own?.bed !== undefined && bed === shown.bed ? own.bed : amount('Stone below', bed, 'small'),
      holes: own?.holes !== undefined && holes === shown.holes ? own.holes : amount('Holes of the pipe', holes, 'small'),
      cover: own?.cover !== undefined && cover === shown.cover ? own.cover : amount('Stone above', cover, 'small'),
      area: own?.area !== undefined && area === shown.area ? own.area : amount('Area', area, 'area'),
      runoff: plain('Runs off', runoff),
      rain: own?.rain !== undefined && rain === shown.rain ? own.rain : amount('Rain', rain, 'rain'),
    }
    const lift = own?.heel && above === shown.above ? own.heel.above : amount('Outlets of the heel drain', above, 'small')
    if (heel && lift === undefined && bad.length === 0)
      bad.push({ field: 'Outlets of the heel drain', message: 'is missing; say how far above those of the toe drain' })
    if (bad.length > 0) return setProblems(bad)
    const water: Draft = {
      school,
      sock,
      ...Object.fromEntries(Object.entries(values).filter(([, v]) => v !== undefined)),
      ...(possible.length > 0 ? { possible } : {}),
      ...(heel && lift !== undefined
        ? {
            heel: {
              fall: own?.heel?.fall ?? Math.max(buildingOf(plan).drain?.fall ?? 0, 0.01),
              above: lift,
              ...(heelOutlets.length > 0 ? { outlets: heelOutlets } : {}),
            },
          }
        : {}),
    }
    setBusy(true)
    const outlets = proposal?.map((o) => ({ ...o }))
    const next = take && outlets ? withAnswerTo({ ...plan, water }, 'outlets', outlets) : { ...plan, water }
    const answer = await send('POST', `/api/walls/${wall}/revisions`, { plan: next, base: revision })
    setBusy(false)
    if (answer.ok) {
      letGo()
      window.location.reload()
    } else setProblems(answer.problems)
  }
  return (
    <Stack>
      <Choice label="Where the pipe sits" value={school} options={SCHOOLS} onChange={(school) => set({ school })} />
      <Row>
        <AmountField label="Stone below" of="small" value={bed} onChange={(bed) => set({ bed })} />
        <AmountField label="Stone above" of="small" value={cover} onChange={(cover) => set({ cover })} />
      </Row>
      <Check checked={sock} onChange={(on) => set({ sock: on ? 'yes' : '' })}>
        Sock on the pipe
      </Check>
      <Check checked={heel} onChange={(on) => set({ heel: on ? 'yes' : '' })}>
        Second pipe at the back of the cut
      </Check>
      {heel ? (
        <>
          <Field
            long
            label={`Its own outlets: station and elevation of each, ${unitOf('length', units)}`}
            value={v.heelOutlets}
            onChange={(heelOutlets) => set({ heelOutlets })}
            hint="one a line; left empty they lie above those of the toe drain"
          />
          {proposedHeel?.ok ? (
            <Row>
              <Quiet onPress={() => set({ heelOutlets: asPlace([...proposedHeel.value.outlets]) })}>
                Worked out: {proposedHeel.value.outlets.map((o) => formatStation(o.station, units)).join(', ')}
              </Quiet>
            </Row>
          ) : proposedHeel && places.trim() ? (
            <Problems list={proposedHeel.problems} />
          ) : null}
          <AmountField label="Otherwise above those of the toe drain" of="small" value={above} onChange={(above) => set({ above })} />
        </>
      ) : null}
      <Field
        long
        label={`Places where water could leave: station and elevation of each, ${unitOf('length', units)}`}
        value={places}
        onChange={(places) => set({ places })}
        hint="one a line"
      />
      <Row>
        <AmountField label="Ground above that drains here" of="area" value={area} onChange={(area) => set({ area })} />
        <Field
          label="Share that runs off"
          value={runoff}
          onChange={(runoff) => set({ runoff })}
          inputMode="decimal"
          hint={RUNOFF.map(([, n, v]) => `${n.toLowerCase()} ${v}`).join(', ')}
        />
        <AmountField label="Holes of the pipe at most" of="small" value={holes} onChange={(holes) => set({ holes })} />
        <Field label={`Rain, ${unitOf('rain', units)} in an hour`} value={rain} onChange={(rain) => set({ rain })} inputMode="decimal" />
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
