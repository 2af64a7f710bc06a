'use client'

import { useState } from 'react'
import { Choice, Quiet, Row, Stack } from '@/ui/controls'
import { SignaturePad } from './signature-pad'
import type { Signature } from './signature-strokes'

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
  const drawn = value.drawn ?? []
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
          <SignaturePad drawn={drawn} onChange={(strokes) => onChange({ typed: name, drawn: strokes })} />
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
