'use client'

import { useState } from 'react'
import type { Me } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Choice, Page, Row } from '@/ui/controls'
import { dayWords } from '@/ui/day-words'
import { Table } from '@/ui/table'

export interface Line {
  readonly number: number
  readonly at: string
  readonly what: string
  readonly name: string | null
  readonly network: string
  readonly detail: string
}
const GOOD = new Set(['sign-in', 'sign-out', 'export', 'invitation used', 'passkey added'])

/** What concerned security, newest first; kept where nobody changes it. */
export function SecurityLog({ me, lines }: { me: Me; lines: readonly Line[] }) {
  const [which, setWhich] = useState<'all' | 'refused' | 'changes'>('all')
  const shown = lines.filter((l) =>
    which === 'all' ? true : which === 'refused' ? /refused|verify/.test(l.what) : !GOOD.has(l.what) && !/refused/.test(l.what),
  )
  return (
    <>
      <Bar person={me} />
      <Page>
        <h1>Security log</h1>
        <Row>
          <Choice
            label="Show"
            hideLabel
            value={which}
            options={[
              ['all', 'All'],
              ['refused', '▲ Refused'],
              ['changes', 'Changes'],
            ]}
            onChange={setWhich}
          />
        </Row>
        <Table
          label="Security log"
          rows={shown}
          id={(l) => l.number}
          columns={[
            { head: 'When, UTC', cell: (l) => `${dayWords(l.at)}, ${l.at.slice(11, 19)}` },
            {
              head: 'What',
              cell: (l) => (
                <>
                  {/refused|verify/.test(l.what) ? '▲ ' : ''}
                  {l.what}
                </>
              ),
            },
            { head: 'Who', cell: (l) => l.name ?? '' },
            { head: 'From', cell: (l) => l.network },
            { head: 'Of what', is: 'wrap', cell: (l) => l.detail },
          ]}
        />
        {shown.length === 0 ? (
          <p>Nothing here.</p>
        ) : (
          <p style={{ color: 'var(--soft)' }}>The newest {lines.length}. The whole of it is in the log of the installation.</p>
        )}
      </Page>
    </>
  )
}
