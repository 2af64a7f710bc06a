'use client'

import { useEffect, useRef, useState } from 'react'
import type Pad from 'signature_pad'
import styled from 'styled-components'
import { Caution } from '@/ui/controls'
import { type Stroke, strokesOf } from './signature-strokes'

const Sheet = styled.div`
  border: 2px solid var(--ink); border-radius: 4px; background: var(--panel); position: relative; height: 110px; color: var(--ink);
  canvas { width: 100%; height: 100%; display: block; touch-action: none; cursor: crosshair; }
  .soon { position: absolute; left: 12px; top: 12px; color: var(--soft); pointer-events: none; }
  &::after { content: ''; position: absolute; left: 12px; right: 12px; bottom: 24px; border-bottom: 1px solid var(--line); pointer-events: none; }
`
/** Width of what is drawn, CSS pixels. */
const PEN = { minWidth: 1.2, maxWidth: 2.8 }

/** What draws; a device that has the application kept has it too. */
const fetched = () => import('signature_pad')

/** A field to sign in with a finger, a pen or the mouse. What draws is fetched when somebody signs by hand; where it does not come, that is said. */
export function SignaturePad({
  drawn,
  onChange,
  from = fetched,
}: {
  drawn: readonly Stroke[]
  onChange(drawn: Stroke[]): void
  from?: () => Promise<{ default: typeof Pad }>
}) {
  const [missing, setMissing] = useState(false)
  // A stroke before that would leave no mark: the field says that it is not there yet.
  const [ready, setReady] = useState(false)
  const canvas = useRef<HTMLCanvasElement>(null)
  const pad = useRef<Pad>(undefined)
  const shown = useRef({ drawn, onChange })
  useEffect(() => {
    // Taken out by the button beside it; a page that is drawn anew in the middle of the first stroke takes nothing out.
    if (drawn.length === 0 && shown.current.drawn.length > 0) pad.current?.clear()
    shown.current = { drawn, onChange }
  })
  useEffect(() => {
    const on = canvas.current
    if (!on) return
    let watched: ResizeObserver | undefined
    let over = false
    const field = () => ({ width: on.clientWidth, height: on.clientHeight })
    /** As many points as the screen has; what was drawn is drawn again, for a device that is turned. */
    const fit = () => {
      const ratio = Math.max(window.devicePixelRatio || 1, 1)
      const { width, height } = field()
      on.width = width * ratio
      on.height = height * ratio
      on.getContext('2d')?.scale(ratio, ratio)
      pad.current?.clear()
      const again = shown.current.drawn.map((stroke) => ({
        ...{ penColor: getComputedStyle(on).color, dotSize: 0, velocityFilterWeight: 0.7, compositeOperation: 'source-over' as const, ...PEN },
        points: stroke.map((p, i) => ({ x: p.x * width, y: p.y * height, pressure: 0.5, time: i * 16 })),
      }))
      if (again.length > 0) pad.current?.fromData(again)
    }
    const begin = ({ default: Made }: { default: typeof Pad }) => {
      if (over) return
      const made = new Made(on, { ...PEN, penColor: getComputedStyle(on).color })
      pad.current = made
      made.addEventListener('endStroke', () => shown.current.onChange(strokesOf(made.toData(), field())))
      fit()
      watched = new ResizeObserver(fit)
      watched.observe(on)
      setReady(true)
    }
    from().then(begin, () => over || setMissing(true))
    return () => {
      over = true
      watched?.disconnect()
      pad.current?.off()
      pad.current = undefined
      setReady(false)
    }
  }, [from])
  if (missing) return <Caution>What draws could not be fetched: sign by name, or choose “By hand” again when there is a signal.</Caution>
  return (
    <Sheet>
      <canvas ref={canvas} role="img" aria-label={ready ? 'Sign here' : 'Getting ready to be signed'} />
      {ready ? null : <span className="soon">Getting ready …</span>}
    </Sheet>
  )
}
