'use client'

import { formatLength, type LengthSuggested, type Plan, parseLength, say, type UnitSystem } from '@stone-tally/core'
import { useState } from 'react'
import { Button, Caution, Field, NowButton, Quiet, Row, Stack } from '@/ui/controls'
import { useSearch } from './use-search'

/** A length a little longer or shorter that takes fewer cuts: looked for beside the page, shown as what it would move. */
export function SuggestLength({ plan, units, onTake }: { plan: Plan; units: UnitSystem; onTake(length: number): void }) {
  const [play, setPlay] = useState(units === 'metric' ? '0.15' : '0.5')
  // What was found is of one plan; drawn anew it is the same plan.
  const { share, made, why, look, stop, refuse } = useSearch<LengthSuggested>(JSON.stringify(plan))
  const ask = () => {
    const read = parseLength(play, units === 'metric' ? 'm' : 'ft')
    if (!read.ok) return refuse(read.problems[0]?.message ?? 'cannot be read')
    look((api, progress) => api.fewestCuts(plan, read.value, progress))
  }
  const by = made ? made.length - made.given.length : 0
  return (
    <Stack role="group" aria-label="Fewest cuts">
      <Row>
        <div style={{ width: 210 }}>
          <Field label={`It may be longer or shorter by, ${units === 'metric' ? 'm' : 'ft'}`} value={play} onChange={setPlay} />
        </div>
        {share === undefined ? (
          <Button onPress={ask}>Look for fewer cuts</Button>
        ) : (
          <Quiet onPress={stop}>Looking, {Math.round(share * 100)} %. Stop</Quiet>
        )}
      </Row>
      {why ? <Caution>▲ {say(why, units)}.</Caution> : null}
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
