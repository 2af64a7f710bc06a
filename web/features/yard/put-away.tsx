'use client'

import type { Problem } from '@stone-tally/core'
import { useState } from 'react'
import { send } from '@/device/send'
import type { Me } from '@/features/wall'
import type { WallRow } from '@/server/wall-row'
import { Problems, Quiet, Row } from '@/ui/controls'
import { dayWords } from '@/ui/day-words'
import { Link } from '@/ui/link'

/** Walls that were put away: kept whole, opened and brought back from here. */
export function PutAway({ me, walls }: { me: Me; walls: readonly WallRow[] }) {
  const [problems, setProblems] = useState<readonly Problem[]>([])
  if (walls.length === 0) return null
  const back = async (id: string) => {
    const answer = await send('POST', `/api/walls/${id}/shelf`, { stands: 'back' })
    if (answer.ok) window.location.reload()
    else setProblems(answer.problems)
  }
  const may = me.role === 'foreman' || me.role === 'office'
  return (
    <details>
      <summary style={{ minHeight: 48, cursor: 'pointer', display: 'list-item', paddingTop: 12 }}>
        {walls.length} {walls.length === 1 ? 'wall' : 'walls'} put away
      </summary>
      <ul aria-label="Walls put away" style={{ listStyle: 'none', margin: 0, padding: 0, display: 'grid', gap: 4 }}>
        {walls.map((w) => (
          <li key={w.id}>
            <Row style={{ alignItems: 'center' }}>
              <Link href={`/walls/${w.id}`} style={{ minHeight: 48, display: 'inline-flex', alignItems: 'center' }}>
                {w.name}, {w.site}
              </Link>
              <span style={{ color: 'var(--soft)' }}>
                by {w.away?.by}, {dayWords(w.away?.at.slice(0, 10) ?? '')}
                {w.away?.why ? `: ${w.away.why}` : ''}
              </span>
              {may ? (
                <Quiet onPress={() => back(w.id)} aria-label={`Bring ${w.name} back`}>
                  Bring it back
                </Quiet>
              ) : null}
            </Row>
          </li>
        ))}
      </ul>
      <Problems list={problems} />
    </details>
  )
}
