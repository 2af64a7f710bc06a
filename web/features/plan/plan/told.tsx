'use client'

import { TOLD_HOW, TOLD_WORDS, toldOf } from '@stone-tally/core'
import { useState } from 'react'
import { useFeed, useHere, useRecord } from '@/features/wall'
import { Button, Check, Choice, Field, Problems, Row, Small, Stack } from '@/ui/controls'
import { dayWords } from '@/ui/day-words'

/** Somebody of the company. */
export interface Member {
  readonly name: string
  readonly role: string
}

/** Who was told of the revision in force, and who was not; kept in the record. */
export function ToldPanel({ revision, people }: { revision: number; people: readonly Member[] }) {
  const { me } = useHere()
  const feed = useFeed()
  const { busy, problems, go } = useRecord(feed.record)
  const [chosen, setChosen] = useState<readonly string[]>([])
  const [other, setOther] = useState('')
  const [how, setHow] = useState<(typeof TOLD_HOW)[number]>('in-person')
  const told = feed.loaded ? toldOf(feed.state, revision) : []
  const left = people.filter((p) => p.name !== me.name && !told.some((t) => t.name === p.name))
  const names = [...chosen, ...(other.trim() ? [other.trim()] : [])]
  const may = me.role === 'foreman' || me.role === 'office'
  return (
    <details>
      <summary style={{ minHeight: 48, cursor: 'pointer', display: 'list-item', paddingTop: 12 }}>
        Who was told of revision {revision}
        {feed.loaded ? `: ${told.length}${left.length > 0 ? `, not yet ${left.length}` : ''}` : ''}
      </summary>
      <Stack>
        {told.length > 0 ? (
          <ul aria-label="Told" style={{ margin: 0, paddingLeft: 20 }}>
            {told.map((t) => (
              <li key={t.name}>
                {t.name}, {t.how}, {dayWords(t.at.slice(0, 10))} <Small style={{ display: 'inline' }}>by {t.by}</Small>
              </li>
            ))}
          </ul>
        ) : (
          <p>Nobody yet, as far as the record knows.</p>
        )}
        {may && feed.loaded ? (
          <>
            <Row style={{ gap: '4px 20px' }}>
              {left.map((p) => (
                <Check
                  key={p.name}
                  checked={chosen.includes(p.name)}
                  onChange={(on) => setChosen(on ? [...chosen, p.name] : chosen.filter((n) => n !== p.name))}
                >
                  {p.name}
                </Check>
              ))}
            </Row>
            <Row>
              <Field label="Somebody else" value={other} onChange={setOther} />
              <Choice label="Told" value={how} options={TOLD_HOW.map((h) => [h, TOLD_WORDS[h]] as const)} onChange={setHow} />
            </Row>
            <Row>
              <Button
                isDisabled={busy || names.length === 0}
                onPress={async () => {
                  if (!(await go([{ kind: 'told', where: {}, data: { number: revision, people: names, how } }]))) return
                  setChosen([])
                  setOther('')
                }}
              >
                Record who was told
              </Button>
            </Row>
            <Problems list={problems} />
          </>
        ) : null}
      </Stack>
    </details>
  )
}
