'use client'

import {
  type CutData,
  DIG,
  digReport,
  digWords,
  failAll,
  formatLength,
  formatSmall,
  formatStation,
  formatVolume,
  knownPerson,
  limitsOf,
  OBSTRUCTIONS,
  type ObstructionData,
  ok,
  type Problem,
  parseAmount,
  plannedCut,
  type Result,
  say,
  statusOf,
  typedAmount,
  type UnitSystem,
  WAYS,
} from '@stone-tally/core'
import { useState } from 'react'
import styled from 'styled-components'
import { type Fact, Foretold, foreseen, useRecord, useTypedForm } from '@/features/wall'
import { AmountField } from '@/ui/amount-field'
import { Button, Caution, Check, Choice, Field, NowButton, Problems, Row, Stack, Stop } from '@/ui/controls'
import { Targets } from '@/ui/figure'
import { fromWords } from '@/ui/known-words'
import { Table } from '@/ui/table'
import { GroundStep } from './ground-step'
import { digStep, type GroundProps, numberOf } from './types'

export const Halves = styled.div`display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 420px); gap: 28px; align-items: start; @media (max-width: 900px) { grid-template-columns: minmax(0, 1fr); > [data-entry] { order: -1; } }`

/** Depth step by step from the lowest, volumes and loads, room behind, and what stands in the way. */
export function DigPanel(props: GroundProps) {
  const { state, section, station, units } = props
  const report = digReport(state)
  const step = digStep(state, section)
  const own = state.layout.plan.sections.find((s) => s.id === section)
  const steps = report.steps.filter((s) => own && s.step.end > own.from + 0.01 && s.step.start < own.to - 0.01).sort((a, b) => a.order - b.order)
  const short = report.planned < report.room - 0.005
  return (
    <Halves>
      <Stack>
        <Targets
          list={[
            ['To dig', formatVolume(report.bank, units)],
            ['Dug', formatVolume(report.done, units)],
            ['Left', `${formatVolume(report.left, units)} in the bank`],
            ['Loads left', `${report.loads} of ${formatVolume(DIG.truck, units)} loose`],
            ['Fill over-dig', report.overDig > 0 ? `${formatVolume(report.overDig, units)} pad material` : 'none'],
            ['Room behind face', formatLength(report.room, units, 2)],
          ]}
        />
        {short ? (
          <Stop>
            <strong>
              ⬣ The plan digs {formatLength(report.planned, units, 2)} behind the face; the longest layer needs {formatLength(report.room, units, 2)}.
            </strong>
            <span>A layer that does not fit is cut short or folded up, and holds less. Change the excavation in the plan before digging.</span>
          </Stop>
        ) : null}
        <Table
          label="Steps and readings"
          rows={steps}
          id={(s) => s.step.start}
          on={(s) => station >= s.step.start && station < s.step.end}
          columns={[
            { head: 'Order', cell: (s) => (s.order === 1 ? '1 · start here' : s.order) },
            {
              head: 'Step',
              cell: (s) => (
                <>
                  {formatStation(s.step.start, units)} to {formatStation(s.step.end, units)}
                </>
              ),
            },
            { head: 'Dig to', is: 'n', cell: (s) => formatLength(s.target, units) },
            { head: 'Below ground', is: 'n', cell: (s) => formatLength(Math.max(...s.points.map((p) => p.ground)) - s.target, units, 2) },
            {
              head: 'Read',
              is: 'wrap',
              cell: (s) => (
                <>
                  {s.points
                    .filter((p) => p.deviation !== undefined)
                    .map((p) => {
                      const out = Math.abs(p.deviation ?? 0) > limitsOf(state.layout.plan).excavation.value + 1e-4
                      return (
                        <div key={p.station}>
                          {out ? '▲' : '✓'} {formatStation(p.station, units)}: {digWords(p.deviation ?? 0, units, state.layout.plan)}
                        </div>
                      )
                    })}
                  {s.points.every((p) => p.deviation === undefined) ? `${s.points.length} points to read` : null}
                </>
              ),
            },
          ]}
        />
        {report.deepest.depth > limitsOf(state.layout.plan).shoreAbove.value ? (
          <Caution>
            The cut is {formatLength(report.deepest.depth, units, 2)} deep at {formatStation(report.deepest.station, units)}.{' '}
            {say(limitsOf(state.layout.plan).shoreAbove.reason, units)} Nobody works below an unsupported side; spoil at least{' '}
            {formatLength(limitsOf(state.layout.plan).spoilSetback.value, units, 2)} from the edge, a way out within reach.
          </Caution>
        ) : null}
        <CutForm {...props} />
        <ObstructionForm {...props} />
      </Stack>
      <GroundStep {...props} step={step} tag="DIG" />
    </Halves>
  )
}

