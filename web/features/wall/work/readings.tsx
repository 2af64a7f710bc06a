'use client'

import {
  aim,
  deviationOf,
  formatDeviation,
  formatLength,
  formatSmall,
  formatStation,
  type Instrument,
  latestSetup,
  limitAt,
  limitsOf,
  lineOf,
  parseAmount,
  parseLength,
  type ReadingData,
  type SetupData,
  type StepStatus,
  say,
  slip,
  smallUnit,
  targetAt,
  walkOrder,
} from '@stone-tally/core'
import { useEffect, useMemo, useRef, useState } from 'react'
import { Button as AriaButton, Input, Label, TextField } from 'react-aria-components'
import styled from 'styled-components'
import { TakeReading } from '@/features/instruments'
import { AmountField } from '@/ui/amount-field'
import { Button, Choice, Field, NowButton, Problems, RecordRow, Row, Stack, WorkStack } from '@/ui/controls'
import { Judgement, Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { isTyping, typedAt, useTyped } from '../typed'
import { isWriting } from '../typing'
import { RunAlong } from './run-along'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

type Method = ReadingData['method']

const Big = styled(Input)`
  width: 100%; height: 72px; padding: 0 14px; font: 650 40px/1 'Archivo Variable', sans-serif; font-variant-numeric: tabular-nums; letter-spacing: -.01em;
  border: 3px solid var(--ink); border-radius: 4px; background: var(--panel); color: var(--ink);
`
const Pad = styled.div`
  display: none; grid-template-columns: repeat(3, 1fr); gap: 6px;
  @media (pointer: coarse) { display: grid; }
  button { min-height: 56px; border: 2px solid var(--ink); border-radius: 4px; background: var(--panel); color: var(--ink); font: 600 24px/1 'Archivo Variable', sans-serif; }
`
const Points = styled.div`
  display: flex; flex-wrap: wrap; gap: 6px;
  button { min-height: 48px; min-width: 62px; padding: 0 8px; border: 2px solid var(--line); border-radius: 4px; background: var(--panel); color: var(--ink); font: 600 17px/1 'Barlow Condensed', sans-serif; cursor: pointer; }
  button[data-done] { border-color: var(--ink); } button[data-here] { border-color: var(--now); box-shadow: inset 0 0 0 2px var(--now); }
`

/** Readings at the stations of a step: target, entry and judgement side by side; digits typed anywhere on the Board land here. */
export function ReadingsWork({ state, step, status, me, record, recheck, station: at, onStation }: WorkProps) {
  const { units } = usePreferences()
  const work = step.stage.work
  const target = work.type === 'readings' ? work.target : 'alignment'
  const sense = work.type === 'readings' ? work.sense : 'level'
  const across = target === 'alignment' || target === 'setback'
  const [chosen, setMethod] = useState<Method>('rod')
  const method: Method = across ? 'deviation' : chosen
  const [line, setLine] = useState<number>()
  const order = useMemo(() => walkOrder(state.layout, step.points), [state.layout, step.points])
  // Where a number is being typed one stays, whatever others record there meanwhile.
  const [held, setHeld] = useState<{ station: number; offset?: number | undefined }>()
  const place = recheck?.station === undefined ? (held ?? placeFor(status, order, at, line)) : { station: recheck.station, offset: recheck.offset }
  const { station, offset } = place
  // Each way of measuring has its own number: 1.85 on the rod is not 1.85 off the target.
  const spot = `${step.key}|${station}|${offset ?? ''}|${recheck?.id ?? ''}`
  // and 1.85 m is not 1.85 ft.
  const way = `${method} ${units}`
  const [typed, setText, letGo] = useTyped(spot, way)
  const typing = useRef(held)
  typing.current = held
  const setTyped = (text: string) => {
    setText(text)
    setHeld(text.trim() === '' || recheck ? undefined : { station, offset })
  }
  const [string, setString] = useTyped('string', `elevation ${units}`)
  const [sure, setSure] = useState(false)
  const input = useRef<HTMLInputElement>(null)
  const { busy, problems, setProblems, send } = useRecord(record)

  const setup = latestSetup(state)
  const hi = setup ? (setup.entry.data as SetupData).benchmark + (setup.entry.data as SetupData).backsight : undefined
  const goal = targetAt(state.layout, target, { station, course: step.course })
  const limit = limitAt(state.layout, step.stage, { station, course: step.course })
  const bare = method === 'deviation' ? smallUnit(units) : units === 'metric' ? 'm' : 'ft'
  const level = parseAmount(string, 'length', units)
  const from = method === 'rod' ? hi : method === 'string' ? (level.ok ? level.value : undefined) : 0
  const [taken, setTaken] = useState<Instrument>()
  const value = parseLength(typed, bare)
  const data: ReadingData | undefined =
    value.ok && from !== undefined
      ? { method, value: value.value, ...(method === 'rod' ? { hi: from } : method === 'string' ? { string: from } : {}) }
      : undefined
  const deviation = data ? deviationOf(data, goal) : undefined
  const out = deviation !== undefined && Math.abs(deviation) > limit.value + 0.0001
  const odd = deviation !== undefined && Math.abs(deviation) > limitsOf(state.layout.plan).questionable.value
  const should =
    from === undefined ? undefined : method === 'deviation' ? 0 : aim({ method, ...(method === 'rod' ? { hi: from } : { string: from }) }, goal)

  // biome-ignore lint/correctness/useExhaustiveDependencies: a new place, or another way of measuring, starts with its own reading
  useEffect(() => {
    setTaken(undefined)
    setSure(false)
  }, [station, offset, step.key, method])
  // Looked at another step and come back: the place with a number begun is the one that is asked for.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the step is opened
  useEffect(() => {
    const begun = status.read.find((r) => isTyping(`${step.key}|${r.station}|${r.offset ?? ''}|`))
    if (begun && at === undefined && !recheck) setHeld({ station: begun.station, offset: begun.offset })
  }, [step.key])
  /** What somebody recorded at this place while a number was being typed for it. */
  const meanwhile = held ? status.read.find((r) => r.station === held.station && r.offset === held.offset)?.entry : undefined
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || !/^[0-9.,+-]$/.test(e.key)) return
      if (!isWriting(document.activeElement)) input.current?.focus()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])

  // A value changed by hand, by whatever key, is no longer the instrument's.
  const typeIn = (v: string) => {
    setTyped(v)
    setTaken(undefined)
    setSure(false)
    if (problems.length > 0) setProblems([])
  }

  const put = async () => {
    if (!data)
      return setProblems(
        value.ok
          ? [{ field: 'reading', message: method === 'rod' ? 'set up the instrument first' : 'give the elevation of the string' }]
          : value.problems,
      )
    if (odd && !sure) {
      setSure(true)
      return
    }
    if (busy) return
    // The next point is asked for at once: nobody waits for the network with a number in hand, and what is typed meanwhile is the next one.
    const fact = {
      kind: 'reading' as const,
      where: whereOf(step, station, offset),
      data,
      ...(recheck ? { recheckOf: recheck.id } : {}),
      ...(taken ? { instrument: taken } : {}),
    }
    letGo()
    setHeld(undefined)
    setSure(false)
    setTaken(undefined)
    const after = along(status, order).find((r) => !r.entry && (r.station !== station || r.offset !== offset))
    if (!recheck) {
      setLine(after?.offset)
      if (after) onStation(after.station)
    }
    const result = await send([fact])
    if (result?.ok) return
    // Refused: the number comes back to its point, unless another one was begun there.
    if (typedAt(spot, way) === undefined) setText(typed)
    if (!recheck && typing.current === undefined) {
      setHeld({ station, offset })
      setLine(offset)
      onStation(station)
    }
  }
  const nudge = (by: number) => {
    const now = value.ok && typed.trim() ? value.value : (should ?? 0)
    const moved = now + by
    typeIn(
      units === 'metric'
        ? method === 'deviation'
          ? `${Math.round(moved * 1000)}`
          : moved.toFixed(3)
        : method === 'deviation'
          ? formatSmall(moved, units).replace(/^/, moved < 0 ? '-' : '')
          : formatLength(moved, units),
    )
  }
  const lineAt = (o: number | undefined) => (o === undefined ? '' : ` ${lineName(step.lines, o)}`)
  const step1 = units === 'metric' ? 0.001 : 0.0015875
  return (
    <WorkStack>
      {across ? null : (
        <Choice
          label="Measured with"
          hideLabel
          value={chosen}
          options={[
            ['rod', 'Rod'],
            ['string', 'String and tape'],
            ['survey', 'Point'],
            ['deviation', 'Deviation'],
          ]}
          onChange={setMethod}
        />
      )}
      {method === 'rod' && hi === undefined ? <Setup step={step} record={record} benchmark={state.layout.plan.benchmark} /> : null}
      {method === 'string' ? <AmountField label="Elevation of the level string" of="length" value={string} onChange={setString} /> : null}
      <Points role="group" aria-label="Reading points">
        {along(status, order).map((r) => {
          const isOut = r.entry !== undefined && state.outs.has(r.entry.entry.id) && status.open.some((o) => o.entry.id === r.entry?.entry.id)
          return (
            <AriaButton
              key={`${r.station} ${r.offset ?? ''}`}
              onPress={() => {
                setProblems([])
                setHeld(undefined)
                setLine(r.offset)
                onStation(r.station)
              }}
              {...(r.entry ? { 'data-done': true } : {})}
              {...(r.station === station && r.offset === offset ? { 'data-here': true } : {})}
              aria-label={`Station ${formatStation(r.station, units)}${lineAt(r.offset)}${r.entry ? (isOut ? ', out of tolerance' : ', read') : ''}`}
            >
              {r.entry ? (isOut ? '▲ ' : '✓ ') : ''}
              {formatStation(r.station, units)}
              {lineAt(r.offset)}
            </AriaButton>
          )
        })}
      </Points>
      <Targets
        list={[
          [
            method === 'rod' ? 'Rod should show' : method === 'string' ? 'Tape should show' : 'Should be',
            should === undefined ? '—' : method === 'deviation' ? 'on target' : formatLength(should, units),
          ],
          ...(across ? [] : [['Target elevation', formatLength(goal, units)] as const]),
          ...(method === 'rod' && hi !== undefined ? [['HI', formatLength(hi, units)] as const] : []),
          ['Limit', `±${formatSmall(limit.value, units)}`],
        ]}
      />
      <TextField value={typed} onChange={typeIn} aria-describedby="judged">
        <Label style={{ fontSize: 15, color: 'var(--soft)' }}>
          {`${method === 'rod' ? 'Rod reading' : method === 'string' ? 'Drop' : method === 'survey' ? 'Elevation' : sense === 'line' ? 'Off the line, + is out' : sense === 'setback' ? 'Off its setback, + is back' : 'Deviation, + is high'} at ${formatStation(station, units)}${lineAt(offset)}, ${bare}`}
        </Label>
        <Big ref={input} inputMode="decimal" enterKeyHint="done" onKeyDown={(e) => e.key === 'Enter' && put()} />
      </TextField>
      {method === 'rod' && should !== undefined ? (
        <TakeReading
          kind="level"
          scene={{ rod: should }}
          onTaken={(values, instrument) => {
            setTyped(units === 'metric' ? (values.rod ?? 0).toFixed(3) : formatLength(values.rod ?? 0, units))
            setTaken(instrument)
            setSure(false)
          }}
        />
      ) : null}
      {meanwhile && !recheck && meanwhile.entry.by.id !== me.id ? (
        <p role="status">
          <strong>{meanwhile.entry.by.name}</strong> recorded this point meanwhile: {lineOf(state, meanwhile.entry, { units })}. What you typed is
          still here; record it as a second reading, or empty it.
        </p>
      ) : null}
      <Judgement $out={out} id="judged" aria-live="polite">
        {deviation === undefined ? (
          <span>{typed.trim() && !value.ok ? say(value.problems[0]?.message ?? '', units) : 'Type the reading; it is judged as you type.'}</span>
        ) : (
          <>
            <b>
              {out ? '▲ ' : '✓ '}
              {formatDeviation(deviation, sense, units)}
            </b>
            <span>
              {odd
                ? `${slip(deviation) ?? 'far off: did a digit slip?'} Press record again if it is right.`
                : out
                  ? `over the limit of ±${formatSmall(limit.value, units)}. ${say(limit.reason, units)}`
                  : 'within limits'}
            </span>
          </>
        )}
      </Judgement>
      <RecordRow>
        <Button onPress={() => nudge(-step1)} aria-label="One step less">
          −
        </Button>
        <Button onPress={() => nudge(step1)} aria-label="One step more">
          +
        </Button>
        <NowButton style={{ flex: 1 }} isDisabled={busy || typed.trim() === ''} onPress={put}>
          {odd && sure ? 'It is right: record' : recheck ? 'Record re-check' : 'Record reading'}
        </NowButton>
      </RecordRow>
      <Pad>
        {['1', '2', '3', '4', '5', '6', '7', '8', '9', '.', '0', '⌫'].map((k) => (
          <AriaButton key={k} onPress={() => typeIn(k === '⌫' ? typed.slice(0, -1) : typed + k)} aria-label={k === '⌫' ? 'Delete' : k}>
            {k}
          </AriaButton>
        ))}
        <AriaButton onPress={() => typeIn(typed.startsWith('-') ? typed.slice(1) : `-${typed}`)}>±</AriaButton>
      </Pad>
      <Problems list={problems} />
      {recheck ? null : <RunAlong state={state} step={step} record={record} />}
      {method === 'rod' && hi !== undefined ? <Setup step={step} record={record} benchmark={state.layout.plan.benchmark} again /> : null}
    </WorkStack>
  )
}

