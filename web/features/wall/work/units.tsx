'use client'

import { Button, Field, NowButton, Problems, RecordRow, Row, WorkStack } from '@/ui/controls'
import { Hero } from '@/ui/figure'
import { Tally } from '@/ui/tally'
import { useTyped } from '../typed'
import { type WorkProps, whereOf } from './types'
import { useRecord } from './use-record'

/** Units set: the whole course in one tap, or as many as are up. */
export function UnitsWork({ state, step, status, record }: WorkProps) {
  const left = Math.max(0, status.total - status.done)
  const [count, setCount, noCount] = useTyped(step.key, 'count')
  const [rejected, setRejected, noRejected] = useTyped(step.key, 'rejected')
  const { busy, problems, setProblems, go } = useRecord(record)
  const noun = state.layout.system.noun.many
  const put = async (set: number) => {
    if (!Number.isInteger(set) || set < 0) {
      setProblems([{ field: 'units set', message: 'must be a whole number' }])
      return
    }
    const bad = rejected.trim() ? Number(rejected) : undefined
    const done = await go([{ kind: 'units', where: whereOf(step), data: { set, ...(bad === undefined ? {} : { rejected: bad }) } }])
    if (done) {
      noCount()
      noRejected()
    }
  }
  return (
    <WorkStack>
      <Hero value={`${status.done}`} unit={`of ${status.total} ${noun}`} />
      <Tally done={status.done} total={status.total} height={26} />
      <RecordRow>
        <NowButton style={{ flex: 1 }} isDisabled={busy || left === 0} onPress={() => put(left)}>
          All set: record {left}
        </NowButton>
      </RecordRow>
      <Row>
        <div style={{ flex: 1, minWidth: 110 }}>
          <Field label={`Some ${noun} set`} value={count} onChange={setCount} inputMode="numeric" />
        </div>
        <div style={{ flex: 1, minWidth: 110 }}>
          <Field label="Rejected, damaged" value={rejected} onChange={setRejected} inputMode="numeric" />
        </div>
        <Button isDisabled={busy || count.trim() === ''} onPress={() => put(Number(count))}>
          Record
        </Button>
      </Row>
      <Problems list={problems} />
    </WorkStack>
  )
}
