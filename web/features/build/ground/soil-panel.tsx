'use client'

import {
  CLEARED_BY,
  failAll,
  formatSmall,
  formatStation,
  formatVolume,
  identifySoil,
  ok,
  parseAmount,
  type Result,
  type SoilAnswers,
  type SoilReportData,
  say,
  since,
  soilParameters,
  soilQuestions,
  soilsOf,
  tableOf,
  typedAmount,
  undercutVolume,
  unitOf,
} from '@stone-tally/core'
import { useState } from 'react'
import { Button as AriaButton } from 'react-aria-components'
import styled from 'styled-components'
import { type Fact, Finding, Foretold, foreseen, useRecord, useTypedForm } from '@/features/wall'
import { AmountField } from '@/ui/amount-field'
import { Button, Caution, Choice, Field, NowButton, Problems, Quiet, Row, Stack, Stop } from '@/ui/controls'
import { Hero, Targets } from '@/ui/figure'
import { Table } from '@/ui/table'
import { Halves } from './dig-panel'
import { amountOf, digStep, type GroundProps, numberOf } from './types'

const Answers = styled.div`
  display: grid; grid-template-columns: repeat(auto-fit, minmax(150px, 1fr)); gap: 8px;
  button { min-height: 84px; padding: 10px 12px; border: 2px solid var(--ink); border-radius: 4px; background: var(--panel); color: var(--ink); font: 600 19px/1.15 'Archivo Variable', sans-serif; text-align: left; display: grid; align-content: center; gap: 3px; cursor: pointer; }
  small { font: 400 14px/1.2 'Archivo Variable', sans-serif; color: var(--soft); }
`
const FILLS = [
  ['pad-material', 'Pad material'],
  ['clean-stone', 'Clean stone'],
  ['lean-concrete', 'Lean concrete'],
  ['site-soil', 'Soil of the site'],
] as const
const FIRM = [
  ['heel', 'A heel'],
  ['bar', 'A bar'],
  ['proof-roll', 'A loaded wheel'],
] as const
const ZONES = [
  ['foundation', 'Under the wall'],
  ['retained', 'Held back'],
  ['reinforced', 'With geogrid'],
] as const

/** Six taps to a class of soil, what it means here, what is dug out, and the values strength checks work with. */
export function SoilPanel(props: GroundProps) {
  const { state, section, units, me, record, finding, wall } = props
  const soils = soilsOf(state, section)
  const open = soils.filter((s) => s.open)
  return (
    <Halves>
      <Stack>
        <Questions {...props} />
      </Stack>
      <Stack>
        {open.map((s) => (
          <Stop key={s.entry.entry.id}>
            <Finding
              state={state}
              finding={s.entry}
              me={me}
              record={record}
              rechecking={finding === s.entry.entry.id}
              onRecheck={() => {}}
              elsewhere={finding === s.entry.entry.id ? undefined : `/walls/${wall}/ground?finding=${s.entry.entry.id}`}
            />
            {state.actions.has(s.entry.entry.id) ? s.finding.stop ? <ClearanceForm {...props} of={s} /> : <UndercutForm {...props} of={s} /> : null}
          </Stop>
        ))}
        <h2 className="minor">Found in section {section}</h2>
        {soils.length === 0 ? <p>Nothing yet. Judge the soil wherever it changes along the trench.</p> : null}
        {soils.map((s) => (
          <div key={s.entry.entry.id}>
            <strong>
              {s.finding.suitable ? '✓' : s.open ? '▲' : '◆'} {formatStation(s.data.from, units)} to {formatStation(s.data.to, units)}:{' '}
              {s.finding.meaning.name}
            </strong>
            <div style={{ color: 'var(--soft)' }}>
              {s.finding.stop
                ? s.open
                  ? 'work is stopped'
                  : 'made safe; judge the soil again'
                : s.finding.suitable
                  ? 'may stay'
                  : s.open
                    ? `dig out ${formatSmall(s.finding.undercut, units)}`
                    : 'dug out and replaced'}{' '}
              · {say(s.finding.because[0] ?? '', units)}
            </div>
          </div>
        ))}
        <h2 className="minor">Values for the strength checks</h2>
        <Table
          label="Soil values"
          rows={ZONES.map(([zone, title]) => ({ zone, title, p: soilParameters(state, zone) }))}
          id={(z) => z.zone}
          columns={[
            { head: 'Soil', cell: (z) => z.title },
            { head: 'φ, °', is: 'n', cell: ({ p }) => (p ? p.values.phi : '—') },
            { head: <>γ, {unitOf('weight', units)}</>, is: 'n', cell: ({ p }) => (p ? typedAmount(p.values.gamma, 'weight', units) : '—') },
            { head: <>c, {unitOf('pressure', units)}</>, is: 'n', cell: ({ p }) => (p ? typedAmount(p.values.c, 'pressure', units) : '—') },
            { head: 'From', is: 'wrap', cell: ({ p }) => (p ? `${p.assumed ? '◇ ' : '✓ '}${p.source}` : 'nothing found yet') },
          ]}
        />
        <ReportForm {...props} />
      </Stack>
    </Halves>
  )
}

