'use client'

import {
  type DayWeather,
  daysOfForecast,
  expectedDays,
  formatRain,
  formatSpeed,
  formatTemperature,
  type Instrument,
  nightAndDay,
  say,
  typedAmount,
  type UnitSystem,
  weatherCautions,
  weatherOf,
} from '@stone-tally/core'
import { useState } from 'react'
import { TakeReading } from '@/features/instruments'
import { useRecord, useToday, useTypedForm } from '@/features/wall'
import { AmountField } from '@/ui/amount-field'
import { Button, Caution, NowButton, Problems, Row, Stack } from '@/ui/controls'
import { dayWords } from '@/ui/day-words'
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
  const words = (w: { rain: number; low: number; wind: number }) => wordsOf(w, units)
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
      <Forecast state={state} record={record} />
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
        <AmountField label="Rain in 24 hours" of="rain" value={rain} onChange={byHand('rain')} />
        <AmountField label="Lowest" of="temperature" value={low} onChange={byHand('low')} inputMode="text" />
        <AmountField label="Wind" of="speed" value={wind} onChange={byHand('wind')} />
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

const wordsOf = (w: { rain: number; low: number; wind: number; high?: number | undefined }, units: UnitSystem) =>
  `${formatRain(w.rain, units)}, ${formatTemperature(w.low, units)}${w.high === undefined ? '' : ` to ${formatTemperature(w.high, units)}`}, ${formatSpeed(w.wind, units)}`

/** The days to come: those in force, and those a forecast within reach tells, to be recorded before they count. */
function Forecast({ state, record }: Pick<GroundProps, 'state' | 'record'>) {
  const { units } = usePreferences()
  const today = useToday(state)
  const known = expectedDays(state, today)
  const [told, setTold] = useState<{ days: readonly DayWeather[]; by: Instrument }>()
  const { busy, problems, go } = useRecord(record)
  const put = async () => {
    const now = told && nightAndDay(told.days)
    if (!told || !now) return
    const done = await go([{ kind: 'weather', where: {}, data: { ...now, expected: true, days: told.days }, instrument: told.by }])
    if (done) setTold(undefined)
  }
  const shown = told?.days ?? known
  return (
    <Stack role="group" aria-label="Days to come">
      <TakeReading kind="forecast" scene={{}} onTaken={(values, by) => setTold({ days: daysOfForecast(values, today), by })} />
      {shown.length > 0 ? (
        <ul style={{ margin: 0, paddingLeft: 18 }}>
          {shown.map((d) => (
            <li key={d.day}>
              {dayWords(d.day)}: {wordsOf(d, units)}
            </li>
          ))}
        </ul>
      ) : null}
      {told ? (
        <NowButton isDisabled={busy || told.days.length === 0} onPress={put}>
          Reckon with {told.days.length === 1 ? 'this day' : `these ${told.days.length} days`}
        </NowButton>
      ) : null}
      <Problems list={problems} />
    </Stack>
  )
}
