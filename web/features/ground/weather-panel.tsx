'use client'

import type { Instrument } from '@stone-tally/core'
import { weatherCautions, weatherOf } from '@stone-tally/core'
import { useState } from 'react'
import { TakeReading } from '@/features/instruments'
import { useRecord } from '@/features/wall'
import { Button, Caution, Field, NowButton, Problems, Row, Stack } from '@/ui/controls'
import { Targets } from '@/ui/figure'
import { type GroundProps, numberOf } from './types'

/** Rain, frost and wind: measured or seen, and what they mean for open ground tonight. */
export function WeatherPanel({ state, record }: GroundProps) {
  const { now, expected } = weatherOf(state)
  const [rain, setRain] = useState('')
  const [low, setLow] = useState('')
  const [wind, setWind] = useState('')
  const [taken, setTaken] = useState<Instrument>()
  const { busy, problems, setProblems, go } = useRecord(record)
  const typed = { rain: numberOf(rain), low: numberOf(low), wind: numberOf(wind) }
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
          ['Last measured', now ? `${now.rain} mm, ${now.low} °C, ${now.wind} km/h` : 'not yet'],
          ['Expected', expected ? `${expected.rain} mm, ${expected.low} °C, ${expected.wind} km/h` : 'not yet'],
        ]}
      />
      <TakeReading
        kind="weather-station"
        scene={{}}
        onTaken={(v, i) => {
          setRain((v.rain ?? 0).toFixed(1))
          setLow((v.low ?? 0).toFixed(1))
          setWind((v.wind ?? 0).toFixed(0))
          setTaken(i)
        }}
      />
      <Row>
        <Field label="Rain in 24 hours, mm" value={rain} onChange={byHand(setRain)} inputMode="decimal" />
        <Field label="Lowest, °C" value={low} onChange={byHand(setLow)} inputMode="text" />
        <Field label="Wind, km/h" value={wind} onChange={byHand(setWind)} inputMode="decimal" />
      </Row>
      {cautions.map((c) => (
        <Caution key={c.id}>{c.text}</Caution>
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
