'use client'

import {
  type BookDay,
  fail,
  failAll,
  formatDeviation,
  formatLength,
  formatSmall,
  formatStation,
  type Instrument,
  type LevelBook,
  latestSetup,
  levelBooks,
  limitsOf,
  ok,
  otherDatum,
  parseAmount,
  type Result,
  type SetupData,
  say,
  stakeMarks,
} from '@stone-tally/core'
import { useState } from 'react'
import { TakeReading } from '@/features/instruments'
import { type Fact, Finding, Foretold, foreseen, useRecord, useTyped, useTypedForm } from '@/features/wall'
import { AmountField } from '@/ui/amount-field'
import { Button, Choice, Field, NowButton, Problems, Row, Stack, Stop } from '@/ui/controls'
import { dayWords } from '@/ui/day-words'
import { Hero, Targets } from '@/ui/figure'
import { Said } from '@/ui/preferences'
import { counted } from '@/ui/sentence'
import { Table } from '@/ui/table'
import { Halves } from './dig-panel'
import { PointsForm } from './points-form'
import type { GroundProps } from './types'

type Job = 'setup' | 'check' | 'turn' | 'close' | 'stake' | 'points'

/** The level book: set up, check, move on and close; everything reduced as it comes. */
export function LevelPanel(props: GroundProps) {
  const { state, units, me, record } = props
  const [job, setJob] = useState<Job>('setup')
  const books = levelBooks(state)
  const now = latestSetup(state)
  const d = now?.entry.data as SetupData | undefined
  const hi = d ? d.benchmark + d.backsight : undefined
  const bad = state.entries.filter(
    (e) => e.entry.kind === 'sight' && state.outs.has(e.entry.id) && !state.superseded.has(e.entry.id) && !state.actions.has(e.entry.id),
  )
  return (
    <Halves>
      <Stack>
        {books.length === 0 ? <p>No readings yet. Set up the instrument and look back at a benchmark.</p> : null}
        {books.slice(0, 1).map((b) => (
          <Day key={`${b.day} ${b.with}`} day={b} units={units} />
        ))}
        {books.slice(1).map((b) => (
          <details key={`${b.day} ${b.with}`}>
            <summary
              style={{ minHeight: 48, display: 'flex', alignItems: 'center', gap: 8, cursor: 'pointer', borderBottom: '1px solid var(--line)' }}
            >
              <strong>
                {dayWords(b.day)} · {b.with}
              </strong>
              {b.book.ok ? summaryOf(b.book.value) : '▲ cannot be reduced'}
            </summary>
            <Day day={b} units={units} />
          </details>
        ))}
      </Stack>
      <Stack data-entry>
        {hi === undefined ? (
          <Hero value="—" unit="no height of instrument yet" />
        ) : (
          <Hero value={formatLength(hi, units)} unit="height of instrument" />
        )}
        {d ? (
          <Targets
            list={[
              ['Looked back at', d.point ?? state.layout.plan.benchmark.name],
              ['Backsight', formatLength(d.backsight, units)],
            ]}
          />
        ) : null}
        {bad.map((e) => (
          <Stop key={e.entry.id}>
            <Finding
              state={state}
              finding={e}
              me={me}
              record={record}
              rechecking={false}
              onRecheck={() => setJob(e.entry.data && (e.entry.data as { sight: string }).sight === 'check' ? 'setup' : 'close')}
            />
          </Stop>
        ))}
        <Choice
          label="What now"
          value={job}
          options={[
            ['setup', 'Set up'],
            ['check', 'Check'],
            ['turn', 'Move on'],
            ['close', 'Close'],
            ['stake', 'String and stake'],
            ['points', 'Survey points'],
          ]}
          onChange={setJob}
        />
        {job === 'stake' ? (
          <Stake {...props} />
        ) : job === 'points' ? (
          <PointsForm {...props} />
        ) : (
          <Shot key={job} {...props} job={job} hi={hi} books={books} />
        )}
      </Stack>
    </Halves>
  )
}

const summaryOf = (book: LevelBook) => {
  const shots = book.rows.filter((r) => r.kind !== 'backsight').length
  const open = book.legs.filter((l) => !l.within).length
  return `${counted(shots, 'reading')}${open > 0 ? ', ▲ does not close' : book.legs.length > 0 ? ', ✓ closed' : ''}`
}
const KIND = { backsight: 'BS', intermediate: 'IS', foresight: 'FS', check: 'check' } as const

