'use client'

import type { Step } from '@stone-tally/core'
import { StepCard } from '@/features/wall'
import { useGo } from '@/ui/link'
import type { GroundProps } from './types'

/** The step a panel works on, with its gates and its record; what leads on from it is on the Board. */
export function GroundStep({ step, tag, state, me, record, station, onStation, wall }: GroundProps & { step: Step | undefined; tag: string }) {
  const go = useGo()
  if (!step) return null
  const toBoard = () => go(`/walls/${wall}`)
  return (
    <div data-entry>
      <StepCard
        state={state}
        step={step}
        me={me}
        record={record}
        tag={tag}
        station={station}
        onStation={onStation}
        onStep={toBoard}
        onNext={toBoard}
        wall={wall}
      />
    </div>
  )
}