const optionalLength = (text: string, units: UnitSystem, field: string, problems: Problem[]) => {
  if (!text.trim()) return undefined
  const r = parseAmount(text, 'length', units)
  if (r.ok) return r.value
  problems.push({ field, message: r.problems[0]?.message ?? 'is not a length' })
  return undefined
}

/** The finding of a kind that is to be re-checked here: its action is written, and nothing closed it yet. */
function toRecheck({ state, section, finding }: GroundProps, kind: string) {
  const step = digStep(state, section)
  const entry = finding ? state.byId.get(finding)?.entry : undefined
  const open = step && statusOf(state, step).open.some((o) => o.entry.id === finding)
  return entry?.kind === kind && open && state.actions.has(entry.id) ? entry : undefined
}

/** What of the cut stands in its field as planned until somebody measured otherwise. */
const PLANNED = ['width', 'behind', 'slope'] as const

/** The trench as it was cut at the chosen station. */
function CutForm(props: GroundProps) {
  const { state, section, units, me, record } = props
  const of = toRecheck(props, 'cut')
  const station = of?.where.station ?? props.station
  const [open, setOpen] = useState(false)
  const plan = plannedCut(state)
  const asLength = (m: number) => (units === 'metric' ? `${+m.toFixed(2)}` : formatLength(m, units, 2))
  const given = { width: asLength(plan.width.value), behind: asLength(plan.behind.value), slope: `${+plan.slope.value.toFixed(2)}` }
  const person = knownPerson(state)
  // A re-check begins with what was found: only what is to be looked at again is typed again.
  const was = of?.data as CutData | undefined
  const found = was
    ? {
        ...(was.width == null ? {} : { width: asLength(was.width) }),
        ...(was.behind == null ? {} : { behind: asLength(was.behind) }),
        ...(was.slope == null ? {} : { slope: `${was.slope}` }),
        ...(was.spoil == null ? {} : { spoil: asLength(was.spoil) }),
        ...(was.plant == null ? {} : { plant: asLength(was.plant) }),
        ...(was.ladder == null ? {} : { ladder: asLength(was.ladder) }),
        by: was.by ?? '',
        held: was.shored ? 'shored' : was.benched ? 'benched' : 'slope',
      }
    : {}
  const {
    v: typed,
    set: type,
    letGo,
    begun,
  } = useTypedForm(`cut ${section} ${of?.id ?? ''} ${units}`, {
    ...given,
    spoil: '',
    plant: '',
    ladder: '',
    by: person?.value ?? '',
    held: plan.slope.value > 0 ? 'slope' : '',
    clay: '',
    sound: '',
    water: '',
    ...found,
  })
  const { width, behind, slope, spoil, plant, ladder, by, held, clay, sound, water } = typed
  const { busy, problems, setProblems, go } = useRecord(record)
  const step = digStep(state, section)
  if (!step) return null
  if (!open && !of && !begun)
    return <Button onPress={() => setOpen(true)}>Check width, room, sides and water at {formatStation(station, units)}</Button>
  const laidBack = held === 'slope' || held === ''
  const stands = was ? [] : PLANNED.filter((f) => typed[f] === given[f] && (f !== 'slope' || laidBack))
  const read = (): Result<Fact> => {
    const bad: Problem[] = []
    const lean = laidBack && slope.trim() ? numberOf(slope) : undefined
    const data = {
      // What stands as planned is the plan's own figure, to the last digit.
      width: stands.includes('width') ? plan.width.value : optionalLength(width, units, 'width', bad),
      behind: stands.includes('behind') ? plan.behind.value : optionalLength(behind, units, 'behind', bad),
      slope: lean,
      spoil: optionalLength(spoil, units, 'spoil', bad),
      plant: optionalLength(plant, units, 'plant', bad),
      ladder: optionalLength(ladder, units, 'ladder', bad),
      shored: held === 'shored' || undefined,
      benched: held === 'benched' || undefined,
      water: water === '' ? undefined : water === 'yes',
      soil: clay ? 'stiff-clay' : undefined,
      sound: clay ? sound !== '' : undefined,
      by: by.trim() || undefined,
      planned: stands.length > 0 ? stands : undefined,
    }
    if (Number.isNaN(lean)) bad.push({ field: 'sides', message: 'give how far across for one up, such as 1.5' })
    if (bad.length > 0) return failAll(bad)
    const where = { stage: step.stage.id, section, station: of ? station : Math.round(station * 100) / 100 }
    return ok({
      kind: 'cut',
      where,
      data: Object.fromEntries(Object.entries(data).filter(([, v]) => v !== undefined)),
      ...(of ? { recheckOf: of.id } : {}),
    })
  }
  const now = read()
  const put = async () => {
    if (!now.ok) return setProblems(now.problems)
    if (await go([now.value])) {
      letGo()
      setOpen(false)
    }
  }
  const as = (f: (typeof PLANNED)[number]) => (stands.includes(f) ? 'as planned; type what was measured if it is otherwise' : undefined)
  return (
    <Stack style={{ borderTop: '2px solid var(--ink)', paddingTop: 10 }}>
      <h2 className="minor">The cut at {formatStation(station, units)}</h2>
      <Row style={{ alignItems: 'start' }}>
        <AmountField label="Width" of="length" value={width} onChange={(width) => type({ width })} hint={as('width')} />
        <AmountField label="Behind the face" of="length" value={behind} onChange={(behind) => type({ behind })} hint={as('behind')} />
        {laidBack ? (
          <Field
            label="Sides, across per 1 up"
            value={slope}
            onChange={(slope) => type({ slope })}
            inputMode="decimal"
            hint={as('slope') ?? `${limitsOf(state.layout.plan).cutSlope.value} or flatter`}
          />
        ) : null}
        <AmountField label="Spoil from edge" of="length" value={spoil} onChange={(spoil) => type({ spoil })} />
        <AmountField label="Plant from edge" of="length" value={plant} onChange={(plant) => type({ plant })} />
        <AmountField label="To a ladder or ramp" of="length" value={ladder} onChange={(ladder) => type({ ladder })} />
        <Field
          label="Competent person"
          value={by}
          onChange={(by) => type({ by })}
          hint={person && by === person.value ? fromWords(person) : undefined}
        />
      </Row>
      <Choice
        label="The sides are"
        value={held as 'slope' | 'benched' | 'shored'}
        options={[
          ['slope', 'Laid back'],
          ['benched', 'Benched'],
          ['shored', 'Shored'],
        ]}
        onChange={(held) => type({ held })}
      />
      <Choice
        label="Water in the cut"
        value={water as 'no' | 'yes'}
        options={[
          ['no', 'None'],
          ['yes', 'Stands or runs in'],
        ]}
        onChange={(water) => type({ water })}
      />
      {held === 'slope' ? (
        <Row style={{ gap: 24 }}>
          <Check checked={clay !== ''} onChange={(on) => type({ clay: on ? 'yes' : '' })}>
            The competent person calls it stiff clay
          </Check>
          {clay ? (
            <Check checked={sound !== ''} onChange={(on) => type({ sound: on ? 'yes' : '' })}>
              Dry, without cracks
            </Check>
          ) : null}
        </Row>
      ) : null}
      <Foretold
        of={now.ok ? foreseen(state, me, now.value) : undefined}
        otherwise={now.ok ? '' : `${now.problems[0]?.field} ${now.problems[0]?.message}`}
      />
      <Row>
        <NowButton isDisabled={busy} onPress={put}>
          Record the cut{stands.length > 0 ? `, ${listed.format(stands.map((f) => PLANNED_WORDS[f]))} as planned` : ''}
        </NowButton>
        <Button
          onPress={() => {
            letGo()
            setOpen(false)
          }}
        >
          Close
        </Button>
      </Row>
      <Problems list={problems} />
    </Stack>
  )
}
const PLANNED_WORDS = { width: 'width', behind: 'room', slope: 'sides' } as const
const listed = new Intl.ListFormat('en')

