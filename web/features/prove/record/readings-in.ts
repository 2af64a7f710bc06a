import {
  admit,
  deviationOf,
  type Entry,
  live,
  type ReadingData,
  type ReadingRow,
  type ReadingsPreview,
  said,
  stepKey,
  targetAt,
  type WallState,
} from '@stone-tally/core'
import { uuid7 } from '@/device/ids'

/** How the readings of a file were taken. */
export interface Taken {
  readonly method: 'rod' | 'deviation'
  /** Height of instrument, m; of rod readings. */
  readonly hi: number | undefined
}

/** A line of the file as it would be recorded. */
export interface Judged {
  readonly row: ReadingRow
  readonly section: string
  /** m; + is high. Not a number where the wall has no such course. */
  readonly deviation: number
  /** Why it is not taken. */
  readonly problem: string | undefined
}

/** A line in the shape it is recorded in. */
export const dataOf = (r: ReadingRow, { method, hi }: Taken): ReadingData =>
  ({ method, value: r.reading, ...(method === 'rod' ? { hi } : {}) }) as ReadingData

/** The stage at which this system reads the tops of its courses. */
export const levelsOf = (state: WallState): string =>
  state.layout.system.stages.find((s) => s.work.type === 'readings' && s.work.target === 'course-top')?.id ?? ''

/** The same point read the same, to a tenth of a millimetre. */
const mark = (course: number, station: number, d: ReadingData) => [course, ...[station, d.value, d.hi ?? 0].map((x) => x.toFixed(4)), d.method].join()

/**
 * Every good line of a file held against the wall and its record. A file that is taken twice, and a line that stands in it twice, is found:
 * what reads the same at the same place is recorded already.
 *
 * @param of - who would record them, on which wall and revision
 */
export function judgeReadings(
  state: WallState,
  file: ReadingsPreview,
  taken: Taken,
  of: Pick<Entry, 'wall' | 'revision' | 'by'>,
  now: number,
): Judged[] {
  const stage = levelsOf(state)
  const { sections, length } = state.layout.plan
  const courses = new Set(state.layout.courses.map((c) => c.course))
  const known = new Map<string, string>()
  for (const s of sections)
    for (const course of courses)
      for (const e of state.logs.get(stepKey({ stage, section: s.id, course }))?.work ?? [])
        if (e.entry.kind === 'reading' && e.entry.where.station !== undefined && live(state, e.entry.id))
          known.set(mark(course, e.entry.where.station, e.entry.data as ReadingData), e.waiting ? 'on this device' : `as no. ${e.seq}`)
  return file.good.map((row) => {
    const data = dataOf(row, taken)
    const section = sections.find((s) => row.station >= s.from && row.station <= s.to)?.id ?? ''
    const where = { stage, section, course: row.course, station: row.station }
    const deviation = courses.has(row.course) && section ? deviationOf(data, targetAt(state.layout, 'course-top', where)) : Number.NaN
    const judged = (problem: string | undefined): Judged => ({ row, section, deviation, problem })
    if (!section) return judged(`station ${said.given(row.station)} is beyond the wall, which ends at ${said.given(length)}`)
    const entry: Entry = { ...of, id: uuid7(now), at: new Date(now).toISOString(), kind: 'reading', where, data }
    const verdict = admit(state, entry, now)
    if (!verdict.ok) return judged(verdict.problems[0]?.message)
    const key = mark(row.course, row.station, data)
    const before = known.get(key)
    known.set(key, `in line ${row.line}`)
    return judged(before ? `the same reading of this point stands ${before} already` : undefined)
  })
}
