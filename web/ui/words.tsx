'use client'

import { type TradeWord, tradeWordsIn } from '@stone-tally/core'
import { Button, Dialog, DialogTrigger, Popover } from 'react-aria-components'
import styled from 'styled-components'

const Opener = styled(Button)`
  background: none; border: 0; padding: 2px 0; margin: -2px 0; font: inherit; color: inherit; cursor: help; text-decoration: underline dotted; text-underline-offset: 4px; display: inline; position: relative;
  /* Small as a word, large to a finger: it reaches beyond what is drawn. */
  &::after { content: ''; position: absolute; inset: -12px -10px; }
  &[data-focus-visible] { outline: 3px solid var(--now); outline-offset: 2px; }
`
const Meaning = styled(Popover)`
  max-width: min(360px, calc(100vw - 24px)); background: var(--panel); color: var(--ink); border: 2px solid var(--ink); padding: 12px 14px; font-size: 16px; line-height: 1.4;
  [role='dialog'] { outline: none; display: grid; gap: 4px; }
`

/** A word of the trade: a press opens what it means. */
export const Word = ({ word, children }: { word: TradeWord; children: string }) => (
  <DialogTrigger>
    <Opener data-word aria-label={`${children}: what it means`}>
      {children}
    </Opener>
    <Meaning>
      <Dialog aria-label={word.word}>
        <strong>{word.word}</strong>
        <span>{word.means}</span>
      </Dialog>
    </Meaning>
  </DialogTrigger>
)

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
