'use client'

import styled from 'styled-components'
import { fullDay } from '@/ui/day-words'

/** A checkpoint as it is given out. */
export interface Code {
  readonly seq: number
  readonly day: string
  readonly code: string
  readonly qr: { readonly size: number; readonly path: string }
}

const Block = styled.div`
  display: grid; grid-template-columns: auto minmax(0, 1fr); gap: 14px; align-items: center;
  svg { width: 148px; height: 148px; background: #fff; padding: 8px; border: 1px solid var(--line); box-sizing: border-box; }
  code { font: 600 19px/1.35 'Barlow Condensed', sans-serif; letter-spacing: .06em; word-spacing: .35em; overflow-wrap: anywhere; }
  p { margin: 4px 0 0; font-size: 15px; color: var(--soft); }
  @media (max-width: 480px) { grid-template-columns: minmax(0, 1fr); }
`

/** The code of a record's end, to be read out, typed off and scanned; whoever keeps it can tell whether anything before it was changed since. */
export const CodeBlock = ({ code }: { code: Code }) => (
  <Block>
    <svg viewBox={`0 0 ${code.qr.size} ${code.qr.size}`} role="img" aria-label="The code, to be scanned" shapeRendering="crispEdges">
      <path d={code.qr.path} fill="#000" />
    </svg>
    <div>
      <code>{code.code}</code>
      <p>
        Entry {code.seq}, {fullDay(code.day)}. Keep it outside: held against the record later, it tells whether anything up to there was taken out,
        put in or changed.
      </p>
    </div>
  </Block>
)
