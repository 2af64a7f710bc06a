'use client'

import type { Plan, Problem, UnitSystem } from '@stone-tally/core'
import { useState } from 'react'
import { isReference, readAround, type TypedAround } from './around'

const empty = (units: UnitSystem): TypedAround => ({
  kind: 'tree',
  name: '',
  points: '',
  radius: '',
  clearance: units === 'metric' ? '1.5' : units === 'imperial' ? `5'` : '5',
})

/** State of something that is put around a wall. @param edit - changes the plan */
export function useAround(units: UnitSystem, edit: (change: (p: Plan) => Plan) => void) {
  const [typed, setTyped] = useState(() => empty(units))
  const [problems, setProblems] = useState<readonly Problem[]>([])
  return {
    typed,
    reference: isReference(typed.kind),
    set: <K extends keyof TypedAround>(field: K, value: TypedAround[K]) => setTyped((t) => ({ ...t, [field]: value })),
    wrong: (field: keyof TypedAround) => problems.find((p) => p.field === field)?.message,
    add: () => {
      const read = readAround(typed, units)
      setProblems(read.ok ? [] : read.problems)
      if (!read.ok) return
      edit(read.value)
      setTyped((t) => ({ ...t, name: '', points: '' }))
    },
  }
}
