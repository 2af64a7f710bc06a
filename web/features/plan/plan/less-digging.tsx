'use client'

import { formatAmount, formatLength, type LessDug, type Plan, parseAmount, type Shift, type UnitSystem } from '@stone-tally/core'
import { useState } from 'react'
import { Choice, NowButton, Row, Stack } from '@/ui/controls'
import { SearchRow } from './search-row'
import { useSearch } from './use-search'

const WORDS: Readonly<Record<Shift, readonly [more: string, less: string]>> = {
  line: ['further back', 'further forward'],
  grade: ['higher', 'lower'],
}

/** A place a little further back or higher at which less is dug in the ground as found; shown as what it would move. */
export function LessDigging({ plan, units, onTake }: { plan: Plan; units: UnitSystem; onTake(of: Shift, by: number): void }) {
  const [of, setOf] = useState<Shift>('line')
  const [play, setPlay] = useState(units === 'metric' ? '0.3' : '1')
  const search = useSearch<LessDug>(`${of} ${JSON.stringify(plan)}`)
  const { made, look, refuse } = search
  const ask = () => {
    const read = parseAmount(play, 'length', units)
    if (!read.ok) return refuse(read.problems[0]?.message ?? 'cannot be read')
    look((api, progress) => api.leastDigging(plan, of, read.value, progress))
  }
  const cubic = (v: number) => formatAmount({ value: v, unit: 'm³' }, units)
  const less = made && made.dig < made.given - 0.005
  const by = made ? `${formatLength(Math.abs(made.shift), units, 2)} ${WORDS[of][made.shift > 0 ? 0 : 1]}` : ''
  return (
    <Stack role="group" aria-label="Least digging">
      <Choice
        label="What may move"
        value={of}
        options={[
          ['line', 'The line, back or forward'],
          ['grade', 'The whole wall, up or down'],
        ]}
        onChange={setOf}
      />
      <SearchRow label="It may move by" play={play} onPlay={setPlay} ask={{ title: 'Look for less digging', go: ask }} search={search} />
      {made ? (
        <Row style={{ alignItems: 'center' }}>
          <p>
            {less
              ? `${by}: ${cubic(made.dig)} to dig instead of ${cubic(made.given)}.`
              : `No place of the ${made.tried} tried takes less than ${cubic(made.given)}.`}{' '}
            None of them can do with less than {cubic(made.bound)}. Only the wall moves; what stands around and the boundary stay where they are.
          </p>
          {less ? <NowButton onPress={() => onTake(of, made.shift)}>Move it {by}</NowButton> : null}
        </Row>
      ) : null}
    </Stack>
  )
}
