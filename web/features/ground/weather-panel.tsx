'use client'

import { formatRain, formatTemperature, type Instrument, say, weatherCautions, weatherOf } from '@stone-tally/core'
import { useState } from 'react'
import { TakeReading } from '@/features/instruments'
import { useRecord } from '@/features/wall'
import { Button, Caution, Field, NowButton, Problems, Row, Stack } from '@/ui/controls'
import { Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { type GroundProps, numberOf } from './types'

const MILE = 1.609344
const round = (v: number) => Math.round(v * 10) / 10

/** Rain, frost and wind: measured or seen, and what they mean for open ground tonight. */
export function WeatherPanel({ state, record }: GroundProps) {
  const { now, expected } = weatherOf(state)
  // A change of units in the middle of typing would change what a bare number means.
  const [units] = useState(usePreferences().units)
  const metric = units === 'metric'
  const [rain, setRain] = useState('')
  const [low, setLow] = useState('')
  const [wind, setWind] = useState('')
  const [taken, setTaken] = useState<Instrument>()
  const { busy, problems, setProblems, go } = useRecord(record)
  const typed = {
    rain: metric ? numberOf(rain) : round(numberOf(rain) * 25.4),
    low: metric ? numberOf(low) : round(((numberOf(low) - 32) * 5) / 9),
    wind: metric ? numberOf(wind) : round(numberOf(wind) * MILE),
  }
  const words = (w: { rain: number; low: number; wind: number }) =>
    `${formatRain(w.rain, units)}, ${formatTemperature(w.low, units)}, ${metric ? `${w.wind} km/h` : `${Math.round(w.wind / MILE)} mph`}`
  const whole = Object.values(typed).every((v) => !Number.isNaN(v))
  // Changed by hand it is no longer the mast's.
  const byHand = (set: (v: string) => void) => (v: string) => {
    set(v)
    setTaken(undefined)
  }
  const put = async (isExpected: boolean) => {
    if (!whole) return setProblems([{ field: 'weather', message: 'give rain, lowest temperature and wind as numbers' }])
    const done = await go([
      {
        kind: 'weather',
        where: {},
        data: { ...typed, ...(isExpected ? { expected: true } : {}) },
        ...(taken && !isExpected ? { instrument: taken } : {}),
      },
    ])
    if (done) for (const set of [setRain, setLow, setWind]) byHand(set)('')
  }
  const cautions = whole ? weatherCautions(typed) : []
  return (
    <Stack>
      <Targets
        list={[
          ['Last measured', now ? words(now) : 'not yet'],
          ['Expected', expected ? words(expected) : 'not yet'],
        ]}
      />
      <TakeReading
        kind="weather-station"
        scene={{}}
        onTaken={(v, i) => {
          setRain(metric ? (v.rain ?? 0).toFixed(1) : ((v.rain ?? 0) / 25.4).toFixed(2))
          setLow((metric ? (v.low ?? 0) : ((v.low ?? 0) * 9) / 5 + 32).toFixed(1))
          setWind((metric ? (v.wind ?? 0) : (v.wind ?? 0) / MILE).toFixed(0))
          setTaken(i)
        }}
      />
      <Row>
        <Field label={`Rain in 24 hours, ${metric ? 'mm' : 'in'}`} value={rain} onChange={byHand(setRain)} inputMode="decimal" />
        <Field label={`Lowest, ${metric ? '°C' : '°F'}`} value={low} onChange={byHand(setLow)} inputMode="text" />
        <Field label={`Wind, ${metric ? 'km/h' : 'mph'}`} value={wind} onChange={byHand(setWind)} inputMode="decimal" />
      </Row>
      {cautions.map((c) => (
        <Caution key={c.id}>{say(c.text, units)}</Caution>
      ))}
      <Row>
        <NowButton isDisabled={busy || !whole} onPress={() => put(false)}>
          Record today
        </NowButton>
        <Button isDisabled={busy || !whole} onPress={() => put(true)}>
          Record as expected
        </Button>
      </Row>
      <Problems list={problems} />
    </Stack>
  )
}
