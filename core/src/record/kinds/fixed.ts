import { fail, ok } from '../../base/result'
import { said } from '../../base/said'
import { type InferType, optionalText, record, text } from '../../base/schema'
import { ROLES } from '../../rules'
import { fullDay } from '../../units/day'
import type { Entry, RecordedEntry } from '../entry'
import { farDay, optionalDay } from '../item'
import { defineKind } from './kind'

/** A task that somebody put on a day: it does not begin before. Without a day it is let go again. */
export const fixedData = record({
  /** By its name in the programme. */
  task: text(200),
  title: text(200),
  day: optionalDay(),
  /** The entry that had put it where it was: who moves it has seen that one. */
  over: optionalText(60),
  why: optionalText(200),
})
export type FixedData = InferType<typeof fixedData>

export const fixed = defineKind({
  kind: 'fixed',
  roles: ROLES.filter((r) => r === 'foreman' || r === 'office'),
  schema: fixedData,
  check(entry, { of }) {
    const d = entry.data
    const far = farDay(d.day, entry.at)
    if (far) return fail('data.day', far)
    const own = of('fixed').filter((r) => (r.entry as Entry<string, FixedData>).data.task === d.task && r.entry.id !== entry.id)
    const last = own[own.length - 1] as (RecordedEntry & { entry: Entry<string, FixedData> }) | undefined
    if (last?.entry.id === (d.over || undefined) || (last && entry.supersedes === last.entry.id)) return ok(true)
    if (!last) return fail('data.over', `is an entry that no longer puts ${d.title} anywhere; look at its day again, then move it`)
    const { day } = last.entry.data
    return fail(
      'data.day',
      `${d.title} was ${day === undefined ? 'let go' : `put on ${said.day(day)}`} by ${last.entry.by.name} meanwhile; look at that, then move it`,
    )
  },
  line: ({ data: d }) =>
    d.day === undefined ? `Let go: ${d.title} begins as soon as it can` : `Put on ${fullDay(d.day)}: ${d.title}${d.why ? `, ${d.why}` : ''}`,
})
