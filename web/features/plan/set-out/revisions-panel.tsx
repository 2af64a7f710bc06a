'use client'

import { type Change, compareLayouts, type Layout, type Problem, say, type Unmatched } from '@stone-tally/core'
import { useState } from 'react'
import { send } from '@/device/send'
import { Button, Choice, NowButton, Problems, Row, Small, Stack } from '@/ui/controls'
import { fullDay } from '@/ui/day-words'
import { usePreferences } from '@/ui/preferences'
import { Table } from '@/ui/table'
import { Unfit } from './unfit'
import type { Draft } from './use-draft'

export interface Issued {
  readonly number: number
  readonly issuedAt: string
  readonly issuedBy: string
  readonly layout: Layout
}

/** Issue the draft, compare any two revisions, and see what recorded work no longer matches. */
export function RevisionsPanel({
  wall,
  draft,
  issued,
  left,
  right,
  onCompare,
  unmatched,
  told,
  may,
}: {
  wall: string
  draft: Draft
  issued: readonly Issued[]
  /** Revisions compared; 0 is the draft. */
  left: number
  right: number
  onCompare(left: number, right: number): void
  unmatched: readonly Unmatched[]
  /** Who was told of a revision, in words. */
  told(revision: number): string
  may: boolean
}) {
  const { units } = usePreferences()
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [busy, setBusy] = useState(false)
  const of = (n: number) => (n === 0 ? draft.layout : issued.find((r) => r.number === n)?.layout)
  const [a, b] = [of(left), of(right)]
  const changes: readonly Change[] = a && b ? compareLayouts(a, b) : []
  const next = (issued[issued.length - 1]?.number ?? 0) + 1
  const issue = async () => {
    setBusy(true)
    const answer = await send('POST', `/api/walls/${wall}/revisions`, { plan: draft.plan, base: next - 1 })
    setBusy(false)
    if (answer.ok) window.location.reload()
    else setProblems(answer.problems)
  }
  const names = (list: readonly Issued[]) => list.map((r) => [`${r.number}`, `${r.number}`] as const)
  return (
    <Stack>
      <h2>Revisions</h2>
      <Table
        label="Revisions"
        rows={issued}
        id={(r) => r.number}
        columns={[
          { head: 'No.', cell: (r) => <strong>{r.number}</strong> },
          { head: 'Issued', cell: (r) => fullDay(new Date(r.issuedAt).toISOString()) },
          { head: 'By', cell: (r) => r.issuedBy },
          { head: 'Told', is: 'wrap', cell: (r) => told(r.number) },
        ]}
      />
      <Choice label="Compare" value={`${left}`} options={names(issued)} onChange={(v) => onCompare(Number(v), right)} />
      <Choice
        label="with"
        value={`${right}`}
        options={[...names(issued), ['0', 'this draft'] as const]}
        onChange={(v) => onCompare(left, Number(v))}
      />
      <div role="status">
        {changes.length === 0 ? (
          <p>No difference.</p>
        ) : (
          <ol style={{ margin: 0, paddingLeft: 22, display: 'grid', gap: 6 }}>
            {changes.map((c) => (
              <li key={`${c.id}${c.text}`}>{say(c.text, units)}</li>
            ))}
          </ol>
        )}
      </div>
      <Small>The earlier face line is dotted beneath the plan.</Small>
      <Unfit
        title={right === 0 ? 'Issued as it is, recorded work would no longer match:' : 'Recorded work that does not match the plan in force:'}
        list={unmatched}
      />
      {may ? (
        <>
          <Problems list={problems} />
          <Row>
            <NowButton isDisabled={!draft.changed || draft.problems.length > 0 || busy} onPress={issue}>
              Issue revision {next}
            </NowButton>
            {draft.problems.length > 0 ? <Small>the draft cannot be built as it is</Small> : null}
          </Row>
          <Small>Entries stay tied to the revision they were made under. Nothing already recorded is changed.</Small>
        </>
      ) : (
        <p>Issuing takes the foreman or the office.</p>
      )}
      {draft.changed && may ? <Button onPress={() => window.location.reload()}>Drop the draft</Button> : null}
    </Stack>
  )
}
