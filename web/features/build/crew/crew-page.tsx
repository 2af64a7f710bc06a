'use client'

import { crewSheet, formatLength, formatStation, programmeOf, say, tomorrowOf } from '@stone-tally/core'
import { useMemo } from 'react'
import styled from 'styled-components'
import { useFeed, useHere, useNow, useToday, WallPage } from '@/features/wall'
import { PrintedCode } from '@/features/wall/proof/printed-code'
import { Button, Caution, LinkButton, Row } from '@/ui/controls'
import { dayWords } from '@/ui/day-words'
import { usePreferences } from '@/ui/preferences'

const Sheet = styled.div`
  display: grid; gap: 14px; max-width: 900px;
  section { break-inside: avoid-page; display: grid; gap: 6px; } h2 { border-bottom: 2px solid var(--ink); padding-bottom: 4px; }
  ol { margin: 0; padding: 0; list-style: none; display: grid; } li { display: grid; grid-template-columns: 28px minmax(0, 1fr); gap: 2px 10px; padding: 8px 0; border-bottom: 1px solid var(--faint); break-inside: avoid; }
  .box { width: 22px; height: 22px; border: 2px solid var(--ink); } .what { display: grid; gap: 3px; } strong { font-size: 17px; } p { font-size: 15px; line-height: 1.35; margin: 0; }
  .cuts { font: 500 15px/1.4 'Barlow Condensed', sans-serif; }
  @media print { gap: 8px; li { padding: 4px 0; } p, .cuts { font-size: 12px; } strong { font-size: 14px; } }
`
const NoPrint = styled.div`@media print { display: none; }`

/** One page for tomorrow: what comes on every section, its targets and cuts, who releases it, and what everybody must mind. */
export function CrewPage() {
  const { wall } = useHere()
  const feed = useFeed()
  const { state } = feed
  const { units } = usePreferences()
  const at = useNow(state)
  const today = useToday(state)
  const sheet = useMemo(() => crewSheet(state, { at }), [state, at])
  const next = useMemo(() => tomorrowOf(state, programmeOf(state, today), today), [state, today])
  const outside = [
    ...next.comes.map((c) => `▸ ${c}`),
    ...next.releases.map((r) => `⬣ ${r}`),
    ...next.others.map((o) => `▪ ${o}`),
    ...next.weather.map((w) => `☂ ${w}`),
  ]
  return (
    <WallPage here="crew" title="Crew sheet">
      <NoPrint>
        <Row>
          <Button onPress={() => window.print()}>Print</Button>
          <LinkButton href={`/walls/${wall}/saw`}>Saw day</LinkButton>
        </Row>
      </NoPrint>
      <Sheet>
        {sheet.stops.map((s) => (
          <Caution key={s}>{say(s, units)}</Caution>
        ))}
        {outside.length > 0 || next.lost ? (
          <section aria-label="Besides the wall">
            <h2>{dayWords(next.day)}: what comes besides</h2>
            {next.lost ? <p>☂ The weather expected takes the day before it: {say(next.lost, units)}</p> : null}
            {outside.map((o) => (
              <p key={o}>{say(o, units)}</p>
            ))}
          </section>
        ) : null}
        {sheet.sections.length === 0 ? <p>Everything of this wall is done and released.</p> : null}
        {sheet.sections.map((s) => (
          <section key={s.section} aria-label={s.section ? `Section ${s.section}` : 'Whole wall'}>
            <h2>{s.section ? `Section ${s.section}` : 'Whole wall'}</h2>
            <ol>
              {s.steps.map((x) => (
                <li key={x.step.key}>
                  <span className="box" aria-hidden />
                  <div className="what">
                    <strong>{x.title}</strong>
                    <p>{x.wants.map((w) => say(w, units)).join(' · ')}</p>
                    {x.cuts.length > 0 ? (
                      <p className="cuts">
                        {x.cuts.length} to cut:{' '}
                        {x.cuts
                          .map(
                            (c) => `${formatLength(c.length, units, 3)}${c.kind === 'mitre' ? ' mitred' : ''} at ${formatStation(c.station, units)}`,
                          )
                          .join(', ')}
                      </p>
                    ) : null}
                    {x.releasedBy ? <p>⬣ {x.releasedBy}</p> : null}
                    {x.waitsFor.map((w) => (
                      <p key={w}>▲ {say(w, units)}</p>
                    ))}
                    {x.caution ? <p>{say(x.caution, units)}</p> : null}
                  </div>
                </li>
              ))}
            </ol>
          </section>
        ))}
        {sheet.cautions.length > 0 ? (
          <section aria-label="Everybody minds">
            <h2>Everybody minds</h2>
            {sheet.cautions.map((c) => (
              <p key={c}>{say(c, units)}</p>
            ))}
          </section>
        ) : null}
        <section aria-label="Where the record stands">
          <h2>Where the record stands</h2>
          <PrintedCode wall={wall} />
        </section>
      </Sheet>
    </WallPage>
  )
}
