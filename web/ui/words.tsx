'use client'

import { type TradeWord, tradeWordsIn } from '@stone-tally/core'
import { useCallback, useRef, useState } from 'react'
import { Button } from 'react-aria-components'
import styled from 'styled-components'
import { later } from './later'

const Opener = styled(Button)`
  background: none; border: 0; padding: 2px 0; margin: -2px 0; font: inherit; color: inherit; cursor: help; text-decoration: underline dotted; text-underline-offset: 4px; display: inline; position: relative;
  /* Small as a word, large to a finger: it reaches beyond what is drawn. */
  &::after { content: ''; position: absolute; inset: -12px -12px; }
  &[data-focus-visible] { outline: 3px solid var(--now); outline-offset: 2px; }
`
const Meaning = later(() => import('./meaning').then((m) => m.Meaning))

/** A word of the trade: a press opens what it means. */
export function Word({ word, children }: { word: TradeWord; children: string }) {
  const [open, setOpen] = useState(false)
  const at = useRef<HTMLButtonElement>(null)
  const close = useCallback(() => setOpen(false), [])
  return (
    <>
      <Opener
        ref={at}
        data-word
        aria-haspopup="dialog"
        aria-expanded={open}
        aria-label={`${children}: what it means`}
        onPress={() => setOpen((o) => !o)}
      >
        {children}
      </Opener>
      {open ? <Meaning word={word} at={at} onClose={close} /> : null}
    </>
  )
}

/** A text in which every word of the trade opens its meaning, where it stands first. */
export const Words = ({ children }: { children: string }) => (
  <>
    {tradeWordsIn(children).map((p, i) =>
      p.word ? (
        // biome-ignore lint/suspicious/noArrayIndexKey: pieces of one text, in its order
        <Word key={i} word={p.word}>
          {p.text}
        </Word>
      ) : (
        p.text
      ),
    )}
  </>
)
