'use client'

import type { Programme, ProgrammeTask } from '@stone-tally/core'
import { useState } from 'react'
import styled from 'styled-components'
import { useHere } from '@/features/wall'
import { hrefOf } from '@/features/wall/places'
import { Quiet, Wide } from '@/ui/controls'
import { daysBetween, daysFrom, dayWords } from '@/ui/day-words'
import { Link } from '@/ui/link'

const Table = styled.table`td.bar { padding: 0; min-width: 320px; } td { white-space: nowrap; vertical-align: middle; } a { display: inline-flex; min-height: 36px; align-items: center; }`
const PAGE = 40

/** What is left, one line each in the order of its days: a bar from its first day to its last, and how much it may slip. */
export function Bars({ programme, today, width }: { programme: Programme; today: string; width: number }) {
  const { wall } = useHere()
  const [shown, setShown] = useState(PAGE)
  const list = [...programme.tasks].filter((t) => t.hours > 0).sort((a, b) => a.start - b.start || a.finish - b.finish)
  const days = daysFrom(today, programme.finish)
  const wide = Math.max(320, width - 560)
  const each = wide / days.length
  const spare = (t: ProgrammeTask) => (t.critical ? 'none' : `${Math.round((t.float / programme.calendar.data.hours) * 10) / 10} d`)
  return (
    <>
      <Wide role="region" aria-label="What is left, by its days" tabIndex={0}>
        <Table>
          <thead>
            <tr>
              <th>What</th>
              <th>From</th>
              <th>To</th>
              <th className="n">To spare</th>
              <th>Days</th>
            </tr>
          </thead>
          <tbody>
            {list.slice(0, shown).map((t) => (
              <tr key={t.id}>
                <td>
                  {t.kind === 'release' ? '⬣ ' : ''}
                  <Link href={hrefOf(wall, '', t.step.key)} prefetch={false}>
                    {t.title}
                  </Link>
                  {t.waitsFor ? (
                    <div style={{ color: 'var(--soft)' }}>
                      ▸ {t.waitsFor.material}, {t.waitsFor.ordered ? 'expected' : 'not ordered; soonest'} {dayWords(t.waitsFor.day)}
                    </div>
                  ) : null}
                </td>
                <td>{dayWords(t.from)}</td>
                <td>{dayWords(t.to)}</td>
                <td className="n">{t.critical ? <strong>none</strong> : spare(t)}</td>
                <td className="bar">
                  <svg width={wide} height={22} aria-hidden style={{ display: 'block' }}>
                    {days.map((d, i) =>
                      programme.calendar.works(d) ? null : <rect key={d} x={i * each} width={each} height={22} fill="var(--faint)" />,
                    )}
                    <rect
                      x={Math.max(0, daysBetween(today, t.from)) * each + 1}
                      width={Math.max(3, (daysBetween(t.from, t.to) + 1) * each - 2)}
                      y={5}
                      height={12}
                      fill={t.kind === 'work' ? (t.critical ? 'var(--now)' : 'var(--set)') : 'none'}
                      stroke={t.critical ? 'var(--now)' : 'var(--ink)'}
                      {...(t.kind === 'work' ? {} : { strokeDasharray: '4 2' })}
                    />
                  </svg>
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </Wide>
      {list.length > shown ? <Quiet onPress={() => setShown(shown + PAGE)}>Show {Math.min(PAGE, list.length - shown)} more</Quiet> : null}
    </>
  )
}
