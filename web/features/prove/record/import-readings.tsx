'use client'

import {
  admit,
  deviationOf,
  type Entry,
  type FileUnit,
  formatDeviation,
  formatLength,
  type Problem,
  parseAmount,
  type ReadingData,
  type ReadingRow,
  type ReadingsPreview,
  readReadingsCsv,
  say,
  targetAt,
} from '@stone-tally/core'
import { useState } from 'react'
import { Places, useFeed, useHere, uuid7 } from '@/features/wall'
import { AmountField } from '@/ui/amount-field'
import { Bar } from '@/ui/bar'
import { Button, Choice, NowButton, Page, Problems, Row } from '@/ui/controls'
import { FileButton } from '@/ui/file-button'
import { usePreferences } from '@/ui/preferences'
import { Table } from '@/ui/table'

interface Judged {
  readonly row: ReadingRow
  readonly section: string
  readonly deviation: number
  readonly problem: string | undefined
}

/** Level readings from a CSV: first shown line by line, the bad ones named, the good ones taken only on a word. */
export function ImportReadings() {
  const { wall, name, plans, me } = useHere()
  const { state, record, loaded } = useFeed()
  const { units } = usePreferences()
  const [content, setContent] = useState<{ name: string; text: string }>()
  const [unit, setUnit] = useState<FileUnit>('m')
  const [method, setMethod] = useState<'rod' | 'deviation'>('rod')
  const [hi, setHi] = useState('')
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [taken, setTaken] = useState<number>()
  // The stage at which this system reads the tops of its courses.
  const levels = state.layout.system.stages.find((x) => x.work.type === 'readings' && x.work.target === 'course-top')?.id ?? ''
  const height = parseAmount(hi, 'length', units)
  const preview = content ? readReadingsCsv(content.text, unit) : undefined
  const ready = method === 'deviation' || height.ok
  const data = (r: ReadingRow): ReadingData => ({ method, value: r.reading, ...(method === 'rod' && height.ok ? { hi: height.value } : {}) })
  const judge = (p: ReadingsPreview): Judged[] =>
    p.good.map((row) => {
      const section = state.layout.plan.sections.find((s) => row.station >= s.from && row.station <= s.to)?.id ?? ''
      const where = { stage: levels, section, course: row.course, station: row.station }
      const entry: Entry = {
        id: uuid7(),
        wall,
        revision: plans.length,
        at: new Date().toISOString(),
        by: me,
        kind: 'reading',
        where,
        data: data(row),
      }
      const verdict = section ? admit(state, entry, Date.now()) : undefined
      const course = state.layout.courses.some((c) => c.course === row.course)
      return {
        row,
        section,
        deviation: course ? deviationOf(data(row), targetAt(state.layout, 'course-top', where)) : Number.NaN,
        problem: !section
          ? `station ${row.station} m is beyond the wall, which ends at ${state.layout.plan.length} m`
          : verdict?.ok
            ? undefined
            : verdict?.problems[0]?.message,
      }
    })
  const judged = preview?.ok && ready && loaded ? judge(preview.value) : []
  const good = judged.filter((j) => !j.problem)
  const take = async () => {
    const result = await record(
      good.map((j) => ({
        kind: 'reading',
        where: { stage: levels, section: j.section, course: j.row.course, station: j.row.station },
        data: data(j.row),
      })),
    )
    if (!result.ok) return setProblems(result.problems)
    setTaken(good.length)
    // A file that was chosen meanwhile stays.
    setContent((now) => (now === content ? undefined : now))
  }
  return (
    <>
      <Bar person={me}>
        <strong>{name}</strong>
      </Bar>
      <Page>
        <Places here="readings" />
        <h1>Import level readings</h1>
        <p>A CSV whose first line names station, course and reading; commas, semicolons or tabs. Nothing is recorded before you say so.</p>
        <Row>
          <FileButton
            label="Readings file"
            accept=".csv,text/csv,text/plain"
            onFile={async (f) => {
              setTaken(undefined)
              setProblems([])
              setContent({ name: f.name, text: f.size > 20 * 1024 * 1024 ? 'x'.repeat(6 * 1024 * 1024) : await f.text() })
            }}
          >
            Choose file
          </FileButton>
          <Choice
            label="Numbers in the file are"
            value={unit}
            options={[
              ['m', 'm'],
              ['mm', 'mm'],
              ['ft', 'ft'],
            ]}
            onChange={setUnit}
          />
          <Choice
            label="Readings are"
            value={method}
            options={[
              ['rod', 'Rod readings'],
              ['deviation', 'Deviations'],
            ]}
            onChange={setMethod}
          />
          {method === 'rod' ? (
            <AmountField
              label="Height of instrument"
              of="length"
              value={hi}
              onChange={setHi}
              error={hi && !height.ok ? height.problems[0]?.message : undefined}
            />
          ) : null}
        </Row>
        <Problems list={problems} />
        {taken !== undefined ? <p role="status">✓ {taken} readings recorded.</p> : null}
        {preview && !preview.ok ? <Problems list={preview.problems} /> : null}
        {preview?.ok && !ready ? <p>Give the height of instrument to judge the readings.</p> : null}
        {preview?.ok && ready ? (
          <>
            <p role="status">
              {content?.name}: {good.length} to take, {preview.value.bad.length + judged.length - good.length} refused.
            </p>
            {preview.value.bad.length + judged.length - good.length > 0 ? (
              <Table
                label="Lines that are refused"
                rows={[
                  ...preview.value.bad.map((b) => ({ line: b.line, why: b.message })),
                  ...judged.flatMap((j) => (j.problem ? [{ line: j.row.line, why: j.problem }] : [])),
                ]}
                atOnce={200}
                id={(r, i) => `${r.line} ${i}`}
                columns={[
                  { head: 'Line', cell: (r) => r.line },
                  { head: 'Refused because', is: 'wrap', cell: (r) => `▲ ${say(r.why, units)}` },
                ]}
              />
            ) : null}
            {good.length > 0 ? (
              <Table
                label="Readings of the file"
                rows={good}
                atOnce={200}
                id={(j) => j.row.line}
                columns={[
                  { head: 'Line', cell: (j) => j.row.line },
                  { head: 'Station', cell: (j) => formatLength(j.row.station, units, 2) },
                  {
                    head: 'Section, course',
                    cell: (j) => (
                      <>
                        {j.section} · {j.row.course}
                      </>
                    ),
                  },
                  { head: 'Reading', cell: (j) => formatLength(j.row.reading, units) },
                  { head: 'Judged', cell: (j) => formatDeviation(j.deviation, 'level', units) },
                ]}
              />
            ) : null}
            <Row>
              <NowButton isDisabled={good.length === 0} onPress={take}>
                Take {good.length} readings
              </NowButton>
              <Button onPress={() => setContent(undefined)}>Leave it</Button>
            </Row>
          </>
        ) : null}
      </Page>
    </>
  )
}
