'use client'

import type { Plan } from '@stone-tally/core'
import { useHere } from '@/features/wall'
import { Problems } from '@/ui/controls'
import { laidFor } from '@/ui/laid'
import { Units } from './units-page'

/** The plan in force, laid out on this device. */
export function UnitsPlace() {
  const { plans } = useHere()
  const laid = laidFor(plans[plans.length - 1] as Plan)
  return laid.ok ? <Units layout={laid.value} /> : <Problems list={laid.problems} />
}
