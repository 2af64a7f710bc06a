'use client'

import { looksFrom, mayRecord, type Step, since, titleOf, type WallState } from '@stone-tally/core'
import { useMemo } from 'react'
import styled from 'styled-components'
import { Button, Check, NowButton, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { useNow } from '../today'
import { useTyped } from '../typed'
import type { Fact, Me, RecordResult } from '../use-wall'
import { whereOf } from './types'
import { useRecord } from './use-record'

const Card = styled.section`
  border: 3px solid var(--ink); border-radius: 4px; padding: 12px 14px; display: grid; gap: 12px; grid-template-columns: minmax(0, 1fr);
`
/** Before an item that is said not to apply. */
const NOT = '!'

/** Looks that follow one another from here and share a card; fewer than two share none. */
export function useLooks(state: WallState, step: Step | undefined, me: Me): ReturnType<typeof looksFrom> {
  const at = useNow(state)
  return useMemo(() => {
    const looks = at === undefined || !step || !mayRecord(me.role, 'check') ? [] : looksFrom(state, step, at)
    return looks.length < 2 ? [] : looks
  }, [state, step, at, me.role])
}

/** Looks that follow one another on one card: ticked on one walk, each kept as an entry of its own. */
export function LooksCard({
  state,
  step,
  looks,
  record,
}: {
  state: WallState
  step: Step
  /** What shares the card, `useLooks`. */
  looks: ReturnType<typeof looksFrom>
  record(facts: readonly Fact[]): Promise<RecordResult>
}) {
  const [ticks, setTicks, noTicks] = useTyped(`looks ${step.key}`, 'ticked')
  const { busy, problems, go } = useRecord(record)
  const given: readonly string[] = ticks === '' ? [] : ticks.split('\n')
  const set = (list: readonly string[]) => setTicks(list.join('\n'))
  const mayNot = since(state.layout.plan, 2)
  const all = looks.flatMap(({ step: s, items }) => items.map((i) => ({ ...i, key: `${s.key} ${i.id}`, maybe: i.maybe === true && mayNot })))
  const sure = all.filter((i) => !i.maybe).map((i) => i.key)
  const left = sure.filter((k) => !given.includes(k))
  const missing = all.filter((i) => !given.includes(i.key) && !given.includes(NOT + i.key))
  const put = async () => {
    const facts = looks.map(({ step: s, items }): Fact => {
      const of = (mark: string) => items.filter((i) => given.includes(`${mark}${s.key} ${i.id}`)).map((i) => i.id)
      const none = of(NOT)
      return { kind: 'check', where: whereOf(s), data: { confirmed: of(''), ...(none.length > 0 ? { none } : {}) } }
    })
    if (await go(facts)) noTicks()
  }
  return (
    <Card aria-label={`${looks.length} looks on one walk`}>
      <h2 style={{ fontSize: 20 }}>{looks.length} looks on one walk</h2>
      {looks.map(({ step: s, items }) => (
        <Stack key={s.key} style={{ gap: 2 }}>
          <strong>{titleOf(s)}</strong>
          {items.map((i) => {
            const key = `${s.key} ${i.id}`
            const isNone = given.includes(NOT + key)
            const others = given.filter((t) => t !== key && t !== NOT + key)
            return (
              <Row key={key} style={{ justifyContent: 'space-between', alignItems: 'center', flexWrap: 'nowrap' }}>
                <Check checked={given.includes(key)} onChange={(on) => set(on ? [...others, key] : others)}>
                  {isNone ? <s>{i.text}</s> : i.text}
                </Check>
                {i.maybe && mayNot ? (
                  <Quiet aria-label={`Not here: ${i.text}`} aria-pressed={isNone} onPress={() => set(isNone ? others : [...others, NOT + key])}>
                    {isNone ? 'Not here ✓' : 'Not here'}
                  </Quiet>
                ) : null}
              </Row>
            )
          })}
        </Stack>
      ))}
      <Row>
        {left.length > 0 ? (
          <Button isDisabled={busy} onPress={() => set([...given, ...left])}>
            All that is sure
          </Button>
        ) : null}
        <NowButton style={{ flex: 1 }} isDisabled={busy || missing.length > 0} onPress={put}>
          {`Record ${looks.length} looks`}
          {missing.length > 0 ? ` · missing: ${missing.length === 1 ? missing[0]?.text.toLowerCase() : `${missing.length} ticks`}` : ''}
        </NowButton>
      </Row>
      <Problems list={problems} />
    </Card>
  )
}
