'use client'

import { CALCULATORS, type CurveData, calculate, calculatorOf, LIMITS, proctor, say, type UnitSystem, WINDOWS } from '@stone-tally/core'
import { useState } from 'react'
import styled from 'styled-components'
import { DensityChart } from '@/features/build/ground'
import type { Me } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Button, MAIN, Problems, Row, Stack } from '@/ui/controls'
import { Link } from '@/ui/link'
import { usePreferences } from '@/ui/preferences'
import { type Exact, Fields, readTyped, type Typed, typedOf, wordsOf } from './form'

const Frame = styled.main.attrs(MAIN)`
  max-width: 1280px; margin: 0 auto; padding: 16px 20px 60px; display: grid; grid-template-columns: 210px minmax(0, 1fr) minmax(0, 1fr); gap: 30px; align-items: start;
  nav { display: grid; border-top: 3px solid var(--ink); } nav a { min-height: 48px; min-width: 48px; display: flex; align-items: center; text-decoration: none; border-bottom: 1px solid var(--line); padding: 0 8px; font-weight: 550; }
  nav a[aria-current] { background: var(--ink); color: var(--ground); }
  @media (max-width: 960px) { grid-template-columns: minmax(0, 1fr); gap: 16px; nav { grid-auto-flow: column; grid-auto-columns: max-content; overflow-x: auto; } nav a { white-space: nowrap; } }
`
const Lines = styled.ol`
  list-style: none; margin: 0; padding: 0; border-top: 3px solid var(--ink);
  li { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 2px 14px; padding: 9px 0; border-bottom: 1px solid var(--faint); }
  .how { font-family: 'Barlow Condensed', sans-serif; font-size: 17px; color: var(--soft); grid-column: 1; overflow-wrap: anywhere; } b { font-size: 20px; white-space: nowrap; grid-row: span 2; align-self: center; }
`

/** The Bench: one formula of the trade at a time, with the numbers put in and every step of the working shown. */
export function BenchPage({ me, calculator: name }: { me: Me; calculator: string }) {
  const calculator = calculatorOf(name)
  const { units } = usePreferences()
  const [exact] = useState<Exact>(() => new Map())
  const [words] = useState(() => wordsOf(calculator?.schema.describe()))
  const reading = (u: UnitSystem) => ({ labels: calculator?.labels ?? {}, units: u, exact, words })
  const [held, setHeld] = useState<{ units: UnitSystem; typed: Typed }>(() => ({ units, typed: typedOf(calculator?.example ?? {}, reading(units)) }))
  // Other units show the same amounts.
  if (held.units !== units) setHeld({ units, typed: typedOf(readTyped(held.typed, reading(held.units)), reading(units)) })
  if (!calculator) return null
  const { typed } = held
  const setTyped = (next: Typed) => setHeld({ units, typed: next })
  const input = readTyped(typed, reading(held.units))
  const result = calculate(calculator, input)
  const curve = name === 'proctor' && result.ok ? (input as CurveData) : undefined
  const top = curve ? proctor(curve) : undefined
  return (
    <>
      <Bar person={me}>
        <strong>Bench</strong>
      </Bar>
      <Frame>
        <nav aria-label="Calculators">
          {CALCULATORS.map((c) => (
            <Link key={c.name} href={`/bench/${c.name}`} {...(c.name === name ? { 'aria-current': 'page' as const } : {})}>
              {c.title}
            </Link>
          ))}
        </nav>
        <Stack>
          <div>
            <h1>{calculator.title}</h1>
            <p style={{ color: 'var(--soft)' }}>{calculator.purpose}</p>
          </div>
          <Fields typed={typed} name="" path="" labels={calculator.labels} problems={result.ok ? [] : result.problems} onChange={setTyped} />
          <Row>
            <Button onPress={() => setTyped(typedOf(calculator.example, reading(units)))}>Put the example back</Button>
          </Row>
        </Stack>
        <Stack aria-live="polite">
          <h2>Working</h2>
          {result.ok ? (
            <Lines>
              {calculator.working(input, result.value).map((w, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: lines of working have no name of their own
                <li key={i}>
                  <span>{say(w.what, units)}</span>
                  <b>{say(w.result, units)}</b>
                  <span className="how">{say(w.how, units)}</span>
                </li>
              ))}
            </Lines>
          ) : (
            <Problems list={result.problems} />
          )}
          {curve && top?.ok ? (
            <DensityChart
              accepted={LIMITS.compaction.value}
              data={{ ...curve, name: 'these points', source: '' }}
              curve={top.value}
              window={WINDOWS.pad}
              tests={[]}
              width={460}
              height={300}
            />
          ) : null}
          <p style={{ fontSize: 15, color: 'var(--soft)' }}>
            {calculator.formula}. {calculator.source} A planning check, not a sealed design.
          </p>
        </Stack>
      </Frame>
    </>
  )
}
