'use client'

import { type LadderStep, ladderOf, type RuleBook, type Rung, WHOSE_NAMES } from '@stone-tally/core'
import { Table } from '@/ui/table'

const NAMES: Readonly<Record<LadderStep, string>> = { ...WHOSE_NAMES, beyond: 'Ask first beyond its own height, else an engineer’s' }
const MARKS: Readonly<Record<LadderStep, string>> = { crew: '●', ask: '?', beyond: '?▲', engineer: '▲' }
const Step = ({ of }: { of: LadderStep }) => (
  <>
    <span aria-hidden>{MARKS[of]} </span>
    {NAMES[of]}
  </>
)

/** Whose wall each fact makes it, low and higher, with the reason; the strictest fact counts. */
export function LadderPart({ book, low }: { book: RuleBook; low: string }) {
  return (
    <section aria-labelledby="ladder">
      <h2 id="ladder">Whose wall it is</h2>
      <p>The strictest fact counts; what nobody said counts as the worst of its kind.</p>
      <Table<Rung>
        label="Whose wall each fact makes it"
        rows={ladderOf({ book })}
        id={(r) => r.fact}
        columns={[
          { head: 'Fact', is: 'wrap', cell: (r) => <strong>{r.title}</strong> },
          { head: `Shows up to ${low}`, is: 'wrap', cell: (r) => <Step of={r.low} /> },
          { head: 'Higher', is: 'wrap', cell: (r) => <Step of={r.higher} /> },
          { head: 'Why', is: 'wrap', cell: (r) => r.reason },
        ]}
      />
    </section>
  )
}