/** One day's book: the classical columns, with closures below. */
function Day({ day, units }: { day: BookDay; units: GroundProps['units'] }) {
  const { book } = day
  return (
    <div>
      <h2 className="minor">
        {dayWords(day.day)} · {day.with}
      </h2>
      {book.ok ? (
        <>
          <Table
            label={`Level book ${dayWords(day.day)}, ${day.with}`}
            rows={book.value.rows}
            id={(r, i) => r.id ?? i}
            on={(r) => r.kind === 'backsight'}
            tall={460}
            columns={[
              {
                head: 'Point',
                cell: (r) => (
                  <>
                    {r.doubtful ? '▲ ' : ''}
                    {say(r.point, units)}
                    {r.kind === 'check' ? ` (check: ${formatDeviation(r.off ?? 0, 'level', units)})` : ''}
                    {r.doubtful && r.kind === 'intermediate' ? ' in doubt' : ''}
                    <span style={{ position: 'absolute', clipPath: 'inset(50%)' }}> {KIND[r.kind]}</span>
                  </>
                ),
              },
              { head: 'Backsight', is: 'n', cell: (r) => (r.kind === 'backsight' ? formatLength(r.reading, units) : '') },
              { head: 'Between', is: 'n', cell: (r) => (r.kind === 'intermediate' || r.kind === 'check' ? formatLength(r.reading, units) : '') },
              { head: 'Foresight', is: 'n', cell: (r) => (r.kind === 'foresight' ? formatLength(r.reading, units) : '') },
              { head: 'HI', is: 'n', cell: (r) => (r.kind === 'backsight' ? formatLength(r.hi, units) : '') },
              { head: 'Elevation', is: 'n', cell: (r) => formatLength(r.elevation, units) },
              { head: 'Adjusted', is: 'n', cell: (r) => (Math.abs(r.adjusted - r.elevation) > 5e-5 ? formatLength(r.adjusted, units) : '') },
            ]}
          />
          {book.value.legs.map((l) => (
            <p key={`${l.from} ${l.firstSetup}`}>
              <strong>
                {l.within ? '✓' : '▲'} {l.from} to {say(l.to, units)}: {formatSmall(l.misclosure, units)} {l.misclosure >= 0 ? 'high' : 'low'}
              </strong>
              , allowed {units === 'metric' ? `${(l.allowed * 1000).toFixed(1)} mm` : formatSmall(l.allowed, units)} over {l.setups} set-ups.{' '}
              {l.within ? 'Shared out over the set-ups.' : 'Not shared out: look for the blunder, level again.'}
            </p>
          ))}
          {book.value.open > 0 && book.value.rows.some((r) => r.kind === 'backsight' && r.reading > 0) ? (
            <p style={{ color: 'var(--soft)' }}>{book.value.open} set-ups not closed yet: end the day on a benchmark.</p>
          ) : null}
        </>
      ) : (
        <Problems list={book.problems} />
      )}
    </div>
  )
}

