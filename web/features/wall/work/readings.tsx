'use client'

import { formatDeviation, formatLength, formatSmall, formatStation, lineOf, parseAmount, say, slip } from '@stone-tally/core'
import { useState } from 'react'
import { Button as AriaButton, Input, Label, TextField } from 'react-aria-components'
import styled from 'styled-components'
import { TakeReading } from '@/features/instruments'
import { AmountField } from '@/ui/amount-field'
import { Button, Choice, Field, NowButton, Problems, RecordRow, Row, Stack, WorkStack } from '@/ui/controls'
import { Judgement, Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { ended } from '@/ui/sentence'
import { useTyped } from '../typed'
import { ReadingsSheet } from './readings-sheet'
import { RunAlong } from './run-along'
import type { WorkProps } from './types'
import { useReadings } from './use-readings'
import { useRecord } from './use-record'

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
export function ReadingsWork(props: WorkProps) {
  const { units } = usePreferences()
  const { state, step, status, me, record, recheck } = props
  const of = useReadings(props)
  const lineAt = (o: number | undefined) => (o === undefined ? '' : ` ${lineName(step.lines, o)}`)
  return (
    <WorkStack>
      {of.across ? null : (
        <Choice
          label="Measured with"
          hideLabel
          value={of.chosen}
          options={[
            ['rod', 'Rod'],
            ['string', 'String and tape'],
            ['survey', 'Point'],
            ['deviation', 'Deviation'],
          ]}
          onChange={of.setMethod}
        />
      )}
      {of.method === 'rod' && of.hi === undefined ? <Setup step={step} record={record} benchmark={state.layout.plan.benchmark} /> : null}
      {of.method === 'string' ? <AmountField label="Elevation of the level string" of="length" value={of.string} onChange={of.setString} /> : null}
      <Points role="group" aria-label="Reading points">
        {of.points.map((r) => {
          const isOut = r.entry !== undefined && state.outs.has(r.entry.entry.id) && status.open.some((o) => o.entry.id === r.entry?.entry.id)
          return (
            <AriaButton
              key={`${r.station} ${r.offset ?? ''}`}
              onPress={() => of.goTo(r)}
              {...(r.entry ? { 'data-done': true } : {})}
              {...(r.station === of.station && r.offset === of.offset ? { 'data-here': true } : {})}
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
            of.method === 'rod' ? 'Rod should show' : of.method === 'string' ? 'Tape should show' : 'Should be',
            of.should === undefined ? '—' : of.method === 'deviation' ? 'on target' : formatLength(of.should, units),
          ],
          ...(of.across ? [] : [['Target elevation', formatLength(of.goal, units)] as const]),
          ...(of.method === 'rod' && of.hi !== undefined ? [['HI', formatLength(of.hi, units)] as const] : []),
          ['Limit', `±${formatSmall(of.limit.value, units)}`],
        ]}
      />
      <TextField value={of.typed} onChange={of.typeIn} aria-describedby="judged">
        <Label style={{ fontSize: 15, color: 'var(--soft)' }}>
          {`${of.method === 'rod' ? 'Rod reading' : of.method === 'string' ? 'Drop' : of.method === 'survey' ? 'Elevation' : of.sense === 'line' ? 'Off the line, + is out' : of.sense === 'setback' ? 'Off its setback, + is back' : 'Deviation, + is high'} at ${formatStation(of.station, units)}${lineAt(of.offset)}, ${of.bare}`}
        </Label>
        <Big ref={of.input} inputMode="decimal" enterKeyHint="done" onKeyDown={(e) => e.key === 'Enter' && of.put()} />
      </TextField>
      {of.method === 'rod' && of.should !== undefined ? (
        <TakeReading kind="level" scene={{ rod: of.should }} onTaken={(values, instrument) => of.shot(values.rod ?? 0, instrument)} />
      ) : null}
      {of.meanwhile && !recheck && of.meanwhile.entry.by.id !== me.id ? (
        <p role="status">
          <strong>{of.meanwhile.entry.by.name}</strong> recorded this point meanwhile: {ended(lineOf(state, of.meanwhile.entry, { units }))} What you
          typed is still here; record it as a second reading, or empty it.
        </p>
      ) : null}
      <Judgement $out={of.out} id="judged" aria-live="polite">
        {of.deviation === undefined ? (
          <span>
            {of.typed.trim() && !of.value.ok ? say(of.value.problems[0]?.message ?? '', units) : 'Type the reading; it is judged as you type.'}
          </span>
        ) : (
          <>
            <b>
              {of.out ? '▲ ' : '✓ '}
              {formatDeviation(of.deviation, of.sense, units)}
            </b>
            <span>
              {of.odd
                ? `${slip(of.deviation) ?? 'far off: did a digit slip?'} Press record again if it is right.`
                : of.out
                  ? `over the limit of ±${formatSmall(of.limit.value, units)}. ${say(of.limit.reason, units)}`
                  : 'within limits'}
            </span>
          </>
        )}
      </Judgement>
      <RecordRow>
        <Button onPress={() => of.nudge(-1)} aria-label="One step less">
          −
        </Button>
        <Button onPress={() => of.nudge(1)} aria-label="One step more">
          +
        </Button>
        <NowButton style={{ flex: 1 }} isDisabled={of.busy || of.typed.trim() === ''} onPress={of.put}>
          {of.odd && of.sure ? 'It is right: record' : recheck ? 'Record re-check' : 'Record reading'}
        </NowButton>
      </RecordRow>
      <Pad>
        {['1', '2', '3', '4', '5', '6', '7', '8', '9', '.', '0', '⌫'].map((k) => (
          <AriaButton key={k} onPress={() => of.typeIn(k === '⌫' ? of.typed.slice(0, -1) : of.typed + k)} aria-label={k === '⌫' ? 'Delete' : k}>
            {k}
          </AriaButton>
        ))}
        <AriaButton onPress={() => of.typeIn(of.typed.startsWith('-') ? of.typed.slice(1) : `-${of.typed}`)}>±</AriaButton>
      </Pad>
      <Problems list={of.problems} />
      {recheck ? null : <ReadingsSheet state={state} step={step} record={record} of={of} nameOf={lineAt} />}
      {recheck ? null : <RunAlong state={state} step={step} me={me} record={record} />}
      {of.method === 'rod' && of.hi !== undefined ? <Setup step={step} record={record} benchmark={state.layout.plan.benchmark} again /> : null}
    </WorkStack>
  )
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
