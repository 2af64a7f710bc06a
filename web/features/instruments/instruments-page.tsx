'use client'

import { INSTRUMENT_NAMES, type InstrumentStatus, said } from '@stone-tally/core'
import { extent } from 'd3-array'
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { useCallback, useRef, useState } from 'react'
import type { Me } from '@/device/recording'
import { send } from '@/device/send'
import { Bar } from '@/ui/bar'
import { Button, Choice, Condensed, Page, Row, Stack, Stop } from '@/ui/controls'
import { fullDay } from '@/ui/day-words'
import { Hero } from '@/ui/figure'
import { counted } from '@/ui/sentence'
import { Table } from '@/ui/table'
import { isPast, useInstruments } from './take'
import { useLive, WINDOW } from './use-live'

/** The instruments within reach, and one of them live. */
export function InstrumentsPage({ me }: { me: Me }) {
  const list = useInstruments()
  const [chosen, setChosen] = useState<string>()
  const one = list.find((i) => i.id === chosen)
  return (
    <>
      <Bar person={me}>
        <strong>Instruments</strong>
      </Bar>
      <Page>
        <div>
          <h1>Instruments</h1>
          <p style={{ color: 'var(--soft)' }}>
            What is within reach. These stand in for real ones: they speak the same line protocol, with noise, drift, battery and bad days.
          </p>
        </div>
        <Table
          label="Instruments within reach"
          rows={list}
          id={(i) => i.id}
          columns={[
            { head: 'Instrument', cell: (i) => INSTRUMENT_NAMES[i.kind] },
            { head: 'Serial', cell: (i) => i.serial },
            {
              head: 'Calibrated until',
              cell: (i) => (
                <>
                  {isPast(i.calibratedUntil) ? '▲ ' : '✓ '}
                  {fullDay(i.calibratedUntil)}
                  {isPast(i.calibratedUntil) ? ' ran out' : ''}
                </>
              ),
            },
            { head: 'Battery, %', cell: (i) => i.battery.toFixed(0) },
            { head: 'State', cell: (i) => (i.connected ? '● on' : '▲ off') },
            {
              head: 'Live',
              cell: (i) => (
                <Button onPress={() => setChosen(i.id)} aria-label={`Watch ${i.serial}`}>
                  Watch
                </Button>
              ),
            },
          ]}
        />
        {list.length === 0 ? <p role="status">None within reach: they are switched off, or still being looked for.</p> : null}
        {one ? <Live key={one.id} instrument={one} /> : null}
      </Page>
    </>
  )
}

/** What a reading is called and measured in; others of its numbers are not shown. */
const SHOWN: Readonly<Record<string, { name: string; as(v: number): string }>> = {
  rod: { name: 'on the rod', as: (v) => said.length(v) },
  wet: { name: 'wet density', as: (v) => said.density(v) },
  moisture: { name: 'moisture', as: (v) => `${v.toFixed(1)} %` },
  rain: { name: 'of rain', as: (v) => said.rain(v) },
  low: { name: 'lowest', as: (v) => said.temperature(v) },
  wind: { name: 'of wind', as: (v) => said.speed(v) },
}

/** One instrument live: the numbers as text, the last minutes as a line. Drawn once a frame, however many readings come. */
function Live({ instrument }: { instrument: InstrumentStatus }) {
  const [rate, setRate] = useState<'10' | '50' | '200'>('10')
  const canvas = useRef<HTMLCanvasElement>(null)
  const { seen, lost, again } = useLive(instrument, rate, (trace) => draw(canvas.current, trace))
  const play = useCallback((fault: string) => send('POST', `/api/instruments/${instrument.id}/read`, { fault }), [instrument.id])
  return (
    <Stack>
      <Row style={{ justifyContent: 'space-between' }}>
        <h2>
          {INSTRUMENT_NAMES[instrument.kind]} {instrument.serial}
        </h2>
        <Choice
          label="Readings a second"
          hideLabel
          value={rate}
          options={[
            ['10', '10 a second'],
            ['50', '50 a second'],
            ['200', '200 a second'],
          ]}
          onChange={setRate}
        />
      </Row>
      {lost ? (
        <Stop role="alert">
          <strong>▲ {lost}</strong>
          <Button onPress={again}>Connect again</Button>
        </Stop>
      ) : null}
      <Row style={{ gap: 32 }}>
        {Object.entries(seen.last).map(([k, v]) => {
          const as = SHOWN[k]
          return as ? <Hero key={k} value={as.as(v)} unit={as.name} /> : null
        })}
      </Row>
      <canvas ref={canvas} width={1140} height={200} style={{ width: '100%', height: 200, border: '1px solid var(--line)' }} aria-hidden />
      <Condensed data-testid="counts" data-count={seen.count} data-gaps={seen.gaps}>
        {counted(seen.count, 'reading')} · {seen.gaps} lost · {seen.repeated} sent twice and counted once · {seen.broken}{' '}
        {seen.broken === 1 ? 'broken line' : 'broken lines'} thrown away
      </Condensed>
      <Row>
        <Condensed style={{ color: 'var(--soft)' }}>Play a bad day:</Condensed>
        <Button onPress={() => play('garbage')}>Garbled line</Button>
        <Button onPress={() => play('twice')}>Sent twice</Button>
        <Button onPress={() => play('drop')}>Broken off</Button>
        <Button onPress={() => play('off')}>Switched off</Button>
        <Button onPress={() => play('none')}>All well</Button>
      </Row>
    </Stack>
  )
}

function draw(canvas: HTMLCanvasElement | null, trace: readonly number[]) {
  const g = canvas?.getContext('2d')
  if (!canvas || !g) return
  const [low = 0, high = 1] = extent(trace) as [number, number]
  const pad = Math.max(1e-4, (high - low) * 0.15)
  const x = scaleLinear([0, WINDOW - 1], [0, canvas.width])
  const y = scaleLinear([low - pad, high + pad], [canvas.height - 4, 4])
  const style = getComputedStyle(canvas)
  g.clearRect(0, 0, canvas.width, canvas.height)
  g.strokeStyle = style.color
  g.lineWidth = 1.5
  g.beginPath()
  line<number>(
    (_, i) => x(i),
    (v) => y(v),
  ).context(g)(trace)
  g.stroke()
}
