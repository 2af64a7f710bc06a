'use client'

import type { ReleaseData } from '@stone-tally/core'
import { useRef, useState } from 'react'
import styled from 'styled-components'
import { Choice, Quiet, Row, Stack } from '@/ui/controls'

/** As the record keeps it: a name, or strokes as shares of the field. */
export type Signature = NonNullable<ReleaseData['signature']>

const Sheet = styled.div`
  border: 2px solid var(--ink); border-radius: 4px; background: var(--panel); touch-action: none; position: relative; height: 110px; cursor: crosshair;
  svg { width: 100%; height: 100%; display: block; } &::after { content: ''; position: absolute; left: 12px; right: 12px; bottom: 24px; border-bottom: 1px solid var(--line); }
`
const round = (v: number) => Math.round(Math.min(1, Math.max(0, v)) * 1000) / 1000

/** Strokes as a drawing, wherever they are shown. */
export function Strokes({
  drawn,
  width = 220,
  height = 70,
}: {
  drawn: NonNullable<Signature['drawn']>
  width?: number | string
  height?: number | string
}) {
  return (
    <svg viewBox="0 0 1000 320" width={width} height={height} preserveAspectRatio="none" role="img" aria-label="Signature">
      {drawn.map((stroke, i) => (
        <polyline
          // biome-ignore lint/suspicious/noArrayIndexKey: strokes have no identity but their order
          key={i}
          points={stroke.map((p) => `${p.x * 1000},${p.y * 320}`).join(' ')}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={6}
          strokeLinecap="round"
          strokeLinejoin="round"
          vectorEffect="non-scaling-stroke"
          style={{ strokeWidth: 2.4 }}
        />
      ))}
    </svg>
  )
}

/** Signed by the person who is signed in: by name, or by hand with a finger, a pen or the mouse; the name stands with the drawing. */
export function SignatureField({ value, onChange, name }: { value: Signature; onChange(v: Signature): void; name: string }) {
  const [way, setWay] = useState<'typed' | 'drawn'>('typed')
  const sheet = useRef<HTMLDivElement>(null)
  const drawing = useRef(false)
  const drawn = value.drawn ?? []
  const at = (e: React.PointerEvent) => {
    const box = sheet.current?.getBoundingClientRect()
    return box ? { x: round((e.clientX - box.left) / box.width), y: round((e.clientY - box.top) / box.height) } : { x: 0, y: 0 }
  }
  return (
    <Stack style={{ gap: 8 }}>
      <Choice
        label="Signed"
        value={way}
        options={[
          ['typed', 'By name'],
          ['drawn', 'By hand'],
        ]}
        onChange={(v) => {
          setWay(v)
          onChange(v === 'drawn' ? { typed: name, drawn: [] } : { typed: name })
        }}
      />
      {way === 'typed' ? (
        <p>
          Signed as <strong>{name}</strong>, who is signed in. Somebody else signs after signing in.
        </p>
      ) : (
        <>
          <Sheet
            ref={sheet}
            role="img"
            aria-label="Sign here"
            onPointerDown={(e) => {
              drawing.current = true
              ;(e.target as Element).setPointerCapture?.(e.pointerId)
              if (drawn.length < 60) onChange({ typed: name, drawn: [...drawn, [at(e)]] })
            }}
            onPointerMove={(e) => {
              const last = drawn[drawn.length - 1]
              if (!drawing.current || !last || last.length >= 400) return
              onChange({ typed: name, drawn: [...drawn.slice(0, -1), [...last, at(e)]] })
            }}
            onPointerUp={() => {
              drawing.current = false
            }}
          >
            <Strokes drawn={drawn} width="100%" height="100%" />
          </Sheet>
          <Row>
            <Quiet isDisabled={drawn.length === 0} onPress={() => onChange({ typed: name, drawn: [] })}>
              Clear
            </Quiet>
          </Row>
        </>
      )}
    </Stack>
  )
}
