'use client'

import { formatLength, type LengthSuggested, type Plan, parseAmount, type UnitSystem } from '@stone-tally/core'
import { useState } from 'react'
import { NowButton, Row, Stack } from '@/ui/controls'
import { SearchRow } from './search-row'
import { useSearch } from './use-search'

/** A length a little longer or shorter that takes fewer cuts: looked for beside the page, shown as what it would move. */
export function SuggestLength({ plan, units, onTake }: { plan: Plan; units: UnitSystem; onTake(length: number): void }) {
  const [play, setPlay] = useState(units === 'metric' ? '0.15' : '0.5')
  // What was found is of one plan; drawn anew it is the same plan.
  const search = useSearch<LengthSuggested>(JSON.stringify(plan))
  const { made, look, refuse } = search
  const ask = () => {
    const read = parseAmount(play, 'length', units)
    if (!read.ok) return refuse(read.problems[0]?.message ?? 'cannot be read')
    look((api, progress) => api.fewestCuts(plan, read.value, progress))
  }
  const by = made ? made.length - made.given.length : 0
  return (
    <Stack role="group" aria-label="Fewest cuts">
      <SearchRow
        label="It may be longer or shorter by"
        play={play}
        onPlay={setPlay}
        ask={{ title: 'Look for fewer cuts', go: ask }}
        search={search}
      />
      {made ? (
        <Row style={{ alignItems: 'center' }}>
          <p>
            {made.cuts < made.given.cuts
              ? `${formatLength(made.length, units, 2)} long, ${formatLength(Math.abs(by), units, 2)} ${by > 0 ? 'longer' : 'shorter'}: ${made.cuts} cuts instead of ${made.given.cuts}.`
              : `No length of the ${made.tried} tried takes fewer than the ${made.given.cuts} cuts it has.`}{' '}
            None of them can do with fewer than {made.bound}.
          </p>
          {made.cuts < made.given.cuts ? <NowButton onPress={() => onTake(made.length)}>Take {formatLength(made.length, units, 2)}</NowButton> : null}
        </Row>
      ) : null}
    </Stack>
  )
}
