'use client'

import {
  type CurveData,
  curveOf,
  type curvesOf,
  type DensityData,
  densityOf,
  formatLength,
  formatSmall,
  formatStation,
  type Instrument,
  knownApparatus,
  knownMethod,
  lineOf,
  looksLikeShare,
  type Measure,
  nextTest,
  type Problem,
  provenByMethod,
  say,
  stepKey,
  tableOf,
  typedAmount,
  unitOf,
} from '@stone-tally/core'
import { useState } from 'react'
import { TakeReading } from '@/features/instruments'
import { Foretold, foreseen, useRecord, useTypedForm } from '@/features/wall'
import { Button, Caution, Choice, Field, NowButton, Problems, Row, Stack } from '@/ui/controls'
import { Judgement } from '@/ui/figure'
import { fromWords } from '@/ui/known-words'
import { amountOf, type GroundProps, numberOf } from './types'

/** What belongs to the apparatus, not to the soil. */
const CALIBRATED: ReadonlySet<string> = new Set(['coneMass', 'sandDensity', 'densityReference', 'moistureReference'])

/** A test of one lift at the chosen station. */
export function TestForm({
  state,
  section,
  station,
  units,
  me,
  record,
  curve,
  stage,
  course,
  lifts,
  recheck,
}: GroundProps & {
  curve: ReturnType<typeof curvesOf>[number] | undefined
  stage: string
  course: number | undefined
  lifts: number
  recheck: string | undefined
}) {
  const before = knownMethod(state, stage)?.value
  // As this stage was tested last; a pad whose method is its proof, or that has no fines, by what was seen.
  const [method, setMethod] = useState<DensityData['method']>(
    before?.method ?? (provenByMethod(state.layout, state.byStage.get(stage)) ? 'record' : 'sand-cone'),
  )
  const of = recheck ? state.byId.get(recheck)?.entry : undefined
  // What cone and gauge were calibrated to stands as it was used here last: nobody can guess another one.
  const [cone, gauge] = [knownApparatus(state, 'sand-cone'), knownApparatus(state, 'gauge')]
  const shown = (value: number | undefined, measure: Measure) => (value === undefined ? '' : typedAmount(value, measure, units))
  const { v, set, letGo } = useTypedForm<Readonly<Record<string, string>>>(`density ${stage} ${section} ${course ?? ''} ${recheck ?? ''} ${units}`, {
    lift: `${(of?.data as DensityData | undefined)?.lift ?? nextTest(state, stepKey({ stage, section, course }))?.lift ?? lifts}`,
    coneMass: shown(cone?.value.coneMass, 'mass'),
    sandDensity: shown(cone?.value.sandDensity, 'density'),
    densityReference: `${gauge?.value.densityReference ?? ''}`,
    moistureReference: `${gauge?.value.moistureReference ?? ''}`,
    seen: '',
    untestable: before?.untestable ?? '',
    oversize: '',
  })
  const { lift = '', seen = '', untestable = '', oversize = '' } = v
  const asked = tableOf(state.layout.plan) > 1
  const [taken, setTaken] = useState<Instrument>()
  const [sure, setSure] = useState(false)
  const { busy, problems, setProblems, go } = useRecord(record)
  const put = (key: string) => (value: string) => {
    setTaken(undefined)
    setSure(false)
    set({ [key]: value })
  }
  const fields: readonly (readonly [string, string, Measure?])[] =
    method === 'sand-cone'
      ? [
          ['massBefore', 'Jar before', 'mass'],
          ['massAfter', 'Jar after', 'mass'],
          ['coneMass', 'Cone', 'mass'],
          ['sandDensity', 'Sand', 'density'],
          ['soilMass', 'Soil out', 'mass'],
          ['moisture', 'Moisture, %'],
        ]
      : [
          ['wetDensity', 'Wet density', 'density'],
          ['moisture', 'Moisture, %'],
          ['densityStandard', 'Standard today, density'],
          ['densityReference', 'Reference, density'],
          ['moistureStandard', 'Standard today, moisture'],
          ['moistureReference', 'Reference, moisture'],
        ]
  const own = method === 'sand-cone' ? cone : gauge
  const hintOf = (key: string) => (own && key in own.value ? fromWords(own) : CALIBRATED.has(key) ? 'as its calibration paper says' : undefined)
  const number = (key: string, measure?: Measure) => (measure ? amountOf(v[key] ?? '', measure, units) : numberOf(v[key] ?? ''))
  const at = of?.where.station ?? Math.round(station * 100) / 100
  const values = Object.fromEntries(fields.map(([k, , measure]) => [k, number(k, measure)]))
  const data = {
    method,
    lift: Number(lift),
    ...(method === 'record'
      ? {
          seen: seen.trim(),
          ...(asked && untestable ? { untestable } : {}),
          ...(asked && untestable === 'oversize' && oversize.trim() ? { oversize: numberOf(oversize) } : {}),
        }
      : { curve: curve?.entry.entry.id, ...(method === 'sand-cone' ? { cone: values } : { gauge: values }) }),
  }
  const whole = method !== 'record' && curve !== undefined && Object.values(values).every((n) => !Number.isNaN(n))
  // Judged while it is typed, with the same code that judges it in the record.
  const preview = whole
    ? densityOf({ data } as never, { stage: state.byStage.get(stage), find: (id) => state.byId.get(id)?.entry, layout: state.layout })
    : undefined
  const judged = preview?.ok ? preview.value : undefined
  const odd = judged?.text.includes('zero air voids') ?? false
  const send = async () => {
    const wrong: Problem[] =
      method === 'record'
        ? []
        : fields.filter(([k, , measure]) => Number.isNaN(number(k, measure))).map(([, name]) => ({ field: name, message: 'is not a number' }))
    if (wrong.length > 0) return setProblems(wrong)
    if (odd && !sure) return setSure(true)
    const done = await go([
      {
        kind: 'density',
        where: { stage, section, ...(course === undefined ? {} : { course }), station: at },
        data,
        ...(recheck ? { recheckOf: recheck } : {}),
        ...(taken && method === 'gauge' ? { instrument: taken } : {}),
      },
    ])
    if (done) {
      letGo()
      setSure(false)
    }
  }
  // Why a method record would not be taken is said before it is pressed.
  const told =
    method === 'record' && seen.trim().length > 2
      ? foreseen(state, me, { kind: 'density', where: { stage, section, ...(course === undefined ? {} : { course }), station: at }, data })
      : undefined
  const share = looksLikeShare(number('moisture'))
  const lab = curve ? curveOf(curve.data) : undefined
  return (
    <Stack>
      <h2 className="minor">
        {of ? 'Test again' : 'Test'} at {formatStation(at, units)}
      </h2>
      {of ? <p>{lineOf(state, of, { units })}</p> : null}
      <Choice
        label="How"
        hideLabel
        value={method}
        options={[
          ['sand-cone', 'Sand cone'],
          ['gauge', 'Gauge'],
          ['record', 'Method record'],
        ]}
        onChange={setMethod}
      />
      <Row>
        <div style={{ width: 90 }}>
          <Field label="Lift" value={lift} onChange={put('lift')} inputMode="numeric" />
        </div>
        {method === 'record'
          ? null
          : fields.map(([k, name, measure]) => (
              <div key={k} style={{ width: 150 }}>
                <Field
                  label={measure ? `${name}, ${unitOf(measure, units)}` : name}
                  value={v[k] ?? ''}
                  onChange={put(k)}
                  inputMode="decimal"
                  hint={hintOf(k)}
                />
              </div>
            ))}
      </Row>
      {method === 'record' ? <Field label="What was seen: plant, passes, until nothing moved" value={seen} onChange={put('seen')} long /> : null}
      {method === 'record' && asked ? (
        <>
          <Choice
            label="It cannot be tested because it is"
            value={untestable as 'open-graded' | 'oversize'}
            options={[
              ['open-graded', 'Stone without fines'],
              ['oversize', 'Full of coarse stones'],
            ]}
            onChange={put('untestable')}
          />
          {untestable === 'oversize' ? (
            <div style={{ width: 150 }}>
              <Field label="Coarse stones, %" value={oversize} onChange={put('oversize')} inputMode="decimal" />
            </div>
          ) : null}
        </>
      ) : null}
      {told?.refused ? <Foretold of={told} otherwise="" /> : null}
      {method === 'gauge' ? (
        <TakeReading
          kind="density-gauge"
          scene={
            lab?.ok ? { wet: lab.value.maximumDryDensity * 0.972 * (1 + lab.value.optimumMoisture / 100), moisture: lab.value.optimumMoisture } : {}
          }
          onTaken={(r, i) => {
            set({
              wetDensity: typedAmount(Math.round(r.wet ?? 0), 'density', units),
              moisture: (r.moisture ?? 0).toFixed(1),
              densityStandard: (r.dstd ?? 0).toFixed(0),
              densityReference: (r.dref ?? 0).toFixed(0),
              moistureStandard: (r.mstd ?? 0).toFixed(0),
              moistureReference: (r.mref ?? 0).toFixed(0),
            })
            setTaken(i)
          }}
        />
      ) : null}
      {share ? (
        <Caution>
          Moisture is in per cent: write {+(number('moisture') * 100).toFixed(2)} for {v.moisture}.
        </Caution>
      ) : null}
      {judged ? (
        <Judgement $out={judged.out} aria-live="polite">
          <b>
            {judged.out ? '▲ ' : '✓ '}
            {judged.relative.toFixed(1)} %
          </b>
          <span>
            {say(judged.text, units)}
            {odd ? '. Press record again if it stands as it was read.' : ''}
          </span>
        </Judgement>
      ) : null}
      {method === 'gauge' ? (
        <Caution>
          A nuclear gauge is for licensed people: keep it locked, keep others {formatLength(3, units, 0)} off, never leave it alone in the trench.
        </Caution>
      ) : null}
      <NowButton isDisabled={busy || (method === 'record' ? seen.trim().length < 3 : !curve)} onPress={send}>
        {odd && sure ? 'It was read so: record' : of ? 'Record the re-test' : 'Record the test'}
      </NowButton>
      <Problems list={problems} />
    </Stack>
  )
}

