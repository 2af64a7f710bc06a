'use client'

import {
  admit,
  deviationOf,
  digWords,
  type Entry,
  type FileUnit,
  formatStation,
  otherDatum,
  type PointRow,
  readPointsCsv,
  type Step,
  say,
  targetAt,
} from '@stone-tally/core'
import { useState } from 'react'
import { useRecord } from '@/features/wall'
import { Choice, NowButton, Problems, Stack, Stop } from '@/ui/controls'
import { Table } from '@/ui/table'
import { digStep, type GroundProps, padLevelStep } from './types'

/** Survey points from a file, looked at against their targets first, then recorded all at once. */
export function PointsForm({ state, section, units, me, record, wall }: GroundProps) {
  const [of, setOf] = useState<'dig' | 'pad'>('dig')
  const [unit, setUnit] = useState<FileUnit>('m')
  const [content, setContent] = useState<string>()
  const { busy, problems, go } = useRecord(record)
  const step: Step | undefined = of === 'dig' ? digStep(state, section) : padLevelStep(state, section)
  const read = content === undefined ? undefined : readPointsCsv(content, unit)
  const fact = (r: PointRow) => ({
    kind: 'reading',
    where: { stage: step?.stage.id ?? '', section, station: r.station, ...(r.offset === undefined ? {} : { offset: r.offset }) },
    data: { method: 'survey' as const, value: r.elevation },
  })
  const now = Date.now()
  const judged =
    read?.ok && step
      ? read.value.good.map((r) => {
          const f = fact(r)
          const goal = targetAt(state.layout, of, f.where)
          const entry = {
            ...f,
            id: '',
            wall,
            revision: state.layouts.length,
            at: new Date(now).toISOString(),
            by: { id: me.id, name: me.name, role: me.role },
          } as Entry
          const may = admit(state, entry, now)
          return { r, f, deviation: deviationOf(f.data, goal), why: may.ok ? undefined : may.problems[0]?.message }
        })
      : []
  const fit = judged.filter((j) => !j.why)
  const typical = fit.map((j) => j.deviation).sort((a, b) => a - b)[Math.floor(fit.length / 2)]
  // One point is off by a slip; a whole file is off by its datum.
  const datum = typical === undefined ? undefined : otherDatum(typical, 0, 0.5)
  return (
    <Stack>
      <Choice
        label="Points on"
        value={of}
        options={[
          ['dig', 'Bottom of trench'],
          ['pad', 'Top of pad'],
        ]}
        onChange={setOf}
      />
      <Choice
        label="Numbers in the file are"
        value={unit}
        options={[
          ['m', 'metres'],
          ['mm', 'millimetres'],
          ['ft', 'feet'],
        ]}
        onChange={setUnit}
      />
      <label>
        <span style={{ display: 'block', color: 'var(--soft)', fontSize: 15 }}>CSV with station, elevation and, if measured, offset</span>
        <input
          type="file"
          accept=".csv,.txt"
          aria-label="Survey points file"
          onChange={async (e) => setContent(await e.target.files?.[0]?.text())}
          style={{ minHeight: 48 }}
        />
      </label>
      {read && !read.ok ? <Problems list={read.problems} /> : null}
      {datum ? <Stop role="status">▲ Half of the points and more are {say(datum, units)}</Stop> : null}
      {read?.ok ? (
        <>
          <Table
            label="Points in the file"
            tall={320}
            rows={[
              ...judged.map((j) => ({
                line: j.r.line,
                station: `${formatStation(j.r.station, units)}${j.r.offset === undefined ? '' : ` / ${j.r.offset.toFixed(2)}`}`,
                words: j.why ? `▲ ${say(j.why, units)}` : digWords(j.deviation, units, state.layout.plan),
              })),
              ...read.value.bad.map((b) => ({ line: b.line, station: '—', words: `▲ ${say(b.message, units)}` })),
            ]}
            id={(r, i) => `${r.line} ${i}`}
            columns={[
              { head: 'Line', cell: (r) => r.line },
              { head: 'Station', cell: (r) => r.station },
              { head: 'Judged', is: 'wrap', cell: (r) => r.words },
            ]}
          />
          <NowButton
            isDisabled={busy || fit.length === 0}
            onPress={() => go(fit.map((j) => j.f)).then((done) => done && setContent((now) => (now === content ? undefined : now)))}
          >
            {`Record ${fit.length} points${fit.length < judged.length + read.value.bad.length ? `, leave ${judged.length + read.value.bad.length - fit.length}` : ''}`}
          </NowButton>
        </>
      ) : null}
      <Problems list={problems} />
    </Stack>
  )
}
