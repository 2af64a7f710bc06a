'use client'

import { type Problem, readUnitsCsv, type Unit, type UnitsPreview } from '@stone-tally/core'
import { useState } from 'react'
import { send } from '@/device/send'

/** A catalogue file of more than this is no catalogue, bytes. */
const MOST = 2 * 1024 * 1024

/** What is done with the catalogue of a company, and what came of it; knows no markup. */
export function useCatalogue() {
  const [preview, setPreview] = useState<{ readonly name: string; readonly read: UnitsPreview }>()
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const sent = (answer: Awaited<ReturnType<typeof send>>) => {
    if (answer.ok) window.location.reload()
    else setProblems(answer.problems)
    return answer.ok ? [] : answer.problems
  }
  return {
    preview,
    problems,
    /** Reads a file; nothing of it is taken yet. */
    look: async (picked: File) => {
      setProblems([])
      setPreview(undefined)
      if (picked.size > MOST)
        return setProblems([
          { field: picked.name, message: `is ${(picked.size / 1048576).toFixed(1)} MB; a catalogue of at most ${MOST / 1048576} MB is read` },
        ])
      const read = readUnitsCsv(await picked.text())
      if (read.ok) setPreview({ name: picked.name, read: read.value })
      else setProblems(read.problems)
    },
    leave: () => setPreview(undefined),
    put: async (units: readonly { system: string; unit: Unit }[]) => sent(await send('PUT', '/api/catalogue', { units })),
    remove: async (id: string) => void sent(await send('DELETE', `/api/catalogue?id=${encodeURIComponent(id)}`)),
  }
}