function Questions({ state, section, station, units, record }: GroundProps) {
  const own = state.layout.plan.sections.find((s) => s.id === section)
  const { v: given, set: setAnswers, letGo: again } = useTypedForm<Readonly<Record<string, string>>>(`soil ${section}`, {})
  const answers = given as Partial<SoilAnswers>
  // The stretch belongs to its section and its units: 4.50 m is not 4.50 ft.
  const { v, set } = useTypedForm(`soil stretch ${section} ${units}`, {
    from: formatStation(own?.from ?? 0, units),
    to: formatStation(own?.to ?? 0, units),
    place: '',
  })
  const { from, to, place } = v
  const { busy, problems, setProblems, go } = useRecord(record)
  const step = digStep(state, section)
  const table = tableOf(state.layout.plan)
  const questions = soilQuestions(table)
  const at = questions.findIndex((q) => answers[q.id] === undefined)
  const question = questions[at]
  if (question) {
    return (
      <Stack>
        <Row style={{ justifyContent: 'space-between', alignItems: 'center' }}>
          <Hero value={`${at + 1}`} unit={`of ${questions.length}: a handful from the bottom at ${formatStation(station, units)}`} />
          {at > 0 ? (
            <Quiet
              onPress={() => {
                const before = questions[at - 1]
                if (before) setAnswers({ [before.id]: undefined } as never)
              }}
            >
              One back
            </Quiet>
          ) : null}
        </Row>
        <h2>{question.ask}</h2>
        <Answers role="group" aria-label={question.ask}>
          {question.answers.map(([id, name, hint]) => (
            <AriaButton key={id} onPress={() => setAnswers({ [question.id]: id })}>
              {name}
              {hint ? <small>{say(hint, units)}</small> : null}
            </AriaButton>
          ))}
        </Answers>
        <p style={{ color: 'var(--soft)', fontSize: 15 }}>
          A field identification, not a soil report. Taste nothing; gloves on where the ground may be fouled.
        </p>
      </Stack>
    )
  }
  const found = identifySoil(answers as SoilAnswers, table)
  const [a, b] = [parseAmount(from, 'length', units), parseAmount(to, 'length', units)]
  const length = a.ok && b.ok ? Math.max(0, b.value - a.value) : 0
  const put = async () => {
    if (!a.ok || !b.ok) return setProblems([...(a.ok ? [] : a.problems), ...(b.ok ? [] : b.problems)])
    if (!step) return
    if (
      await go([
        { kind: 'soil', where: { stage: step.stage.id, section }, data: { answers, from: a.value, to: b.value, ...(place ? { place } : {}) } },
      ])
    )
      again()
  }
  return (
    <Stack>
      <h2>{found.stop ? '■ Stop: leave the cut' : `${found.suitable ? '✓ ' : '▲ '}${found.meaning.name}`}</h2>
      <p>
        <strong>
          {found.stop
            ? 'Everyone out, engines and sparks away, let it air. Record it: nothing goes on before it is answered by name.'
            : found.suitable
              ? 'May stay under the pad.'
              : `Unsuitable: dig out at least ${formatSmall(found.undercut, units)}, to firm ground.`}
        </strong>{' '}
        Because: {say(found.because.join('; '), units)}.
      </p>
      {found.suitable || found.stop ? null : (
        <Targets
          list={[
            ['Dig out, at least', formatSmall(found.undercut, units)],
            ['Soil out, fill in', formatVolume(undercutVolume(length, state.layout.building.foundation.width, found.undercut), units)],
          ]}
        />
      )}
      {found.stop ? null : (
        <Targets
          list={[
            ['Drains', found.meaning.drainage],
            ['Heaves in frost', found.meaning.frost],
            ['Swells', found.meaning.swelling ? 'yes' : 'no'],
            ['Loose lifts up to', found.meaning.lift > 0 ? formatSmall(found.meaning.lift, units) : 'not as fill'],
          ]}
        />
      )}
      {found.advice.map((t) => (
        <Caution key={t}>{say(t, units)}</Caution>
      ))}
      {since(state.layout.plan, 3) ? (
        <Choice<string>
          label="It lies"
          value={place}
          options={[
            ['', 'In floor and sides'],
            ['floor', 'In the floor alone'],
            ['sides', 'In the sides alone'],
          ]}
          onChange={(place) => set({ place })}
        />
      ) : null}
      <Row>
        <AmountField label="From" of="length" value={from} onChange={(from) => set({ from })} />
        <AmountField label="To" of="length" value={to} onChange={(to) => set({ to })} />
      </Row>
      <Row>
        <NowButton isDisabled={busy} onPress={put}>
          Record this soil
        </NowButton>
        <Button onPress={again}>Ask again</Button>
      </Row>
      <Problems list={problems} />
    </Stack>
  )
}

