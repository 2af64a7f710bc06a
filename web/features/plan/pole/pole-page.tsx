'use client'

import {
  formatLength,
  formatSide,
  formatStation,
  layOut,
  PAPERS,
  type Paper,
  type Plan,
  parseAmount,
  poleStrips,
  say,
  storyPole,
} from '@stone-tally/core'
import { useMemo } from 'react'
import styled from 'styled-components'
import { Places, PlaceTitle, useHere, useTyped } from '@/features/wall'
import { AmountField } from '@/ui/amount-field'
import { Bar } from '@/ui/bar'
import { Button, Caution, Choice, Page, Problems, Row } from '@/ui/controls'
import { useNonce } from '@/ui/nonce'
import { usePreferences } from '@/ui/preferences'
import { Table } from '@/ui/table'
import { Strip } from './strip'

const NoPrint = styled.div`display: grid; gap: 14px; @media print { display: none; }`
const Sheets = styled.div`
  display: grid; gap: 18px; overflow-x: auto; > div { background: #fff; border: 1px solid var(--line); width: max-content; }
  @media print { display: block; overflow: visible; > div { border: 0; break-before: page; break-inside: avoid; } }
`

/** The story pole of a station: what a crew measures by, as a list, and as strips at full size to tape on a lath. */
export function PolePage() {
  const nonce = useNonce()
  const { wall, me, name, plans } = useHere()
  const plan = plans[plans.length - 1] as Plan
  const revision = plans.length
  const { units } = usePreferences()
  const scope = `pole ${wall} ${units}`
  const [station, setStation] = useTyped(scope, 'station', units === 'metric' ? '0' : `0'`)
  const [hi, setHi] = useTyped(scope, 'hi')
  const [string, setString] = useTyped(scope, 'string')
  const [paper, setPaper] = useTyped(scope, 'paper', units === 'metric' ? 'A4' : 'Letter')
  const laid = useMemo(() => layOut(plan), [plan])
  const sheet: Paper = paper === 'Letter' ? 'Letter' : 'A4'
  const read = (field: string, text: string) => {
    const found = text.trim() === '' ? undefined : parseAmount(text, 'length', units)
    return {
      value: found?.ok ? found.value : undefined,
      problem: found && !found.ok ? { field, message: found.problems[0]?.message ?? '' } : undefined,
    }
  }
  const [at, instrument, line] = [read('Station', station), read('Height of instrument', hi), read('String', string)]
  const wrong = [at, instrument, line].flatMap((x) => x.problem ?? [])
  const pole = laid.ok && at.value !== undefined ? storyPole(laid.value, at.value, { hi: instrument.value, string: line.value }) : undefined
  const made = pole?.ok ? pole.value : undefined
  type Shown = NonNullable<typeof made>['marks'][number]
  const printed = made?.marks.filter((m) => m.kind !== 'dig') ?? []
  const strips = made ? poleStrips(0, Math.max(...printed.map((m) => m.up)) + 0.02, sheet) : []
  return (
    <>
      <style nonce={nonce}>{`@page { size: ${PAPERS[sheet].size}; margin: 8mm; }`}</style>
      <NoPrint>
        <Bar person={me}>
          <strong>{name}</strong>
        </Bar>
      </NoPrint>
      <Page>
        <NoPrint>
          <Places here="pole" />
          <Row style={{ justifyContent: 'space-between' }}>
            <PlaceTitle>Story pole, revision {revision}</PlaceTitle>
            <Button onPress={() => window.print()} isDisabled={!made}>
              Print {strips.length > 0 ? `${strips.length} ${strips.length === 1 ? 'strip' : 'strips'}` : ''}
            </Button>
          </Row>
          <Row>
            <AmountField label="Station" of="length" name="station" value={station} onChange={setStation} />
            <AmountField label="Height of instrument" of="length" name="hi" value={hi} onChange={setHi} hint="for rod readings" />
            <AmountField label="String at elevation" of="length" name="string" value={string} onChange={setString} hint="for drops" />
          </Row>
          <Choice
            label="Paper"
            value={sheet}
            options={[
              ['A4', 'A4'],
              ['Letter', 'Letter'],
            ]}
            onChange={(p: Paper) => setPaper(p)}
          />
          <Problems list={[...wrong, ...(pole && !pole.ok ? pole.problems : [])]} />
        </NoPrint>
        {made ? (
          <>
            <h2>
              {name}, {formatStation(made.station, units)}: pole stands on the pad at {formatLength(made.zero, units)}
            </h2>
            <Table
              label="Marks of the pole"
              rows={[...made.marks].reverse()}
              id={(m) => `${m.kind} ${m.title}`}
              columns={[
                { head: 'Mark', is: 'wrap', cell: (m) => m.title },
                {
                  head: 'Up the pole',
                  is: 'n',
                  cell: (m) => <strong>{m.up < -1e-9 ? formatSide(m.up, ['above', 'below'], units) : formatLength(m.up, units)}</strong>,
                },
                { head: 'Elevation', is: 'n', cell: (m) => formatLength(m.elevation, units) },
                ...(instrument.value === undefined
                  ? []
                  : [
                      {
                        head: 'Rod reads',
                        is: 'n' as const,
                        cell: (m: Shown) => (m.rod === undefined ? '' : m.rod < 0 ? 'above the instrument' : formatLength(m.rod, units)),
                      },
                    ]),
                ...(line.value === undefined
                  ? []
                  : [
                      {
                        head: 'From the string',
                        is: 'n' as const,
                        cell: (m: Shown) => (m.drop === undefined ? '' : formatSide(-m.drop, ['up', 'down'], units)),
                      },
                    ]),
              ]}
            />
            <NoPrint>
              <Caution>
                Print at full size (100 %, never “fit to page”), then lay a tape on the check marks: 100 mm and 4 in. A strip that is off is not used.
              </Caution>
            </NoPrint>
            <Sheets role="region" aria-label="Strips as they are printed" tabIndex={0}>
              {strips.map((s, i) => (
                <div key={s.from}>
                  <Strip strip={s} marks={printed} number={i + 1} of={strips.length} units={units} />
                </div>
              ))}
            </Sheets>
          </>
        ) : laid.ok ? null : (
          <Caution>{say(laid.problems[0]?.message ?? '', units)}</Caution>
        )}
      </Page>
    </>
  )
}
