'use client'

import { formatAmount, type Layout, quantities, say } from '@stone-tally/core'
import { usePreferences } from './preferences'
import { Table } from './table'

/** What a wall takes, each amount with how it was worked out. */
export function Takes({ layout, label = 'What it takes' }: { layout: Layout; label?: string }) {
  const { units } = usePreferences()
  return (
    <Table
      label={label}
      // What it takes nothing of is no line: a wall without stone or layers has none.
      rows={quantities(layout).filter((q) => q.value !== 0)}
      id={(q) => q.id}
      columns={[
        { head: 'Takes', is: 'wrap', cell: (q) => say(q.name, units) },
        { head: 'Amount', is: 'n', cell: (q) => <strong>{formatAmount(q, units)}</strong> },
        { head: 'How it was worked out', is: 'wrap', cell: (q) => <span style={{ color: 'var(--soft)' }}>{say(q.working, units)}</span> },
      ]}
    />
  )
}
