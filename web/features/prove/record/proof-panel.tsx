'use client'

import { useState } from 'react'
import styled from 'styled-components'
import { type Code, CodeBlock } from '@/features/wall/proof/code-block'
import { type Fault, useProof } from '@/features/wall/proof/use-proof'
import { Button, Field, LinkButton, Problems, Row, Stack, Stop } from '@/ui/controls'
import { fullDay, momentWords } from '@/ui/day-words'
import { ended } from '@/ui/sentence'

const Frame = styled.section`border: 1px solid var(--line); background: var(--panel); padding: 10px 14px; display: grid; gap: 12px; h2 { margin: 0; font-size: 19px; } p { margin: 0; }`

/** One thing that was found, answered by somebody or waiting for it. */
function FaultLine({ fault, may, busy, onLook }: { fault: Fault; may: boolean; busy: boolean; onLook(words: string): void }) {
  const [words, setWords] = useState('')
  if (fault.fault === 'mended')
    return (
      <p>
        ✓ {momentWords(fault.foundAt)}: {fault.message}.
      </p>
    )
  if (fault.look)
    return (
      <p>
        ▲ Found {momentWords(fault.foundAt)}: {ended(fault.message)} {fault.look.name} ({fault.look.role}) looked at it {momentWords(fault.look.at)}:{' '}
        {fault.look.words}
      </p>
    )
  return (
    <Stop role="alert">
      <strong>This record does not verify: {fault.message}.</strong>
      <div>
        Found {momentWords(fault.foundAt)}. Nothing is released on this wall until the office or the inspector has looked and said what was found.
      </div>
      {may ? (
        <Row>
          <div style={{ flex: 1, minWidth: 220 }}>
            <Field label="What you found, and what is done about it" value={words} onChange={setWords} long />
          </div>
          <Button isDisabled={busy || words.trim().length < 10} onPress={() => onLook(words)}>
            I have looked
          </Button>
        </Row>
      ) : null}
    </Stop>
  )
}

/** A mail to whoever keeps the code: nothing but where the record stood. */
const mailOf = (name: string, code: Code) =>
  `mailto:?subject=${encodeURIComponent(`${name}: where its record stood on ${code.day}`)}&body=${encodeURIComponent(
    `${name}\nThe record went up to entry ${code.seq} on ${fullDay(code.day)}.\n\n${code.code}\n\nKeep this code. Held against the record later, it tells whether anything up to there was taken out, put in or changed.`,
  )}`

/** Is the record whole? What the house found, the code to keep outside, and a code kept outside held against it. */
export function ProofPanel({ wall, name }: { wall: string; name: string }) {
  const [open, setOpen] = useState(false)
  const { proof, said, problems, busy, say } = useProof(wall, true)
  const [code, setCode] = useState('')
  if (!proof) return null
  const waiting = proof.faults.filter((f) => !f.look && f.fault !== 'mended')
  return (
    <Frame aria-label="Proof">
      <Row style={{ justifyContent: 'space-between', alignItems: 'center' }}>
        <div>
          <h2>{waiting.length > 0 ? '▲ This record does not verify' : 'Is this record whole?'}</h2>
          <p style={{ color: 'var(--soft)', fontSize: 15 }}>
            {proof.lookedAt
              ? `The office server last checked every record ${momentWords(proof.lookedAt)}.`
              : 'The office server has not checked its records yet.'}
          </p>
        </div>
        <Row>
          <Button isDisabled={busy} onPress={() => say({ do: 'verify' })}>
            {busy ? 'Looking …' : 'Look now'}
          </Button>
          <Button aria-expanded={open} onPress={() => setOpen(!open)}>
            {open ? 'Close' : 'Code to keep'}
          </Button>
        </Row>
      </Row>
      {said ? <p role="status">{`${said.good ? '✓' : '▲'} ${said.message}`}</p> : null}
      {proof.faults.map((f) => (
        <FaultLine key={f.number} fault={f} may={proof.mayLook} busy={busy} onLook={(words) => say({ do: 'look', number: f.number, words })} />
      ))}
      {open ? (
        <Stack>
          {proof.code ? (
            <>
              <CodeBlock code={proof.code} />
              <Row>
                <LinkButton href={mailOf(name, proof.code)}>Mail this code</LinkButton>
              </Row>
            </>
          ) : (
            <p>No code is given out for this record now.</p>
          )}
          <Row>
            <div style={{ flex: 1, minWidth: 220 }}>
              <Field label="A code somebody kept" value={code} onChange={setCode} hint="Typed off paper, or what a scanner read" />
            </div>
            <Button isDisabled={busy || code.trim() === ''} onPress={() => say({ do: 'against', code })}>
              Hold it against the record
            </Button>
          </Row>
        </Stack>
      ) : null}
      <Problems list={problems} />
    </Frame>
  )
}
