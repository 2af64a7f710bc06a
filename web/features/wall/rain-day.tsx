'use client'

import { workdaysOf } from '@stone-tally/core'
import { Problems, Quiet, Row } from '@/ui/controls'
import { dayWords } from '@/ui/day-words'
import { useFeed, useHere } from './provider'
import { useToday } from './today'
import { useRecord } from './work/use-record'

/** A day on which nobody works, said by one press from where it is noticed; taken back by another. The days that are left follow. */
export function RainDay() {
  const { me } = useHere()
  const { state, loaded, record } = useFeed()
  const today = useToday(state)
  const { busy, problems, go } = useRecord(record)
  if (!loaded || (me.role !== 'foreman' && me.role !== 'office')) return null
  const set = workdaysOf(state)
  const off = set.holidays.includes(today)
  const put = () =>
    go([
      { kind: 'workdays', where: {}, data: { ...set, holidays: off ? set.holidays.filter((d) => d !== today) : [...set.holidays, today].sort() } },
      { kind: 'note', where: {}, data: { text: off ? `Worked on ${today} after all` : `No work on ${today}: weather` } },
    ])
  return (
    <>
      <Row style={{ alignItems: 'center' }}>
        <Quiet isDisabled={busy} onPress={put}>
          {off ? `${dayWords(today)} is worked after all` : `Rain: no work on ${dayWords(today)}`}
        </Quiet>
        {off ? <span style={{ color: 'var(--soft)' }}>No work today; the days that are left follow.</span> : null}
      </Row>
      <Problems list={problems} />
    </>
  )
}
