'use client'

import type { Instrument, InstrumentKind, InstrumentReading, InstrumentStatus, Problem } from '@stone-tally/core'
import { useEffect, useState } from 'react'
import { send } from '@/device/send'
import { Button, Choice, Condensed, Problems, Row } from '@/ui/controls'
import { fullDay } from '@/ui/day-words'

/** The instruments of one kind within reach; empty until they are known and where there are none. */
export function useInstruments(kind?: InstrumentKind): readonly InstrumentStatus[] {
  const [list, setList] = useState<readonly InstrumentStatus[]>([])
  useEffect(() => {
    let over = false
    fetch('/api/instruments')
      .then((r) => (r.ok ? r.json() : { instruments: [] }))
      .then((b: { instruments: InstrumentStatus[] }) => {
        const found = b.instruments.filter((i) => !kind || i.kind === kind)
        if (!over && found.length > 0) setList(found)
      })
      // Without them the reading is typed, as always.
      .catch(() => {})
    return () => {
      over = true
    }
  }, [kind])
  return list
}

export const isPast = (until: string, now = new Date()) => until < now.toISOString().slice(0, 10)
export const instrumentOf = (s: InstrumentStatus): Instrument => ({ name: s.name, serial: s.serial, calibratedUntil: s.calibratedUntil })

/**
 * Choose an instrument, take a reading: its values go into the field, where they are judged like typed ones. Nothing is shown
 * where no instrument is within reach.
 *
 * @param scene - what a stand-in meets here
 */
export function TakeReading({
  kind,
  scene,
  onTaken,
}: {
  kind: InstrumentKind
  scene: Readonly<Record<string, number>>
  onTaken(values: Readonly<Record<string, number>>, instrument: Instrument): void
}) {
  const list = useInstruments(kind)
  const [chosen, setChosen] = useState<string>()
  const [busy, setBusy] = useState(false)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const one = list.find((i) => i.id === chosen) ?? list[0]
  if (!one) return null
  const take = async () => {
    setBusy(true)
    const answer = await send<{ status: InstrumentStatus; reading: InstrumentReading }>('POST', `/api/instruments/${one.id}/read`, { scene })
    setBusy(false)
    setProblems(answer.ok ? [] : answer.problems)
    if (answer.ok) onTaken(answer.value.reading.values, instrumentOf(answer.value.status))
  }
  return (
    <div style={{ display: 'grid', gap: 6 }}>
      <Row style={{ alignItems: 'center' }}>
        {list.length > 1 ? (
          <Choice label="Instrument" hideLabel value={one.id} options={list.map((i) => [i.id, i.serial] as const)} onChange={setChosen} />
        ) : null}
        <Button isDisabled={busy} onPress={take}>
          {busy ? 'Reading …' : `Take reading: ${one.name}`}
        </Button>
      </Row>
      <Condensed style={{ color: 'var(--soft)', fontSize: 16 }}>
        {one.connected ? '' : '▲ off · '}battery {one.battery.toFixed(0)} %{one.battery < 15 ? ' ▲ low' : ''} ·{' '}
        {isPast(one.calibratedUntil)
          ? `▲ calibration ran out on ${fullDay(one.calibratedUntil)}: taken, and shown as such`
          : `calibrated until ${fullDay(one.calibratedUntil)}`}
      </Condensed>
      <Problems list={problems} />
    </div>
  )
}
