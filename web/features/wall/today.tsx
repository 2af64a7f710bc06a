import { dailyNeeds, fillHeld, type Known, needsOf, type Step, say, type WallState } from '@stone-tally/core'
import { useEffect, useState } from 'react'
import { houseNow } from '@/device/clock'
import { Button, Caution, Choice, Field, LinkButton, Problems, Row, Stack, Stop } from '@/ui/controls'
import { dayWords, localDay } from '@/ui/day-words'
import { fromWords } from '@/ui/known-words'
import { usePreferences } from '@/ui/preferences'
import { useTypedForm } from './typed'
import type { Fact, Me, RecordResult } from './use-wall'
import { useRecord } from './work/use-record'

/** The time by the device, known only once the page runs on it; it moves on as things are recorded. */
export function useNow(state: WallState): string | undefined {
  const [now, setNow] = useState<string>()
  // biome-ignore lint/correctness/useExhaustiveDependencies: the state is what tells that time has passed
  useEffect(() => setNow(new Date(houseNow()).toISOString()), [state])
  return now
}

/** The day by the device, as 2026-05-31 in the place it is at; before the page runs there, the day of the newest entry. */
export function useToday(state: WallState): string {
  const now = useNow(state)
  if (now === undefined) return state.entries[state.entries.length - 1]?.entry.at.slice(0, 10) ?? '2000-01-03'
  return localDay(new Date(now))
}

/** What this step asks for anew today; empty before the page runs on the device. */
export function useDaily(state: WallState, step: Step) {
  const now = useNow(state)
  return now === undefined ? [] : dailyNeeds(state, step, now)
}

/** Weather that froze or soaked the fill since the last lift. */
export function useHeld(state: WallState, step: Step) {
  const now = useNow(state)
  return now === undefined ? undefined : fillHeld(state, step, now)
}

/** Before anyone goes into the trench today: who looked at it, and may people go in? */
export function TodayPanel({
  needs,
  me,
  record,
  wall,
  person,
  soil,
}: {
  needs: ReturnType<typeof dailyNeeds>
  /** Who looked last, and the soil that was found here: they stand there until another is typed. */
  person?: Known<string> | undefined
  soil?: string | undefined
  me: Me
  record(facts: readonly Fact[]): Promise<RecordResult>
  wall: string
}) {
  const { units } = usePreferences()
  const { v, set, letGo } = useTypedForm(`look ${wall}`, { by: me.role === 'foreman' ? me.name : (person?.value ?? ''), safe: '', seen: '' })
  const { busy, problems, go } = useRecord(record)
  const look = needs.some((n) => n.id === 'look')
  const put = async () => {
    if (await go([{ kind: 'look', where: {}, data: { by: v.by.trim(), safe: v.safe === 'yes', seen: v.seen.trim() } }])) letGo()
  }
  return (
    <Stop>
      <Stack>
        {needs.map((n) => (
          <strong key={n.id}>▲ {say(n.message, units)}</strong>
        ))}
        {look && me.role !== 'office' ? (
          <>
            <Row>
              <Field
                label="Looked at by"
                value={v.by}
                onChange={(by) => set({ by })}
                hint={me.role !== 'foreman' && person && v.by === person.value ? fromWords(person) : undefined}
              />
              <Field
                label="Sides, cracks, water, spoil, ladder: what was seen"
                value={v.seen}
                onChange={(seen) => set({ seen })}
                hint={soil ? `found here: ${soil}` : undefined}
              />
            </Row>
            <Choice
              label="May people go in?"
              value={v.safe as 'yes' | 'no'}
              options={[
                ['yes', 'Safe to go in'],
                ['no', 'Nobody goes in'],
              ]}
              onChange={(safe) => set({ safe })}
            />
            <Button isDisabled={busy || v.by.trim().length < 2 || v.seen.trim().length < 2 || !v.safe} onPress={put}>
              Record the look
            </Button>
            <Problems list={problems} />
          </>
        ) : null}
      </Stack>
    </Stop>
  )
}

/** What a step still needs to know of the ground, and where that is said. */
export function NeedsPanel({ state, step, wall }: { state: WallState; step: Step; wall: string }) {
  const { units } = usePreferences()
  const needs = needsOf(state, step)
  if (needs.length === 0) return null
  return (
    <Caution as="div">
      <Stack>
        <strong>Before it can be released:</strong>
        {needs.map((n) => (
          <span key={n}>▲ {say(n, units)}</span>
        ))}
        <Row>
          <LinkButton href={`/walls/${wall}/ground?tab=soil`}>Judge the soil</LinkButton>
          <LinkButton href={`/walls/${wall}/ground?tab=dig`}>Check the cut</LinkButton>
        </Row>
      </Stack>
    </Caution>
  )
}

/** The newest weather is not today's: nothing is said of now by it. */
export const OldWeather = ({ day }: { day: string }) => (
  <Caution>The newest weather recorded is of {dayWords(day)}: it says nothing of today. Record today's.</Caution>
)
