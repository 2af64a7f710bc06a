'use client'

import type { InstrumentStatus } from '@stone-tally/core'
import { useCallback, useEffect, useRef, useState } from 'react'

/** Readings kept for the drawing. */
export const WINDOW = 600
/** The number of a reading that is drawn. */
const MAIN: Readonly<Record<string, string>> = {
  level: 'rod',
  'density-gauge': 'wet',
  'moisture-probe': 'moisture',
  'weather-station': 'wind',
  forecast: 'rain1',
}
/** Text changes four times a second, ms: faster cannot be read. */
const BEAT = 250

/** What came of an instrument since it is watched. */
export interface Seen {
  readonly count: number
  readonly gaps: number
  readonly broken: number
  readonly repeated: number
  readonly last: Readonly<Record<string, number>>
}
const NOTHING: Seen = { count: 0, gaps: 0, broken: 0, repeated: 0, last: {} }

/**
 * Follows an instrument. What came is drawn once a frame, however many readings come.
 *
 * @param rate - readings a second
 * @param paint - draws the last readings
 */
export function useLive({ id, kind }: InstrumentStatus, rate: string, paint: (trace: readonly number[]) => void) {
  const [seen, setSeen] = useState(NOTHING)
  const [lost, setLost] = useState<string>()
  const [asked, setAsked] = useState(0)
  const main = MAIN[kind] ?? 'rod'
  const painter = useRef(paint)
  painter.current = paint
  // biome-ignore lint/correctness/useExhaustiveDependencies: `asked` asks for a new connection
  useEffect(() => {
    const source = new EventSource(`/api/instruments/${id}/stream?rate=${rate}`)
    const trace: number[] = []
    const total = { ...NOTHING }
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
    let unsaid = false
    const each = () => {
      frame = requestAnimationFrame(each)
      if (changed) {
        changed = false
        unsaid = true
        painter.current(trace)
      }
      if (unsaid && performance.now() - beat > BEAT) {
        beat = performance.now()
        unsaid = false
        setSeen({ ...total })
      }
    }
    frame = requestAnimationFrame(each)
    return () => {
      source.close()
      cancelAnimationFrame(frame)
    }
  }, [id, rate, main, asked])
  return { seen, lost, again: useCallback(() => setAsked((n) => n + 1), []) }
}
