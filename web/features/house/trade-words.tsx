'use client'

import { TRADE_WORDS } from '@stone-tally/core'
import { useState } from 'react'
import styled from 'styled-components'
import type { Me } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Field, LinkButton, Page, Row } from '@/ui/controls'

const List = styled.dl`margin: 0; max-width: 760px; dt { font-weight: 650; margin-top: 14px; scroll-margin-top: 80px; } dd { margin: 2px 0 0; }`

/** Every word of the trade that stands on a screen, with what it means. */
export function TradeWordsPage({ me }: { me: Me }) {
  const [text, setText] = useState('')
  const asked = text.trim().toLowerCase()
  const list = TRADE_WORDS.filter((w) => [w.word, ...(w.also ?? []), w.means].some((t) => t.toLowerCase().includes(asked)))
  return (
    <>
      <Bar person={me} />
      <Page>
        <Row style={{ justifyContent: 'space-between' }}>
          <h1>Words of the trade</h1>
          <LinkButton href="/">Yard</LinkButton>
        </Row>
        <div style={{ maxWidth: 420 }}>
          <Field label="Look for a word" value={text} onChange={setText} />
        </div>
        <List>
          {list.map((w) => (
            <div key={w.word} id={w.word.replace(/ /g, '-')}>
              <dt>
                {w.word}
                {w.also ? <span style={{ fontWeight: 400, color: 'var(--soft)' }}> · {w.also.join(', ')}</span> : null}
              </dt>
              <dd>{w.means}</dd>
            </div>
          ))}
        </List>
        {list.length === 0 ? <p>No word of the trade here has “{text.trim()}” in it.</p> : null}
      </Page>
    </>
  )
}
