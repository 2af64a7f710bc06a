'use client'

import { formatStation } from '@stone-tally/core'
import styled from 'styled-components'
import { AwayPanel, Places, PlaceTitle, RainDay, RefusedPanel, useHere } from '@/features/wall'
import { Afterwards } from '@/ui/afterwards'
import { Bar } from '@/ui/bar'
import { MAIN, Quiet, Row } from '@/ui/controls'
import { Elevation } from '@/ui/drawing/elevation'
import { SectionDrawing } from '@/ui/drawing/section'
import { useWidth } from '@/ui/drawing/use-width'
import { usePreferences } from '@/ui/preferences'
import { useMatches } from '@/ui/use-matches'
import { CourseTable } from './course-table'
import { EarlierRules } from './earlier-rules'
import { NowCard } from './now-card'
import { Shortcuts } from './shortcuts'
import { type Opened, useBoard } from './use-board'
import { Waits } from './waits'
import { Walk } from './walk'
import { WallView } from './wall-view'

const Layout = styled.main.attrs(MAIN)`
  display: grid; grid-template-columns: minmax(0, 1fr) 420px; gap: 0; grid-template-rows: auto 1fr; min-height: calc(100vh - 59px);
  /* What is to be done comes first in the page, for whoever reads it in order and for a slow phone; at the desk the wall stands left of it. */
  .wall { grid-column: 1; grid-row: 2; padding: 14px 20px 30px; display: grid; gap: 14px; align-content: start; grid-template-columns: minmax(0, 1fr); }
  .ways { grid-column: 1 / -1; padding: 4px 20px 0; min-width: 0; display: grid; gap: 10px; grid-template-columns: minmax(0, 1fr); }
  .now:focus { outline: none; } .now { grid-column: 2; grid-row: 2; border-left: 3px solid var(--ink); background: var(--panel); padding: 16px 20px 40px; }
  .strip { display: none; } .unseen { position: absolute; clip-path: inset(50%); width: 1px; height: 1px; overflow: hidden; }
  @media (max-width: 1000px) {
    grid-template-columns: minmax(0, 1fr); grid-template-rows: none;
    .wall, .now { grid-column: 1; grid-row: auto; } .now { border-left: 0; border-bottom: 3px solid var(--ink); }
    .strip { display: block; padding: 8px 10px 0; background: var(--panel); }
  }
  /* The card that is coming takes the screen of a phone as the one that comes does: nothing below it jumps away under a finger. */
  @media (max-width: 1000px) { .now[data-coming] { min-height: 100vh; } }
  @media (max-width: 640px) { .ways { padding: 0 10px; } .wall { padding: 12px 10px 30px; } .now { padding: 10px 12px 30px; } }
`
const Lower = styled.div`display: grid; grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr); gap: 20px; @media (max-width: 760px) { grid-template-columns: minmax(0, 1fr); }`
/**
 * The Board: the wall, the section at a station and the one card that says what is next.
 *
 * @param walk - nobody has walked this person through a wall yet
 */
export function Board({ walk, children, ...opened }: Opened & { walk?: boolean; children?: React.ReactNode }) {
  const { name, me } = useHere()
  const { units } = usePreferences()
  const of = useBoard(opened)
  const { feed, state, layout, section, own, step, at, look, placed, here } = of
  const narrow = useMatches('(max-width: 1000px)')
  const [wide, width] = useWidth<HTMLDivElement>(820)
  const [half, halfWidth] = useWidth<HTMLDivElement>(380)
  const stripProps = { layout, units, look, gridPlaced: placed, plain: true, from: -0.5, to: layout.plan.length + 0.5, station: at }
  return (
    <>
      <Bar person={me}>
        <strong>{name}</strong>
      </Bar>
      <Layout>
        <PlaceTitle unseen>Board</PlaceTitle>
        <div className="ways">
          <Places here="" />
          <Walk person={me.id} walked={!walk} />
          <AwayPanel />
          <RefusedPanel feed={feed} me={me} />
        </div>
        <div className="strip">
          <Afterwards at={`${narrow} ${width}`}>
            {narrow === false ? null : (
              <Elevation {...stripProps} width={Math.max(200, width)} height={64} label={`${name}, whole wall`} now={here} />
            )}
          </Afterwards>
        </div>
        <NowCard of={of} />
        <div className="wall">
          <Row style={{ justifyContent: 'space-between' }}>
            <h2 className="minor">{own ? `Section ${section}, ${formatStation(own.from, units)} to ${formatStation(own.to, units)}` : ''}</h2>
            <Quiet onPress={() => of.setHelp(true)} aria-label="Shortcuts">
              ?
            </Quiet>
          </Row>
          <div ref={wide}>
            <Afterwards at={width}>
              <WallView
                layout={layout}
                width={width}
                station={at}
                from={own?.from ?? 0}
                to={own?.to ?? layout.plan.length}
                onStation={of.lookAt}
                onCell={of.openCell}
                drawing={{ look, gridPlaced: placed, now: here, readings: of.readings, units, label: `${name}, section ${section}` }}
                strip={stripProps}
              />
            </Afterwards>
          </div>
          <Lower>
            <Afterwards>
              <CourseTable cells={of.cells} state={state} now={step} onStep={of.goTo} />
            </Afterwards>
            <div ref={half}>
              <Afterwards at={halfWidth}>
                <SectionDrawing
                  layout={layout}
                  station={at}
                  width={halfWidth}
                  height={Math.min(380, Math.max(260, halfWidth * 0.8))}
                  units={units}
                  set={(c) => look(of.sectionAt(at), c).set > 0}
                  placed={(c) => placed(of.sectionAt(at), c)}
                />
              </Afterwards>
            </div>
          </Lower>
          <EarlierRules state={state} />
          <Waits of={of} />
          <RainDay />
          {children}
        </div>
      </Layout>
      <Shortcuts open={of.help} onClose={() => of.setHelp(false)} />
    </>
  )
}
