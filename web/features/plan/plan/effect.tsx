'use client'

import { formatAmount, type Layout, quantities } from '@stone-tally/core'
import { useRef } from 'react'
import { Condensed } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'

/** Numbers a change is read by. */
const SHOWN = ['dig', 'pad', 'stone', 'backfill', 'cuts', 'caps'] as const

const numbersOf = (layout: Layout) => {
  const of = new Map(quantities(layout).map((q) => [q.id, q]))
  const pieces = [...layout.cells.values()].reduce((n, c) => n + c.pieces.filter((p) => p.kind !== 'return').length, 0)
  return { courses: layout.courses.length, pieces, of }
}

/** What the change on hand does to courses, units, digging and stone, since this subject was opened. */
export function Effect({ layout, subject }: { layout: Layout; subject: string }) {
  const { units } = usePreferences()
  const held = useRef<{ subject: string; layout: Layout }>({ subject, layout })
  if (held.current.subject !== subject) held.current = { subject, layout }
  const [was, is] = [numbersOf(held.current.layout), numbersOf(layout)]
  const turned = (name: string, a: string, b: string) => (a === b ? [] : [`${name} ${a} → ${b}`])
  const changes = [
    ...turned('courses', `${was.courses}`, `${is.courses}`),
    ...turned('units', `${was.pieces}`, `${is.pieces}`),
    ...SHOWN.flatMap((id) => {
      const [a, b] = [was.of.get(id), is.of.get(id)]
      const say = (q: typeof a) => (q ? formatAmount(q, units) : 'none')
      return a || b ? turned((b ?? a)?.name.toLowerCase() ?? '', say(a), say(b)) : []
    }),
  ]
  return (
    <p role="status" style={{ minHeight: 22 }}>
      <Condensed>
        {changes.length > 0 ? changes.join(' · ') : `${is.courses} ${is.courses === 1 ? 'course' : 'courses'}, ${is.pieces} units`}
      </Condensed>
    </p>
  )
}
