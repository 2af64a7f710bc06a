'use client'

import styled from 'styled-components'
import type { Me } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Page } from '@/ui/controls'

export interface Part {
  readonly part: string
  readonly is: 'well' | 'watch' | 'ill'
  readonly says: string
}
const NAMES: Readonly<Record<string, string>> = { database: 'Database', disk: 'Room on the disk', backup: 'Backup', records: 'Records' }
const SIGNS = { well: '✓', watch: '○', ill: '▲' }

const List = styled.dl`
  display: grid; margin: 0; border-top: 2px solid var(--ink);
  > div { display: grid; grid-template-columns: 34px minmax(120px, 200px) minmax(0, 1fr); gap: 4px 12px; padding: 14px 0; border-bottom: 1px solid var(--line); align-items: baseline; }
  > div[data-is='ill'] { background: var(--faint); box-shadow: inset 6px 0 0 var(--stop, var(--now)); padding-left: 14px; }
  dt { font-weight: 600; font-size: 18px; } dd { margin: 0; font-size: 16px; } span { font-size: 20px; }
  @media (max-width: 560px) { > div { grid-template-columns: 30px minmax(0, 1fr); } dd { grid-column: 2; } }
`

/** How the house itself is: which part is well and which is not, with what to do. */
export function House({
  me,
  parts,
  signs,
  missing = [],
}: {
  me: Me
  parts: readonly Part[]
  signs: string | undefined
  /** Walls of this company that were there when the installation signed last, and are not, or not as long. */
  missing?: readonly { readonly id: string; readonly name: string; readonly says: string }[]
}) {
  const ill = parts.filter((p) => p.is === 'ill')
  return (
    <>
      <Bar person={me} />
      <Page>
        <h1>The house</h1>
        <p style={{ margin: 0 }}>
          {ill.length === 0 ? 'Nothing is ill.' : `▲ ${ill.map((p) => NAMES[p.part] ?? p.part).join(' and ')}: somebody has to look.`}
        </p>
        <List>
          {parts.map((p) => (
            <div key={p.part} data-is={p.is}>
              <span aria-hidden>{SIGNS[p.is]}</span>
              <dt>{NAMES[p.part] ?? p.part}</dt>
              <dd>{p.says.replace(/^./, (c) => c.toUpperCase())}.</dd>
            </div>
          ))}
        </List>
        {missing.length > 0 ? (
          <section aria-label="Missing" style={{ display: 'grid', gap: 10 }}>
            <h2>▲ Missing</h2>
            <List>
              {missing.map((m) => (
                <div key={m.id} data-is="ill">
                  <span aria-hidden>▲</span>
                  <dt>{m.name}</dt>
                  <dd>{m.says.replace(/^./, (c) => c.toUpperCase())}.</dd>
                </div>
              ))}
            </List>
          </section>
        ) : null}
        {signs ? (
          <p style={{ color: 'var(--soft)', overflowWrap: 'anywhere' }}>
            Checkpoints of this installation are signed by the key {signs}. Write it down where the backup is not: held against an export with tally
            record verify --key, it tells whose checkpoints they are.
          </p>
        ) : (
          <p>This installation has no key and makes no checkpoints.</p>
        )}
      </Page>
    </>
  )
}