/** The laboratory's points, typed as they stand in the report: one pair a line. */
export function CurveForm({ me, record, units }: GroundProps) {
  const [open, setOpen] = useState(false)
  const { v, set, letGo, begun } = useTypedForm(`curve ${units}`, { name: '', source: '', lines: '', gs: '', share: '', sieve: '' })
  const { name, source, lines, gs, share, sieve } = v
  const { busy, problems, setProblems, go } = useRecord(record)
  if (me.role === 'crew') return null
  if (!open && !begun) return <Button onPress={() => setOpen(true)}>Enter a laboratory curve</Button>
  const points = lines
    .split('\n')
    .filter((l) => l.trim())
    .map((l) =>
      l
        .trim()
        .split(/[\s;]+/)
        .map((part, i) => (i === 1 ? amountOf(part, 'density', units) : numberOf(part))),
    )
  const shut = () => {
    letGo()
    setOpen(false)
  }
  const put = async () => {
    const bad = points.findIndex((p) => p.length !== 2 || p.some(Number.isNaN))
    if (bad >= 0)
      return setProblems([
        { field: `line ${bad + 1}`, message: `needs moisture and dry density, such as 9.5 ${typedAmount(2013, 'density', units)}` },
      ])
    const data: CurveData = {
      name: name.trim(),
      source: source.trim(),
      points: points.map(([moisture = 0, dryDensity = 0]) => ({ moisture, dryDensity })),
      ...(gs.trim() ? { gs: numberOf(gs) } : {}),
      ...(share.trim() ? { oversize: { share: numberOf(share), gs: 2.65, moisture: 1, ...(sieve ? { sieve: sieve as '4.75' | '19' } : {}) } } : {}),
    }
    if (await go([{ kind: 'curve', where: {}, data }])) shut()
  }
  return (
    <Stack>
      <Row>
        <Field label="Material" value={name} onChange={(name) => set({ name })} />
        <Field label="Report" value={source} onChange={(source) => set({ source })} />
      </Row>
      <Field
        label={`Moisture % and dry density ${unitOf('density', units)}, one point a line`}
        value={lines}
        onChange={(lines) => set({ lines })}
        long
      />
      <Row>
        <Field label="Gs of grains, 2.70 when empty" value={gs} onChange={(gs) => set({ gs })} inputMode="decimal" />
        <Field label="Coarse particles left out, %" value={share} onChange={(share) => set({ share })} inputMode="decimal" />
        {share.trim() ? (
          <Choice
            label="Taken off with the sieve of"
            value={sieve as '4.75' | '19'}
            options={[
              ['4.75', formatSmall(0.00475, units)],
              ['19', formatSmall(0.019, units)],
            ]}
            onChange={(sieve) => set({ sieve })}
          />
        ) : null}
      </Row>
      <Row>
        <NowButton isDisabled={busy || !name.trim() || !source.trim()} onPress={put}>
          Record the curve
        </NowButton>
        <Button onPress={shut}>Close</Button>
      </Row>
      <Problems list={problems} />
    </Stack>
  )
}
