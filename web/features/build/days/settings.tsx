'use client'

import type { WorkdaysData } from '@stone-tally/core'
import { type Me, useRecord, useTypedForm, type WallFeed } from '@/features/wall'
import { Check, Field, NowButton, Problems, Row, Stack } from '@/ui/controls'

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'] as const

/** When the wall is worked on: days, hours, crews, an inspector's notice, days off, and what the weather takes by month. */
export function WorkdaysForm({ set, me, record }: { set: WorkdaysData; me: Me; record: WallFeed['record'] }) {
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
  })
  const { busy, problems, setProblems, go } = useRecord(record)
  const may = me.role === 'foreman' || me.role === 'office'
  const on = new Set(v.days.split(/\s+/).filter(Boolean).map(Number))
  const send = async () => {
    const number = (text: string) => (text.trim() === '' ? Number.NaN : Number(text.replace(',', '.')))
    const wrong = (['hours', 'crews', 'notice'] as const).filter((k) => !Number.isFinite(number(v[k])))
    if (wrong.length > 0) return setProblems(wrong.map((k) => ({ field: NAMES[k], message: `must be a number, not "${v[k]}"` })))
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
        {(['hours', 'crews', 'notice'] as const).map((k) => (
          <div key={k} style={{ width: 160 }}>
            <Field label={NAMES[k]} inputMode="decimal" value={v[k]} onChange={(text) => put({ [k]: text })} />
          </div>
        ))}
      </Row>
      <Field label="Days off, as 2026-12-24" value={v.holidays} onChange={(holidays) => put({ holidays })} />
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
const NAMES = { hours: 'Hours a day', crews: 'Crews', notice: 'Notice for an inspection, h' } as const
