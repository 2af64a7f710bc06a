'use client'

import { type Layout, layOut, misplaced, type Plan, type Problem, type Result, readPlan, tooManyPieces, travelled } from '@stone-tally/core'
import { proxy } from 'comlink'
import { useDeferredValue, useEffect, useRef, useState } from 'react'
import { type Beside, beside } from '@/workers/beside'
import type { LayoutWorker } from '@/workers/layout.worker'

/** Walls up to this face (m²) are laid out at once; larger ones in a worker. */
export const AT_ONCE = 150
/** How long a plan stands still before a large one is laid out, ms. */
const STILL = 120

/** The last layout that could be made; `problems` say what is wrong with the plan as it stands now. */
export interface Made<L extends Layout | undefined> {
  readonly layout: L
  readonly problems: readonly Problem[]
}

const faceOf = (plan: Plan) => plan.length * Math.max(...plan.grades.map((g) => g.top - g.toe))

/** The plan as it is laid out, or why it cannot be. */
function readable(plan: Plan, issue: ((p: Plan) => Result<Plan>) | undefined): Result<Plan> {
  const read = issue ? issue(plan) : readPlan(plan)
  if (!read.ok) return read
  const large = tooManyPieces(read.value)
  return large ? { ok: false, problems: [large] } : read
}

/**
 * The layout of a plan that is being changed. A small wall is laid out at once, a large one beside the page; until that is done the one of before
 * stays, and so it does where the plan cannot be built as it stands.
 *
 * @param wanted - undefined while what is typed makes none
 * @param issue - the plan as it would be issued; as it is where left out
 * @example const { made, progress } = useLaid(draft, first)
 */
export function useLaid<L extends Layout | undefined>(
  wanted: Plan | undefined,
  initial: L,
  issue?: (p: Plan) => Result<Plan>,
): { made: Made<L>; progress: number | undefined } {
  // What was typed stands in its field before the wall is laid out anew.
  const plan = useDeferredValue(wanted)
  const [made, setMade] = useState<Made<L>>({ layout: initial, problems: [] })
  const [progress, setProgress] = useState<number>()
  const last = useRef<Layout | undefined>(initial)
  const worker = useRef<Beside<LayoutWorker>>(undefined)
  const turn = useRef(0)
  const issuing = useRef(issue)
  issuing.current = issue
  useEffect(() => {
    const mine = ++turn.current
    if (!plan) return
    const read = readable(plan, issuing.current)
    if (!read.ok) {
      setMade((m) => ({ ...m, problems: read.problems }))
      return
    }
    const take = (laid: ReturnType<typeof layOut>) => {
      if (mine !== turn.current) return
      setProgress(undefined)
      if (laid.ok) {
        last.current = laid.value
        setMade({ layout: laid.value as L, problems: misplaced(laid.value) })
      } else setMade((m) => ({ ...m, problems: laid.problems }))
    }
    if (faceOf(read.value) <= AT_ONCE) return take(layOut(read.value, last.current))
    const wait = setTimeout(async () => {
      worker.current ??= beside<LayoutWorker>(() => new Worker(new URL('../../../workers/layout.worker.ts', import.meta.url), { type: 'module' }))
      setProgress(0)
      // Progress travels on a port of its own: its last word may come in after the answer.
      let answered = false
      try {
        const answer = await worker.current.ask(
          async (api, alive) =>
            await api.layOut(
              read.value,
              proxy((done: number) => {
                alive()
                if (!answered && mine === turn.current) setProgress(done)
              }),
            ),
        )
        answered = true
        const whole = answer.ok ? travelled(answer.value) : undefined
        take(whole ? { ok: true, value: whole } : (answer as ReturnType<typeof layOut>))
      } catch (error) {
        // A page that stands still for a second is better than a wall that never comes.
        answered = true
        console.warn('laid out on the page:', error)
        if (mine === turn.current) take(layOut(read.value, last.current))
      }
    }, STILL)
    return () => clearTimeout(wait)
  }, [plan])
  useEffect(() => () => worker.current?.end(), [])
  return { made, progress }
}