function UndercutForm({ state, section, units, me, record, of }: GroundProps & { of: ReturnType<typeof soilsOf>[number] }) {
  const {
    v: typed,
    set: type,
    letGo,
  } = useTypedForm(`undercut ${of.entry.entry.id} ${units}`, {
    depth: '',
    fill: 'compacted pad material',
    material: 'pad-material',
    lifts: '',
    passes: '3',
    firm: '',
    engineer: '',
  })
  const { depth, fill, material, lifts, passes, firm, engineer } = typed
  const asked = tableOf(state.layout.plan) > 1
  const { busy, problems, setProblems, go } = useRecord(record)
  const read = (): Result<Fact> => {
    const d = parseAmount(depth, 'small', units)
    if (!d.ok) return failAll(d.problems)
    const more = {
      material,
      ...(lifts.trim() ? { lifts: Number(lifts) } : {}),
      ...(firm ? { firm } : {}),
      ...(engineer.trim() ? { engineer: engineer.trim() } : {}),
    }
    return ok({
      kind: 'undercut',
      where: { ...of.entry.entry.where, section },
      data: { from: of.data.from, to: of.data.to, depth: d.value, fill, passes: Number(passes), ...(asked ? more : {}) },
      recheckOf: of.entry.entry.id,
    })
  }
  const now = read()
  const put = async () => {
    if (!now.ok) return setProblems(now.problems)
    if (await go([now.value])) letGo()
  }
  return (
    <Stack>
      <strong>
        Dug out {formatStation(of.data.from, units)} to {formatStation(of.data.to, units)}, at least {formatSmall(of.finding.undercut, units)}:
      </strong>
      <Row>
        <AmountField label="Depth" of="small" value={depth} onChange={(depth) => type({ depth })} />
        <Field label="Filled with" value={fill} onChange={(fill) => type({ fill })} />
        {asked ? <Field label="In lifts" value={lifts} onChange={(lifts) => type({ lifts })} inputMode="numeric" /> : null}
        <Field label="Passes" value={passes} onChange={(passes) => type({ passes })} inputMode="numeric" />
      </Row>
      {asked ? (
        <>
          <Choice label="It is" value={material as 'pad-material'} options={FILLS} onChange={(material) => type({ material })} />
          <Choice label="Firm grown ground at the bottom, seen by" value={firm as 'heel'} options={FIRM} onChange={(firm) => type({ firm })} />
          <Field
            label="Or the engineer’s word"
            value={engineer}
            onChange={(engineer) => type({ engineer })}
            hint="name and paper, where it goes no deeper"
          />
        </>
      ) : null}
      <p>
        About {formatVolume(undercutVolume(of.data.to - of.data.from, state.layout.building.foundation.width, of.finding.undercut), units)} to fill.
        Separation fabric between soft soil and stone.
      </p>
      <Foretold of={now.ok ? foreseen(state, me, now.value) : undefined} otherwise="It is judged as you type." />
      <Button isDisabled={busy || !depth.trim()} onPress={put}>
        Record the undercut
      </Button>
      <Problems list={problems} />
    </Stack>
  )
}

