'use client'

import { useState } from 'react'
import styled from 'styled-components'
import { Button, Row } from '@/ui/controls'
import { momentWords } from '@/ui/day-words'

const Box = styled.div`border: 2px solid var(--ink); background: var(--panel); padding: 12px 14px; display: grid; gap: 8px; code { font: 500 15px/1.35 ui-monospace, monospace; overflow-wrap: anywhere; user-select: all; } p { margin: 0; }`

export interface Given {
  readonly token: string
  readonly endsAt: string
  readonly what: string
}

/** A link that is shown once: whoever closes it makes another. */
export function LinkGiven({ link, onClose }: { link: Given; onClose(): void }) {
  const [copied, setCopied] = useState(false)
  // Behind the sign that browsers keep to themselves: no server writes it into a log.
  const href = `${window.location.origin}/join#${link.token}`
  return (
    <Box role="status">
      <strong>{link.what}</strong>
      <code>{href}</code>
      <p>Give it to nobody else: it works once, for whoever opens it first. It ends {momentWords(link.endsAt)} and is not shown again.</p>
      <Row>
        <Button onPress={() => navigator.clipboard?.writeText(href).then(() => setCopied(true))}>{copied ? '✓ Copied' : 'Copy the link'}</Button>
        <Button onPress={onClose}>Done</Button>
      </Row>
    </Box>
  )
}
