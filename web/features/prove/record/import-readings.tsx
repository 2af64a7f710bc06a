'use client'

import { formatDeviation, formatLength, say } from '@stone-tally/core'
import { Places, PlaceTitle, useHere } from '@/features/wall'
import { AmountField } from '@/ui/amount-field'
import { Bar } from '@/ui/bar'
import { Button, Choice, NowButton, Page, Problems, Row } from '@/ui/controls'
import { FileButton } from '@/ui/file-button'
import { usePreferences } from '@/ui/preferences'
import { Table } from '@/ui/table'
import { useImportReadings } from './use-import-readings'

const readings = (n: number) => `${n} ${n === 1 ? 'reading' : 'readings'}`

/** Level readings from a CSV: first shown line by line, the bad ones named, the good ones taken only on a word. */
export function ImportReadings() {
  const { name, me } = useHere()
  const { units } = usePreferences()
  const of = useImportReadings()
  return (
    <>
      <Bar person={me}>
        <strong>{name}</strong>
      </Bar>
      <Page>
        <Places here="readings" />
        <PlaceTitle>Import level readings</PlaceTitle>
        <p>A CSV whose first line names station, course and reading; commas, semicolons or tabs. Nothing is recorded before you say so.</p>
        <Row>
          <FileButton label="Readings file" accept=".csv,text/csv,text/plain" onFile={of.choose}>
            Choose file
          </FileButton>
          <Choice
            label="Numbers in the file are"
            value={of.unit}
            options={[
              ['m', 'm'],
              ['mm', 'mm'],
              ['ft', 'ft'],
            ]}
            onChange={of.setUnit}
          />
          <Choice
            label="Readings are"
            value={of.method}
            options={[
              ['rod', 'Rod readings'],
              ['deviation', 'Deviations'],
            ]}
            onChange={of.setMethod}
          />
          {of.method === 'rod' ? <AmountField label="Height of instrument" of="length" value={of.hi} onChange={of.setHi} error={of.hiWrong} /> : null}
        </Row>
        <Problems list={of.problems} />
        {of.taken !== undefined ? <p role="status">✓ {readings(of.taken)} recorded.</p> : null}
        {of.waits ? <p>Give the height of instrument to judge the readings.</p> : null}
        {of.judged ? (
          <>
            <p role="status">
              {of.file}: {of.good.length} to take, {of.refused.length} refused.
            </p>
            {of.refused.length > 0 ? (
              <Table
                label="Lines that are refused"
                rows={of.refused}
                atOnce={200}
                id={(r, i) => `${r.line} ${i}`}
                columns={[
                  { head: 'Line', cell: (r) => r.line },
                  { head: 'Refused because', is: 'wrap', cell: (r) => `▲ ${say(r.why, units)}` },
                ]}
              />
            ) : null}
            {of.good.length > 0 ? (
              <Table
                label="Readings of the file"
                rows={of.good}
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
              <NowButton isDisabled={of.good.length === 0} onPress={of.take}>
                Take {readings(of.good.length)}
              </NowButton>
              <Button onPress={of.leave}>Leave it</Button>
            </Row>
          </>
        ) : null}
      </Page>
    </>
  )
}