/** A boulder, roots, a service, old work: what it is, how far it stands above the bottom, and the choice it forces. */
function ObstructionForm(props: GroundProps) {
  const { state, section, station, units, record } = props
  const of = toRecheck(props, 'obstruction')
  const [open, setOpen] = useState(false)
  // Looked at again it opens as it was found.
  const found = of?.data as ObstructionData | undefined
  const {
    v: typed,
    set: type,
    letGo,
    begun,
  } = useTypedForm(`obstruction ${section} ${of?.id ?? ''} ${units}`, {
    length: found ? typedAmount(found.to - found.from, 'length', units) : '',
    above: found ? typedAmount(found.above, 'small', units) : '',
    note: found?.note ?? '',
    what: found?.what ?? 'rock',
    way: found?.way ?? 'break-out',
  })
  const centre = found ? (found.from + found.to) / 2 : station
  const what = typed.what as keyof typeof OBSTRUCTIONS
  const way = typed.way as keyof typeof WAYS
  const { length, above, note } = typed
  const { busy, problems, setProblems, go } = useRecord(record)
  const step = digStep(state, section)
  if (!step) return null
  if (!open && !of && !begun) return <Button onPress={() => setOpen(true)}>Something in the way at {formatStation(station, units)}</Button>
  const high = parseAmount(above, 'small', units)
  const limit = limitsOf(state.layout.plan).padThickness.value
  const words = !high.ok
    ? ''
    : Math.abs(high.value) <= limit + 1e-6
      ? `The pad may be ${formatSmall(high.value, units)} thinner here: within ${formatSmall(limit, units)} of design.`
      : `More than ${formatSmall(limit, units)}: a pad thin here and thick beside it settles unevenly. Break it out, or step up a whole course (${formatSmall(state.layout.building.course(1).height, units)}).`
  const read = (): Result<Fact> => {
    const long = parseAmount(length, 'length', units)
    if (!long.ok || !high.ok)
      return failAll([
        ...(long.ok ? [] : [{ field: 'length', message: long.problems[0]?.message ?? '' }]),
        ...(high.ok ? [] : [{ field: 'above', message: high.problems[0]?.message ?? '' }]),
      ])
    const from = Math.max(0, Math.round((centre - long.value / 2) * 100) / 100)
    const to = Math.round((centre + long.value / 2) * 100) / 100
    const data = { what, from, to, above: high.value, way, ...(note.trim() ? { note: note.trim() } : {}) }
    return ok({ kind: 'obstruction', where: { stage: step.stage.id, section }, data, ...(of ? { recheckOf: of.id } : {}) })
  }
  const now = read()
  const put = async () => {
    if (!now.ok) return setProblems(now.problems)
    if (await go([now.value])) {
      letGo()
      setOpen(false)
    }
  }
  return (
    <Stack style={{ borderTop: '2px solid var(--ink)', paddingTop: 10 }}>
      <h2 className="minor">In the way at {formatStation(centre, units)}</h2>
      <Choice
        label="What"
        value={what}
        options={Object.entries(OBSTRUCTIONS) as [keyof typeof OBSTRUCTIONS, string][]}
        onChange={(what) => type({ what })}
      />
      <Row>
        <AmountField label="Length along the wall" of="length" value={length} onChange={(length) => type({ length })} />
        <AmountField label="Above the bottom" of="small" value={above} onChange={(above) => type({ above })} />
        <Field label="Note" value={note} onChange={(note) => type({ note })} />
      </Row>
      {words ? <Caution>{words}</Caution> : null}
      <Choice label="What is done" value={way} options={Object.entries(WAYS) as [keyof typeof WAYS, string][]} onChange={(way) => type({ way })} />
      {what === 'service' ? <Caution>A service: stop, keep everyone away, ask its owner. It is never broken out or built over.</Caution> : null}
      <Foretold of={now.ok ? foreseen(state, props.me, now.value) : undefined} otherwise="It is judged as you type." />
      <Row>
        <NowButton isDisabled={busy} onPress={put}>
          Record
        </NowButton>
        <Button
          onPress={() => {
            letGo()
            setOpen(false)
          }}
        >
          Close
        </Button>
      </Row>
      <Problems list={problems} />
    </Stack>
  )
}
