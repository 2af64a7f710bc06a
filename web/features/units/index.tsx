'use client'

import type { Plan } from '@stone-tally/core'
import type { Me } from '@/features/wall'
import { Problems } from '@/ui/controls'
import { laidFor } from '@/ui/laid'
import { Units } from './units-page'

/** The plan in force, laid out on this device. */
export function UnitsOf({ me, wall, name, plan }: { me: Me; wall: string; name: string; plan: Plan }) {
  const laid = laidFor(plan)
  return laid.ok ? <Units me={me} wall={wall} name={name} layout={laid.value} /> : <Problems list={laid.problems} />
}
