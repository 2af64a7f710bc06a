'use client'

import { formatRain, formatSpeed, formatTemperature, type Instrument, say, typedAmount, unitOf, weatherCautions, weatherOf } from '@stone-tally/core'
import { useState } from 'react'
import { TakeReading } from '@/features/instruments'
import { useRecord, useTypedForm } from '@/features/wall'
import { Button, Caution, Field, NowButton, Problems, Row, Stack } from '@/ui/controls'
import { Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { amountOf, type GroundProps } from './types'

const round = (v: number) => Math.round(v * 10) / 10

/** Rain, frost and wind: measured or seen, and what they mean for open ground tonight. */
export function WeatherPanel({ state, record }: GroundProps) {
  const { now, expected } = weatherOf(state)
  const { units } = usePreferences()
  // What is typed in other units waits there: a bare number would mean something else here.
  const { v, set, letGo } = useTypedForm(`weather ${units}`, { rain: '', low: '', wind: '' })
  const { rain, low, wind } = v
  const [taken, setTaken] = useState<Instrument>()
  const { busy, problems, setProblems, go } = useRecord(record)
  const typed = {
    rain: round(amountOf(rain, 'rain', units)),
    low: round(amountOf(low, 'temperature', units)),
    wind: round(amountOf(wind, 'speed', units)),
  }
  const words = (w: { rain: number; low: number; wind: number }) =>
    `${formatRain(w.rain, units)}, ${formatTemperature(w.low, units)}, ${formatSpeed(w.wind, units)}`
  const whole = Object.values(typed).every((v) => !Number.isNaN(v))
  // Changed by hand it is no longer the mast's.
  const byHand = (field: keyof typeof v) => (text: string) => {
    set({ [field]: text })
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
    if (!done) return
    letGo()
    setTaken(undefined)
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
        onTaken={(r, i) => {
          set({
            rain: typedAmount(round(r.rain ?? 0), 'rain', units),
            low: typedAmount(round(r.low ?? 0), 'temperature', units),
            wind: typedAmount(Math.round(r.wind ?? 0), 'speed', units),
          })
          setTaken(i)
        }}
      />
      <Row>
        <Field label={`Rain in 24 hours, ${unitOf('rain', units)}`} value={rain} onChange={byHand('rain')} inputMode="decimal" />
        <Field label={`Lowest, ${unitOf('temperature', units)}`} value={low} onChange={byHand('low')} inputMode="text" />
        <Field label={`Wind, ${unitOf('speed', units)}`} value={wind} onChange={byHand('wind')} inputMode="decimal" />
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
