'use client'

import { type FileUnit, type Problem, parseAmount, readReadingsCsv } from '@stone-tally/core'
import { useMemo, useState } from 'react'
import { houseNow } from '@/device/clock'
import { useFeed, useHere } from '@/features/wall'
import { usePreferences } from '@/ui/preferences'
import { dataOf, judgeReadings, levelsOf, type Taken } from './readings-in'

/** No level book of a wall is larger, bytes. */
const MOST = 20 * 1024 * 1024

/** State of taking level readings from a file: chosen, looked at line by line, taken on a word. */
export function useImportReadings() {
  const { wall, plans, me } = useHere()
  const { state, record, loaded } = useFeed()
  const { units } = usePreferences()
  const [content, setContent] = useState<{ name: string; text: string }>()
  const [unit, setUnit] = useState<FileUnit>('m')
  const [method, setMethod] = useState<Taken['method']>('rod')
  const [hi, setHi] = useState('')
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [taken, setTaken] = useState<number>()
  const height = parseAmount(hi, 'length', units)
  const preview = useMemo(() => (content ? readReadingsCsv(content.text, unit) : undefined), [content, unit])
  const how: Taken | undefined = method === 'deviation' ? { method, hi: undefined } : height.ok ? { method, hi: height.value } : undefined
  const judged = preview?.ok && how && loaded ? judgeReadings(state, preview.value, how, { wall, revision: plans.length, by: me }, houseNow()) : []
  const good = judged.filter((j) => !j.problem)
  return {
    file: content?.name,
    unit,
    setUnit,
    method,
    setMethod,
    hi,
    setHi,
    hiWrong: hi && !height.ok ? height.problems[0]?.message : undefined,
    /** What is wrong with the file as a whole, or with what was recorded. */
    problems: preview && !preview.ok ? [...problems, ...preview.problems] : problems,
    taken,
    /** Readings can be read and await the height of instrument. */
    waits: preview?.ok === true && how === undefined,
    judged: preview?.ok === true && how !== undefined,
    good,
    refused: preview?.ok
      ? [
          ...preview.value.bad.map((b) => ({ line: b.line, why: b.message })),
          ...judged.flatMap((j) => (j.problem ? [{ line: j.row.line, why: j.problem }] : [])),
        ]
      : [],
    choose: async (f: File) => {
      setTaken(undefined)
      setContent(undefined)
      if (f.size > MOST)
        return setProblems([{ field: f.name, message: `is ${(f.size / 1048576).toFixed(0)} MB; readings of at most ${MOST / 1048576} MB are read` }])
      setProblems([])
      setContent({ name: f.name, text: await f.text() })
    },
    leave: () => setContent(undefined),
    take: async () => {
      if (!how) return
      const stage = levelsOf(state)
      const result = await record(
        good.map((j) => ({
          kind: 'reading',
          where: { stage, section: j.section, course: j.row.course, station: j.row.station },
          data: dataOf(j.row, how),
        })),
      )
      if (!result.ok) return setProblems(result.problems)
      setTaken(good.length)
      // A file that was chosen meanwhile stays.
      setContent((now) => (now === content ? undefined : now))
    },
  }
}
