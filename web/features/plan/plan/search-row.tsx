'use client'

import { say } from '@stone-tally/core'
import { AmountField } from '@/ui/amount-field'
import { Button, Caution, Quiet, Row } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'

/** A play that is typed, the button that looks within it, how far it is, and why there is no answer. */
export function SearchRow({
  label,
  play,
  onPlay,
  ask,
  search,
}: {
  label: string
  play: string
  onPlay(text: string): void
  /** What is looked for, on the button. */
  ask: { readonly title: string; go(): void }
  search: { readonly share: number | undefined; readonly why: string | undefined; stop(): void }
}) {
  const { units } = usePreferences()
  return (
    <>
      <Row>
        <div style={{ width: 210 }}>
          <AmountField label={label} of="length" value={play} onChange={onPlay} />
        </div>
        {search.share === undefined ? (
          <Button onPress={ask.go}>{ask.title}</Button>
        ) : (
          <Quiet onPress={search.stop}>Looking, {Math.round(search.share * 100)} %. Stop</Quiet>
        )}
      </Row>
      {search.why ? <Caution>▲ {say(search.why, units)}.</Caution> : null}
    </>
  )
}
