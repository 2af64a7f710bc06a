'use client'

import { daysOff, type WorkdaysData } from '@stone-tally/core'
import { useState } from 'react'
import { type Me, useRecord, useTypedForm, type WallFeed } from '@/features/wall'
import { Check, Field, NowButton, Problems, Row, Stack } from '@/ui/controls'
import { FileButton } from '@/ui/file-button'
import { counted } from '@/ui/sentence'

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'] as const

/** When the wall is worked on: days, hours, crews, an inspector's notice, days off, and what the weather takes by month. */
export function WorkdaysForm({ set, me, record, today }: { set: WorkdaysData; me: Me; record: WallFeed['record']; today: string }) {
  const {
    v,
    set: put,
    letGo,
    begun,
  } = useTypedForm('workdays', {
    days: set.days.join(' '),
    hours: `${set.hours}`,
    crews: `${set.crews}`,
    notice: `${set.notice}`,
    holidays: set.holidays.join(' '),
    lost: set.lost.join(' '),
    shifts: `${set.shifts ?? 1}`,
    latitude: set.latitude === undefined ? '' : `${set.latitude}`,
    away: (set.away ?? []).map((a) => `${a.from} ${a.to} ${a.crews}`).join('; '),
  })
  const { busy, problems, setProblems, go } = useRecord(record)
  const may = me.role === 'foreman' || me.role === 'office'
  const on = new Set(v.days.split(/\s+/).filter(Boolean).map(Number))
  const send = async () => {
    const number = (text: string) => (text.trim() === '' ? Number.NaN : Number(text.replace(',', '.')))
    const wrong = (['hours', 'crews', 'notice', 'shifts'] as const).filter((k) => !Number.isFinite(number(v[k])))
    if (wrong.length > 0) return setProblems(wrong.map((k) => ({ field: NAMES[k], message: `must be a number, not "${v[k]}"` })))
    const away = v.away
      .split(';')
      .map((a) => a.trim().split(/\s+/))
      .filter((a) => a[0])
    const odd = away.find((a) => a.length < 2 || a.length > 3 || !Number.isFinite(Number(a[2] ?? 1)))
    if (odd)
      return setProblems([
        { field: 'Crews elsewhere', message: `"${odd.join(' ')}" must be a first day, a last day and how many, as 2026-06-01 2026-06-05 1` },
      ])
    if (v.latitude.trim() !== '' && !Number.isFinite(number(v.latitude)))
      return setProblems([{ field: NAMES.latitude, message: `must be a number of degrees, not "${v.latitude}"` }])
    const data: WorkdaysData = {
      days: [...on].sort(),
      starts: set.starts,
      hours: number(v.hours),
      crews: number(v.crews),
      notice: number(v.notice),
      holidays: v.holidays.split(/[\s,;]+/).filter(Boolean),
      lost: v.lost
        .split(/[\s,;]+/)
        .filter(Boolean)
        .map(Number),
      ...(number(v.shifts) > 1 ? { shifts: number(v.shifts) } : {}),
      ...(v.latitude.trim() === '' ? {} : { latitude: number(v.latitude) }),
      ...(away.length > 0 ? { away: away.map(([from, to, n]) => ({ from: from ?? '', to: to ?? '', crews: Number(n ?? 1) })) } : {}),
    }
    if (await go([{ kind: 'workdays', where: {}, data }])) letGo()
  }
  return (
    <Stack role="group" aria-label="Working days">
      <Row style={{ gap: '2px 22px' }}>
        {DAYS.map((name, i) => (
          <Check
            key={name}
            checked={on.has(i + 1)}
            onChange={(yes) => {
              const next = new Set(on)
              if (yes) next.add(i + 1)
              else next.delete(i + 1)
              put({ days: [...next].join(' ') })
            }}
          >
            {name}
          </Check>
        ))}
      </Row>
      <Row style={{ alignItems: 'end' }}>
        {(['hours', 'shifts', 'crews', 'notice', 'latitude'] as const).map((k) => (
          <div key={k} style={{ width: k === 'latitude' ? 230 : 160 }}>
            <Field label={NAMES[k]} inputMode="decimal" value={v[k]} onChange={(text) => put({ [k]: text })} />
          </div>
        ))}
      </Row>
      <Field label="Days off, as 2026-12-24" value={v.holidays} onChange={(holidays) => put({ holidays })} />
      {may ? <FromCalendar today={today} had={v.holidays} onTaken={(holidays) => put({ holidays })} /> : null}
      <Field label="Crews elsewhere: first day, last day, how many; the next after a semicolon" value={v.away} onChange={(away) => put({ away })} />
      <Field label={`Days lost to weather, per cent by month: ${MONTHS.join(' ')}`} value={v.lost} onChange={(lost) => put({ lost })} />
      {may ? (
        <NowButton isDisabled={busy || !begun} onPress={send}>
          Set
        </NowButton>
      ) : (
        <p>The foreman or the office sets these.</p>
      )}
      <Problems list={problems} />
    </Stack>
  )
}
const NAMES = {
  hours: 'Hours of a shift',
  shifts: 'Shifts a day',
  crews: 'Crews',
  notice: 'Notice for an inspection, h',
  latitude: 'Latitude °, so that nobody works in the dark',
} as const

/** Days off from a calendar file: they go into the field, where they are seen before they are set. */
function FromCalendar({ today, had, onTaken }: { today: string; had: string; onTaken(days: string): void }) {
  const [said, setSaid] = useState('')
  return (
    <Row style={{ alignItems: 'center' }}>
      <FileButton
        label="Calendar of days off"
        accept=".ics,text/calendar"
        onFile={async (f) => {
          const read = f.size > 5 * 1024 * 1024 ? undefined : daysOff(await f.text(), today)
          if (!read?.ok) return setSaid(`${f.name} ${read ? read.problems[0]?.message : 'is larger than 5 MB'}.`)
          const all = [...new Set([...had.split(/[\s,;]+/).filter(Boolean), ...read.value.days])].sort()
          onTaken(all.join(' '))
          const left = read.value.left.length > 0 ? `; left out: ${read.value.left.slice(0, 3).join(', ')}` : ''
          setSaid(`${counted(read.value.days.length, 'day')} off from ${f.name}${left}. They count once they are set.`)
        }}
      >
        Days off from a calendar file
      </FileButton>
      {said ? <span role="status">{said}</span> : null}
    </Row>
  )
}
