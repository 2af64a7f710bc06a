'use client'

import { formatLength, type LengthSuggested, type Plan, parseLength, say, type UnitSystem } from '@stone-tally/core'
import { proxy } from 'comlink'
import { useEffect, useRef, useState } from 'react'
import { Button, Caution, Field, NowButton, Quiet, Row, Stack } from '@/ui/controls'
import { type Beside, beside } from '@/workers/beside'
import type { SuggestWorker } from '@/workers/suggest.worker'

/** A length a little longer or shorter that takes fewer cuts: looked for beside the page, shown as what it would move. */
export function SuggestLength({ plan, units, onTake }: { plan: Plan; units: UnitSystem; onTake(length: number): void }) {
  const [play, setPlay] = useState(units === 'metric' ? '0.15' : '0.5')
  const [share, setShare] = useState<number>()
  const [found, setFound] = useState<{ for: string; made: LengthSuggested } | { for: string; why: string }>()
  // What was found is of one plan; drawn anew it is the same plan.
  const key = JSON.stringify(plan)
  const worker = useRef<Beside<SuggestWorker>>(undefined)
  const turn = useRef(0)
  useEffect(() => () => worker.current?.end(), [])
  const stop = () => {
    turn.current++
    worker.current?.end()
    worker.current = undefined
    setShare(undefined)
  }
  const look = async () => {
    const read = parseLength(play, units === 'metric' ? 'm' : 'ft')
    if (!read.ok) return setFound({ for: key, why: read.problems[0]?.message ?? 'cannot be read' })
    const mine = ++turn.current
    setFound(undefined)
    setShare(0)
    // Progress travels on a port of its own: its last word may come in after the answer.
    let answered = false
    worker.current ??= beside<SuggestWorker>(() => new Worker(new URL('../../../workers/suggest.worker.ts', import.meta.url), { type: 'module' }))
    try {
      const answer = await worker.current.ask(
        async (api, alive) =>
          await api.fewestCuts(
            plan,
            read.value,
            proxy((s: number) => {
              alive()
              if (!answered && mine === turn.current) setShare(s)
            }),
          ),
      )
      answered = true
      if (mine === turn.current)
        setFound(answer.ok ? { for: key, made: answer.value } : { for: key, why: `${answer.problems[0]?.field} ${answer.problems[0]?.message}` })
    } catch {
      answered = true
      if (mine === turn.current) setFound({ for: key, why: 'could not be looked for on this device' })
    }
    if (mine === turn.current) setShare(undefined)
  }
  const made = found && found.for === key && 'made' in found ? found.made : undefined
  const by = made ? made.length - made.given.length : 0
  return (
    <Stack role="group" aria-label="Fewest cuts">
      <Row>
        <div style={{ width: 210 }}>
          <Field label={`It may be longer or shorter by, ${units === 'metric' ? 'm' : 'ft'}`} value={play} onChange={setPlay} />
        </div>
        {share === undefined ? (
          <Button onPress={look}>Look for fewer cuts</Button>
        ) : (
          <Quiet onPress={stop}>Looking, {Math.round(share * 100)} %. Stop</Quiet>
        )}
      </Row>
      {found && found.for === key && 'why' in found ? <Caution>▲ {say(found.why, units)}.</Caution> : null}
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
