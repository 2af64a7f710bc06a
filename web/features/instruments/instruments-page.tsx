'use client'

import { INSTRUMENT_NAMES, type InstrumentStatus } from '@stone-tally/core'
import { extent } from 'd3-array'
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { useCallback, useEffect, useRef, useState } from 'react'
import type { Me } from '@/device/recording'
import { send } from '@/device/send'
import { Bar } from '@/ui/bar'
import { Button, Choice, Condensed, Page, Row, Stack, Stop } from '@/ui/controls'
import { Hero } from '@/ui/figure'
import { Table } from '@/ui/table'
import { isPast, useInstruments } from './take'

/** Readings kept for the drawing. */
const WINDOW = 600
const UNITS: Readonly<Record<string, string>> = { rod: 'm', wet: 'kg/m³', moisture: '%', rain: 'mm', low: '°C', wind: 'km/h' }
const MAIN: Readonly<Record<string, string>> = {
  level: 'rod',
  'density-gauge': 'wet',
  'moisture-probe': 'moisture',
  'weather-station': 'wind',
  forecast: 'rain1',
}
const PLACES: Readonly<Record<string, number>> = { rod: 4, wet: 0, moisture: 1, rain: 1, low: 1, wind: 0 }

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
        {list.length === 0 ? <p role="status">None within reach: they are switched off, or still being looked for.</p> : null}
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
                  {i.calibratedUntil}
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
        {one ? <Live key={one.id} instrument={one} /> : null}
      </Page>
    </>
  )
}

interface Seen {
  count: number
  gaps: number
  broken: number
  repeated: number
  last: Readonly<Record<string, number>>
}

/** One instrument live: the numbers as text, the last minutes as a line. Drawn once a frame, however many readings come. */
function Live({ instrument }: { instrument: InstrumentStatus }) {
  const [rate, setRate] = useState<'10' | '50' | '200'>('10')
  const [seen, setSeen] = useState<Seen>({ count: 0, gaps: 0, broken: 0, repeated: 0, last: {} })
  const [lost, setLost] = useState<string>()
  const [again, setAgain] = useState(0)
  const canvas = useRef<HTMLCanvasElement>(null)
  const main = MAIN[instrument.kind] ?? 'rod'

  // biome-ignore lint/correctness/useExhaustiveDependencies: `again` asks for a new connection
  useEffect(() => {
    const source = new EventSource(`/api/instruments/${instrument.id}/stream?rate=${rate}`)
    const trace: number[] = []
    const total: Seen = { count: 0, gaps: 0, broken: 0, repeated: 0, last: {} }
    let next = 0
    let frame = 0
    let changed = false
    setLost(undefined)
    source.onmessage = (e) => {
      const batch = JSON.parse(e.data) as { readings: [number, Record<string, number>][]; broken: number; repeated: number }
      for (const [seq, values] of batch.readings) {
        if (next && seq !== next) total.gaps += Math.max(0, seq - next)
        next = seq + 1
        total.count++
        total.last = values
        trace.push(values[main] ?? 0)
      }
      if (trace.length > WINDOW) trace.splice(0, trace.length - WINDOW)
      total.broken = batch.broken
      total.repeated = batch.repeated
      changed = true
    }
    source.addEventListener('lost', (e) => {
      setLost((JSON.parse((e as MessageEvent<string>).data) as { message: string }).message)
      source.close()
    })
    source.onerror = () => {
      setLost('the connection broke off; what came before it is kept')
      source.close()
    }
    let beat = 0
    const paint = () => {
      frame = requestAnimationFrame(paint)
      if (!changed) return
      changed = false
      draw(canvas.current, trace)
      // Text changes four times a second: faster cannot be read.
      if (performance.now() - beat > 250) {
        beat = performance.now()
        setSeen({ ...total })
      }
    }
    frame = requestAnimationFrame(paint)
    return () => {
      source.close()
      cancelAnimationFrame(frame)
    }
  }, [instrument.id, rate, main, again])

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
          <Button onPress={() => setAgain(again + 1)}>Connect again</Button>
        </Stop>
      ) : null}
      <Row style={{ gap: 32 }}>
        {Object.entries(seen.last)
          .filter(([k]) => k in UNITS)
          .map(([k, v]) => (
            <Hero key={k} value={v.toFixed(PLACES[k] ?? 2)} unit={`${k}, ${UNITS[k]}`} />
          ))}
      </Row>
      <canvas ref={canvas} width={1140} height={200} style={{ width: '100%', height: 200, border: '1px solid var(--line)' }} aria-hidden />
      <Condensed data-testid="counts" data-count={seen.count} data-gaps={seen.gaps}>
        {seen.count} readings · {seen.gaps} lost · {seen.repeated} sent twice and counted once · {seen.broken} broken lines thrown away
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