/** A stop answered by name: nothing else lets people back. */
function ClearanceForm({ section, record, of }: GroundProps & { of: ReturnType<typeof soilsOf>[number] }) {
  const { v, set, letGo } = useTypedForm(`clearance ${of.entry.entry.id}`, { who: '', as: '', seen: '', reference: '' })
  const { busy, problems, go } = useRecord(record)
  const put = async () => {
    const done = await go([
      {
        kind: 'clearance',
        where: { ...of.entry.entry.where, section },
        data: { who: v.who.trim(), as: v.as, seen: v.seen.trim(), ...(v.reference.trim() ? { reference: v.reference.trim() } : {}) },
        recheckOf: of.entry.entry.id,
      },
    ])
    if (done) letGo()
  }
  return (
    <Stack>
      <strong>Who says that people may go back in?</strong>
      <Row>
        <Field label="Name" value={v.who} onChange={(who) => set({ who })} />
        <Field label="Measured or seen" value={v.seen} onChange={(seen) => set({ seen })} />
        <Field label="Paper or call" value={v.reference} onChange={(reference) => set({ reference })} />
      </Row>
      <Choice
        label="Is the"
        value={v.as as keyof typeof CLEARED_BY}
        options={Object.entries(CLEARED_BY) as [keyof typeof CLEARED_BY, string][]}
        onChange={(as) => set({ as })}
      />
      <Button isDisabled={busy || !v.who.trim() || !v.as || !v.seen.trim()} onPress={put}>
        Record that it is safe
      </Button>
      <Problems list={problems} />
    </Stack>
  )
}

function ReportForm({ record, me, units }: GroundProps) {
  const [open, setOpen] = useState(false)
  const [zone, setZone] = useState<SoilReportData['zone']>('foundation')
  const { v: typed, set: type, letGo, begun } = useTypedForm(`soil-report ${units}`, { phi: '', gamma: '', c: '', source: '' })
  const { phi, gamma, c, source } = typed
  const { busy, problems, setProblems, go } = useRecord(record)
  if (me.role === 'crew') return null
  if (!open && !begun) return <Button onPress={() => setOpen(true)}>Enter values of a soil report</Button>
  const put = async () => {
    const data = { zone, phi: numberOf(phi), gamma: amountOf(gamma, 'weight', units), c: amountOf(c, 'pressure', units), source: source.trim() }
    if ([data.phi, data.gamma, data.c].some(Number.isNaN) || !data.source)
      return setProblems([{ field: 'report', message: 'needs the three numbers and where they come from' }])
    if (await go([{ kind: 'soil-report', where: {}, data }])) {
      letGo()
      setOpen(false)
    }
  }
  return (
    <Stack>
      <Choice label="Soil" value={zone} options={ZONES} onChange={setZone} />
      <Row>
        <Field label="Friction angle, °" value={phi} onChange={(phi) => type({ phi })} inputMode="decimal" />
        <AmountField label="Unit weight" of="weight" value={gamma} onChange={(gamma) => type({ gamma })} />
        <AmountField label="Cohesion" of="pressure" value={c} onChange={(c) => type({ c })} />
      </Row>
      <Field label="Report, page, date" value={source} onChange={(source) => type({ source })} />
      <NowButton isDisabled={busy} onPress={put}>
        Record the values
      </NowButton>
      <Problems list={problems} />
    </Stack>
  )
}
