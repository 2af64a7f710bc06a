'use client'

import {
  type CutData,
  digReport,
  formatLength,
  formatStation,
  levelsAt,
  live,
  nextStep,
  type ObstructionData,
  say,
  type UndercutData,
  weatherAt,
} from '@stone-tally/core'
import { type ComponentType, useEffect, useMemo, useState } from 'react'
import styled from 'styled-components'
import { NowStrip, OldWeather, Places, PlaceTitle, SectionChoice, useFeed, useHere, useNow } from '@/features/wall'
import { Afterwards } from '@/ui/afterwards'
import { Bar } from '@/ui/bar'
import { Caution, Choice, MAIN, Row, Stack } from '@/ui/controls'
import { useWidth } from '@/ui/drawing/use-width'
import { Targets } from '@/ui/figure'
import { usePreferences } from '@/ui/preferences'
import { DensityPanel } from './density-panel'
import { DigPanel } from './dig-panel'
import { LevelPanel } from './level-panel'
import { LiftsPanel } from './lifts-panel'
import { MapPanel } from './map-panel'
import { SoilPanel } from './soil-panel'
import { TrenchSection } from './trench-section'
import type { GroundProps } from './types'
import { WeatherPanel } from './weather-panel'

const Frame = styled.main.attrs(
  MAIN,
)`max-width: 1280px; margin: 0 auto; padding: 14px 20px 60px; display: grid; gap: 14px; grid-template-columns: minmax(0, 1fr); @media (max-width: 640px) { padding: 10px 10px 40px; > [data-later] { order: 1; } }`
const Tabs = styled.div`border-bottom: 3px solid var(--ink); overflow-x: auto; position: relative; .row { flex-wrap: nowrap; } .one { white-space: nowrap; margin-bottom: 0; border-bottom: 0; }`

const PANELS = {
  level: ['Level book', LevelPanel],
  dig: ['Dig', DigPanel],
  soil: ['Soil', SoilPanel],
  pad: ['Pad and lifts', LiftsPanel],
  density: ['Density', DensityPanel],
  map: ['Pad level', MapPanel],
  weather: ['Weather', WeatherPanel],
} as const satisfies Record<string, readonly [string, ComponentType<GroundProps>]>
type Tab = keyof typeof PANELS
const TABS = Object.entries(PANELS).map(([id, [name]]) => [id as Tab, name] as const)
const FOR_KIND: Readonly<Record<string, Tab>> = { soil: 'soil', undercut: 'soil', density: 'density', sight: 'level', obstruction: 'dig', cut: 'dig' }

/** From the first set-up of the level to a pad that is proven level: the trench drawn, and what is done in it. */
export function GroundPage({ finding, tab: wanted, step: tested }: { finding?: string; tab?: string; step?: string }) {
  const { wall, name, me } = useHere()
  const feed = useFeed()
  const { state, record, loaded } = feed
  const { units } = usePreferences()
  const { plan } = state.layout
  const [section, setSection] = useState((tested ? state.byKey.get(tested)?.section : undefined) ?? plan.sections[0]?.id ?? '')
  const [tab, setTab] = useState<Tab>(wanted && wanted in PANELS ? (wanted as Tab) : 'dig')
  const [chosen, setStation] = useState<number>()
  const [box, width] = useWidth<HTMLDivElement>(1180)
  const own = plan.sections.find((s) => s.id === section) ?? plan.sections[0]
  const station = chosen ?? (own ? (own.from + own.to) / 2 : 0)
  const report = useMemo(() => digReport(state), [state])
  const of = <T,>(kind: string) =>
    state.entries.filter((e) => e.entry.kind === kind && e.entry.where.section === section && live(state, e.entry.id)).map((e) => e.entry.data as T)

  const wet = state.entries.flatMap((e) =>
    e.entry.kind === 'cut' && e.entry.where.section === section && (e.entry.data as CutData).water && live(state, e.entry.id)
      ? [e.entry.where.station ?? 0]
      : [],
  )

  // A finding to re-check opens where its kind is recorded.
  useEffect(() => {
    const entry = finding && loaded ? state.byId.get(finding)?.entry : undefined
    if (!entry) return
    setTab(FOR_KIND[entry.kind] ?? 'dig')
    if (entry.where.section) setSection(entry.where.section)
    if (entry.where.station !== undefined) setStation(entry.where.station)
  }, [finding, loaded, state.byId])

  const Panel = PANELS[tab][1]
  const at = levelsAt(state, station)
  const now = useNow(state)
  const weather = now ? weatherAt(state, now) : undefined
  const cautions = weather?.cautions ?? []
  const next = nextStep(state, section)
  return (
    <>
      <Bar person={me}>
        <strong>{name}</strong>
      </Bar>
      <Frame>
        <Places here="ground" />
        <Row style={{ justifyContent: 'space-between', alignItems: 'center' }}>
          <PlaceTitle>Dig and pad</PlaceTitle>
          <Row style={{ alignItems: 'center', gap: 16 }}>
            {plan.sections.length > 1 ? (
              <SectionChoice
                sections={plan.sections}
                value={section}
                onChange={(v) => {
                  setSection(v)
                  setStation(undefined)
                }}
              />
            ) : null}
          </Row>
        </Row>
        <NowStrip section={section} />
        {loaded ? (
          <>
            <div ref={box}>
              <Afterwards at={width}>
                <TrenchSection
                  report={report}
                  plan={plan}
                  from={own?.from ?? 0}
                  to={own?.to ?? plan.length}
                  station={station}
                  onStation={setStation}
                  undercuts={of<UndercutData>('undercut')}
                  obstructions={of<ObstructionData>('obstruction')}
                  wet={wet}
                  units={units}
                  width={width}
                  height={width < 600 ? 180 : 270}
                />
              </Afterwards>
            </div>
            <Targets
              list={[
                ['At station', formatStation(station, units)],
                ['Dig to', formatLength(at.bottom, units)],
                ['Top of pad', formatLength(at.pad, units)],
                ['Next here', next ? next.stage.title : 'all done'],
              ]}
            />
            {weather?.old ? <OldWeather day={weather.old} /> : null}
            {cautions.length > 0 ? (
              <Stack style={{ gap: 6 }} {...(cautions.some((c) => c.stops) ? {} : { 'data-later': true })}>
                {cautions.map((c) => (
                  <Caution key={c.id}>{say(c.text, units)}</Caution>
                ))}
              </Stack>
            ) : null}
            <Tabs className="tabs">
              <Choice label="What to do" hideLabel value={tab} options={TABS} onChange={setTab} />
            </Tabs>
            {/* Another panel may follow; what is recorded belongs to the section and the station that are shown. */}
            <Afterwards at={`${section} ${station}`}>
              <Panel
                key={`${tab} ${section}`}
                wall={wall}
                state={state}
                section={section}
                station={station}
                onStation={setStation}
                units={units}
                me={me}
                record={record}
                finding={finding}
                tested={tested}
              />
            </Afterwards>
          </>
        ) : (
          <p role="status">{feed.live === 'lost' ? 'The record cannot be reached; trying again …' : 'Loading the record …'}</p>
        )}
      </Frame>
    </>
  )
}
