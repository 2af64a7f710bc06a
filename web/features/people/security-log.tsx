'use client'

import { useState } from 'react'
import type { Me } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Choice, Page, Row, Wide } from '@/ui/controls'

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
        <Wide>
          <table aria-label="Security log">
            <thead>
              <tr>
                <th>When, UTC</th>
                <th>What</th>
                <th>Who</th>
                <th>From</th>
                <th className="wrap">Of what</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((l) => (
                <tr key={l.number}>
                  <td>{l.at.slice(0, 19).replace('T', ' ')}</td>
                  <td>
                    {/refused|verify/.test(l.what) ? '▲ ' : ''}
                    {l.what}
                  </td>
                  <td>{l.name ?? ''}</td>
                  <td>{l.network}</td>
                  <td className="wrap">{l.detail}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
        {shown.length === 0 ? (
          <p>Nothing here.</p>
        ) : (
          <p style={{ color: 'var(--soft)' }}>The newest {lines.length}. The whole of it is in the log of the installation.</p>
        )}
      </Page>
    </>
  )
}