/** One sight: back, check, on or closing; judged while it is typed. */
function Shot({
  state,
  units,
  me,
  record,
  job,
  hi,
  books,
}: GroundProps & { job: 'setup' | 'check' | 'turn' | 'close'; hi: number | undefined; books: readonly BookDay[] }) {
  const { benchmark } = state.layout.plan
  const planned = units === 'metric' ? benchmark.elevation.toFixed(3) : formatLength(benchmark.elevation, units)
  const last = [...state.entries]
    .reverse()
    .find(
      (e) =>
        e.entry.kind === 'sight' &&
        (e.entry.data as { sight: string }).sight === 'foresight' &&
        (e.entry.data as { known?: number }).known === undefined,
    )
  const turning = last?.entry.data as { point: string; hi: number; reading: number } | undefined
  const [from, setFrom] = useState<'benchmark' | 'turning'>('benchmark')
  const { v, set, letGo } = useTypedForm(`level ${job} ${units}`, {
    point: job === 'turn' ? `TP${state.entries.filter((e) => e.entry.kind === 'sight').length + 1}` : benchmark.name,
    known: planned,
    reading: '',
  })
  const { point, known, reading } = v
  const [sure, setSure] = useState(false)
  const [taken, setTaken] = useState<Instrument>()
  const { busy, problems, setProblems, go } = useRecord(record)
  const onTurning = job === 'setup' && from === 'turning' && turning
  const value = parseAmount(reading, 'length', units)
  const elevation = parseAmount(known, 'length', units)
  const known1 = onTurning ? turning.hi - turning.reading : elevation.ok ? elevation.value : undefined
  const question =
    job !== 'turn' && !onTurning && elevation.ok && point === benchmark.name ? otherDatum(elevation.value, benchmark.elevation) : undefined
  const open = books[0]?.book.ok ? books[0].book.value.open : 1
  const read = (): Result<Fact> => {
    if (!value.ok) return value
    if (job !== 'turn' && known1 === undefined) return failAll(elevation.ok ? [] : elevation.problems)
    if (job !== 'setup' && hi === undefined) return fail('height', 'set up the instrument first')
    const data =
      job === 'setup'
        ? onTurning
          ? { benchmark: known1, backsight: value.value, point: turning.point, turning: true }
          : { benchmark: known1, backsight: value.value, ...(point === benchmark.name ? {} : { point }) }
        : job === 'turn'
          ? { sight: 'foresight', point, hi, reading: value.value }
          : job === 'check'
            ? { sight: 'check', point, hi, reading: value.value, known: known1 }
            : { sight: 'foresight', point, hi, reading: value.value, known: known1, setups: Math.max(1, open) }
    return ok({ kind: job === 'setup' ? 'setup' : 'sight', where: {}, data, ...(taken ? { instrument: taken } : {}) })
  }
  const now = read()
  const put = async () => {
    if (!now.ok) return setProblems(now.problems)
    if (question && !sure) return setSure(true)
    if (await go([now.value])) {
      letGo()
      setSure(false)
    }
  }
  return (
    <Stack>
      {job === 'setup' && turning ? (
        <Choice
          label="Look back at"
          value={from}
          options={[
            ['benchmark', 'A benchmark'],
            ['turning', turning.point],
          ]}
          onChange={setFrom}
        />
      ) : null}
      <Row>
        {onTurning ? null : <Field label={job === 'turn' ? 'Turning point' : 'Benchmark'} value={point} onChange={(point) => set({ point })} />}
        {job === 'turn' || onTurning ? null : <AmountField label="Its elevation" of="length" value={known} onChange={(known) => set({ known })} />}
        <AmountField
          label={job === 'setup' ? 'Backsight' : job === 'check' ? 'Check shot' : 'Foresight'}
          of="length"
          value={reading}
          onChange={(reading) => {
            set({ reading })
            setTaken(undefined)
          }}
        />
      </Row>
      <TakeReading
        kind="level"
        scene={{ rod: job === 'setup' || hi === undefined || known1 === undefined ? 1.482 : hi - known1 }}
        onTaken={(r, i) => {
          set({ reading: units === 'metric' ? (r.rod ?? 0).toFixed(3) : formatLength(r.rod ?? 0, units) })
          setTaken(i)
        }}
      />
      {question ? (
        <Stop role="status">
          ▲ <Said>{question}</Said> {sure ? 'Press record again if it is right.' : ''}
        </Stop>
      ) : null}
      {(job === 'check' || job === 'close') && reading.trim() && now.ok ? (
        <Foretold of={foreseen(state, me, now.value)} otherwise="It is judged as you type." />
      ) : null}
      {job === 'setup' && value.ok && known1 !== undefined ? (
        <p aria-live="polite">HI would be {formatLength(known1 + value.value, units)}.</p>
      ) : null}
      <NowButton isDisabled={busy || !reading.trim()} onPress={put}>
        {question && sure
          ? 'It is right: record'
          : job === 'setup'
            ? 'Record the set-up'
            : job === 'check'
              ? 'Record the check'
              : job === 'turn'
                ? 'Record and move on'
                : 'Record and close'}
      </NowButton>
      <p style={{ color: 'var(--soft)', fontSize: 15 }}>
        {job === 'setup'
          ? 'Level the instrument, look back at a point whose elevation is known.'
          : job === 'check'
            ? `Look at a known point again: more than ${formatSmall(limitsOf(state.layout.plan).levelCheck.value, units)} off means that the instrument moved.`
            : job === 'turn'
              ? 'Read a firm point ahead, then move the instrument and look back at it.'
              : 'End on a known point: what the book is off is shared out over the set-ups, if it is within what is allowed.'}
      </p>
      <Problems list={problems} />
    </Stack>
  )
}

/** A level string and a tape: drops to trench, pad and every course at the chosen station, as marks up a stake. */
function Stake({ state, station, units }: GroundProps) {
  const [string, setString] = useTyped(`stake ${units}`, 'string')
  const level = parseAmount(string, 'length', units)
  const { layout } = state
  const step = layout.steps.find((s) => station >= s.start && station <= s.end) ?? layout.steps[0]
  const courses = layout.courses.filter((c) => c.stretches.some((s) => station >= s.from && station <= s.to))
  const marks =
    level.ok && step
      ? stakeMarks(level.value, [
          { course: -1, top: step.elevation - layout.building.foundation.thickness },
          { course: 0, top: step.elevation },
          ...courses,
        ])
      : []
  return (
    <Stack>
      <AmountField
        label="Elevation of the level string"
        of="length"
        value={string}
        onChange={setString}
        hint="Stretched level between two stakes; measure down from it."
      />
      {marks.length > 0 ? (
        <Table
          label="Marks from the string"
          rows={[...marks].reverse()}
          id={(m) => m.course}
          columns={[
            {
              head: <>At {formatStation(station, units)}</>,
              cell: (m) => (m.course < 0 ? 'Bottom of trench' : m.course === 0 ? 'Top of pad' : `Top of course ${m.course}`),
            },
            { head: 'Elevation', is: 'n', cell: (m) => formatLength(m.top, units) },
            {
              head: 'From the string',
              is: 'n',
              cell: (m) => (
                <>
                  <strong>{formatLength(Math.abs(m.drop), units)}</strong> {m.drop >= 0 ? 'down' : 'up'}
                </>
              ),
            },
          ]}
        />
      ) : null}
      <Button onPress={() => window.print()}>Print the marks</Button>
    </Stack>
  )
}