/** The places of a step in the order a crew goes. */
const along = (status: StepStatus, order: readonly number[]) => [...status.read].sort((a, b) => order.indexOf(a.station) - order.indexOf(b.station))

/** The place a next reading is for: the one chosen, else the first not read yet on the way along the wall. */
function placeFor(
  status: StepStatus,
  order: readonly number[],
  at: number | undefined,
  line: number | undefined,
): { station: number; offset?: number } {
  const way = along(status, order)
  const here = way.filter((r) => r.station === at)
  const chosen = here.find((r) => r.offset === line) ?? here.find((r) => !r.entry) ?? here[0]
  return chosen ?? way.find((r) => !r.entry) ?? way[0] ?? { station: 0 }
}

/** Lines across the pad by name. @example lineName([-0.09, 0.39], 0.39) // 'back' */
const lineName = (lines: readonly number[], offset: number) =>
  Math.abs(offset - (lines[0] ?? 0)) <= Math.abs(offset - (lines[lines.length - 1] ?? 0)) ? 'front' : 'back'

function Setup({
  record,
  benchmark,
  again,
}: Pick<WorkProps, 'record' | 'step'> & { benchmark: { name: string; elevation: number }; again?: boolean }) {
  const { units } = usePreferences()
  const [open, setOpen] = useState(!again)
  const [backsight, setBacksight, letGo] = useTyped('setup', `backsight ${units}`)
  const { busy, problems, setProblems, go } = useRecord(record)
  if (!open) return <Button onPress={() => setOpen(true)}>Instrument moved: new height</Button>
  const put = async () => {
    const b = parseAmount(backsight, 'length', units)
    if (!b.ok) return setProblems(b.problems)
    if (await go([{ kind: 'setup', where: {}, data: { benchmark: benchmark.elevation, backsight: b.value } }])) {
      letGo()
      setOpen(!again)
    }
  }
  return (
    <Stack>
      <Row>
        <div style={{ flex: 1 }}>
          <Field
            label={`Backsight on ${benchmark.name} (${formatLength(benchmark.elevation, units)})`}
            value={backsight}
            onChange={setBacksight}
            inputMode="decimal"
          />
        </div>
        <Button isDisabled={busy || !backsight.trim()} onPress={put}>
          Set height
        </Button>
      </Row>
      <Problems list={problems} />
    </Stack>
  )
}
