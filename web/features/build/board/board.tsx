'use client'

import {
  cellKey,
  formatStation,
  gridPlaced,
  nextStep,
  openFindings,
  type ProgressBook,
  progressBook,
  type Step,
  say,
  settled,
  statusOf,
  stepKey,
  titleOf,
  unmatched,
  type Where,
  waitingHolds,
} from '@stone-tally/core'
import { Fragment, useCallback, useEffect, useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import { AwayPanel, isWriting, Meanwhile, Others, Places, RefusedPanel, SectionChoice, StepCard, useFeed, useHere } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Ask, MAIN, Quiet, Row, Stack } from '@/ui/controls'
import { Elevation } from '@/ui/drawing/elevation'
import { SectionDrawing } from '@/ui/drawing/section'
import { useWidth } from '@/ui/drawing/use-width'
import { usePreferences } from '@/ui/preferences'
import { useMatches } from '@/ui/use-matches'
import { CourseSheetCard } from './course-sheet'
import { CourseTable, Pick } from './course-table'
import { EarlierRules } from './earlier-rules'
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
  @media (max-width: 640px) { .ways { padding: 0 10px; } .wall { padding: 12px 10px 30px; } .now { padding: 10px 12px 30px; } }
`
const Lower = styled.div`display: grid; grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr); gap: 20px; @media (max-width: 760px) { grid-template-columns: minmax(0, 1fr); }`
const Keys = styled.dl`display: grid; grid-template-columns: max-content 1fr; gap: 10px 18px; margin: 0; dt { font-weight: 650; } dd { margin: 0; }`
const KEYS = [
  ['0–9', 'type the current reading'],
  ['Enter', 'record the reading'],
  ['n', 'go to the next step'],
  ['[ and ]', 'step before and after'],
  ['← and →', 'move the section along the wall'],
  ['1 … with Alt', 'choose a section'],
  ['/', 'find a place, a course, a station, a step'],
  ['?', 'this list'],
] as const

/** While the record comes in: what is next, as the house sees it. */
function Coming({ step, lost }: { step: Step | undefined; lost: boolean }) {
  return (
    <Stack>
      {step ? <h2 className="step">{titleOf(step)}</h2> : null}
      <p role="status">
        {lost ? 'The record cannot be reached; trying again …' : 'Loading the record …'}
        {step ? ' This is how the house sees the wall; recording opens when the whole record is here.' : ''}
      </p>
    </Stack>
  )
}

/** The Board: the wall, the section at a station and the one card that says what is next. */
export function Board({
  open,
  from,
  seen,
  walk,
  children,
}: {
  /** Step that is opened at first. */
  open?: string
  /** Station that is looked at first, m. */
  from?: number
  /** Nobody has walked this person through a wall yet. */
  walk?: boolean
  /** What is next in each section, as the house saw it when it made the page; until this device knows better. */
  seen?: Readonly<Record<string, string>>
  children?: React.ReactNode
}) {
  const { wall, name, plans, me } = useHere()
  const feed = useFeed()
  const { record } = feed
  // Until the record is here the wall is shown as the house sees it; nothing is recorded on that.
  const state = feed.glimpse ?? feed.state
  const { layout } = state
  const { units } = usePreferences()
  const [section, setSection] = useState(
    (open && state.byKey.get(open)?.section) ||
      ((from === undefined ? undefined : layout.plan.sections.find((s) => from <= s.to)) ?? layout.plan.sections[0])?.id ||
      '',
  )
  const [chosen, setChosen] = useState<string | undefined>(open)
  const [station, setStation] = useState(from)
  const [help, setHelp] = useState(false)
  const narrow = useMatches('(max-width: 1000px)')
  const [wide, width] = useWidth<HTMLDivElement>(820)
  const [half, halfWidth] = useWidth<HTMLDivElement>(380)

  const next = nextStep(state, section)
  const step = (chosen ? state.byKey.get(chosen) : undefined) ?? next
  const status = step ? statusOf(state, step) : undefined
  const coming = state.byKey.get(open ?? seen?.[section] ?? '')
  const own = layout.plan.sections.find((s) => s.id === section) ?? layout.plan.sections[0]
  // A station chosen for one step says nothing of the next; while the record comes in, steps pass by that nobody looked at.
  const stepNow = step?.key
  const stepBefore = useRef(stepNow)
  useEffect(() => {
    if (feed.loaded && stepBefore.current !== stepNow) setStation(undefined)
    stepBefore.current = stepNow
  }, [stepNow, feed.loaded])
  // What had the focus may be gone after a record: whoever works by keys goes on at the card.
  const card = useRef<HTMLElement>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: after every entry
  useEffect(() => {
    const wait = setTimeout(() => {
      if (document.activeElement === document.body && worked.current) card.current?.focus({ preventScroll: true })
    }, 50)
    return () => clearTimeout(wait)
  }, [state.seq, stepNow])
  const worked = useRef(false)
  const at = station ?? (own ? own.from + (own.to - own.from) / 2 : 0)
  const holds = waitingHolds(state)
  const findings = openFindings(state)
  // Only a second revision can leave work behind.
  const lost = useMemo(() => (plans.length > 1 ? unmatched(state) : []), [state, plans.length])

  const goTo = useCallback(
    (key: string) => {
      const to = state.byKey.get(key)
      if (!to) return
      if (to.section) setSection(to.section)
      setChosen(key)
      setStation(undefined)
    },
    [state.byKey],
  )
  const follow = useCallback(() => {
    setChosen(undefined)
    setStation(undefined)
  }, [])
  const move = useCallback(
    (by: number) => {
      const list = state.steps.filter((s) => s.section === undefined || s.section === section)
      const i = list.findIndex((s) => s.key === step?.key)
      const to = list[i + by]
      if (to) goTo(to.key)
    },
    [state.steps, section, step?.key, goTo],
  )
  useEffect(() => {
    const onKey = (e: globalThis.KeyboardEvent) => {
      const on = document.activeElement
      if (isWriting(on) || e.ctrlKey || e.metaKey) return
      if (e.altKey) {
        const to = layout.plan.sections[Number(e.key) - 1]
        if (to) {
          setSection(to.id)
          follow()
        }
        return
      }
      if (e.key === '?') setHelp(true)
      else if (e.key === 'n') follow()
      else if (e.key === '[') move(-1)
      else if (e.key === ']') move(1)
      else if ((e.key === 'ArrowLeft' || e.key === 'ArrowRight') && !(on instanceof HTMLElement && on.getAttribute('role') === 'radio')) {
        setStation(Math.min(layout.plan.length, Math.max(0, at + (e.key === 'ArrowLeft' ? -0.5 : 0.5))))
      }
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [at, follow, move, layout])

  // Only the course that an entry touched is looked at again, and only its cell is painted.
  const book = useRef<ProgressBook>(undefined)
  const look = useMemo(() => {
    book.current = progressBook(state, book.current)
    return book.current.of
  }, [state])
  const placed = useCallback((s: string, course: number) => gridPlaced(state, s, course), [state])
  const sectionAt = (x: number) => layout.plan.sections.find((s) => x >= s.from && x <= s.to)?.id ?? section
  const cells = [...layout.cells.values()].filter((c) => c.section === section)
  const readings =
    step?.points.length && status
      ? step.points.map((station) => {
          const here = status.read.filter((r) => r.station === station)
          return {
            station,
            done: here.every((r) => r.entry !== undefined),
            out: here.some((r) => status.open.some((o) => o.entry.id === r.entry?.entry.id)),
          }
        })
      : undefined
  const here = step?.section ? { section: step.section, course: step.course } : undefined
  const sectionsChoice = (
    <SectionChoice
      sections={layout.plan.sections}
      value={section}
      onChange={(v) => {
        setSection(v)
        follow()
      }}
    />
  )
  const stripProps = { layout, units, look, gridPlaced: placed, plain: true, from: -0.5, to: layout.plan.length + 0.5, station: at }
  return (
    <>
      <Bar person={me}>
        <strong>{name}</strong>
      </Bar>
      <Layout>
        <h1 className="unseen">Board</h1>
        <div className="ways">
          <Places here="" />
          <Walk person={me.id} walked={!walk} />
          <AwayPanel />
          <RefusedPanel feed={feed} me={me} />
        </div>
        <div className="strip">
          {narrow === false ? null : <Elevation {...stripProps} width={Math.max(200, width)} height={64} label={`${name}, whole wall`} now={here} />}
        </div>
        <section
          className="now"
          id="work"
          aria-label="Now"
          ref={card}
          tabIndex={-1}
          onFocus={() => {
            worked.current = true
          }}
        >
          <Row style={{ marginBottom: 10, justifyContent: 'space-between', alignItems: 'center', gap: 6 }}>
            {sectionsChoice}
            <Row style={{ gap: 6 }}>
              <Quiet onPress={() => move(-1)} aria-label="Step before">
                ‹
              </Quiet>
              <Quiet onPress={() => move(1)} aria-label="Step after">
                ›
              </Quiet>
            </Row>
          </Row>
          <Others section={section} step={step?.key} />
          {!feed.loaded ? (
            <Coming step={feed.glimpse ? step : coming} lost={feed.live === 'lost'} />
          ) : !step || !status ? (
            <Stack>
              <h2>Section {section} is complete.</h2>
              <p>Everything planned here is recorded and released.</p>
            </Stack>
          ) : (
            <Stack>
              {step.section && step.course && status.open.length === 0 && (!chosen || step.key === next?.key) ? (
                <CourseSheetCard
                  key={`${step.section} ${step.course}`}
                  state={state}
                  section={step.section}
                  course={step.course}
                  me={me}
                  record={record}
                  typing={step.stage.work.type !== 'readings'}
                />
              ) : null}
              <StepCard
                state={state}
                step={step}
                me={me}
                record={record}
                tag={chosen && step.key !== next?.key ? 'CHOSEN' : 'NOW'}
                aside={chosen && step.key !== next?.key ? <Quiet onPress={follow}>Back to now</Quiet> : null}
                station={station}
                onStation={setStation}
                onStep={goTo}
                onNext={follow}
                wall={wall}
              />
              {step.key === next?.key ? <Meanwhile section={section} /> : null}
            </Stack>
          )}
        </section>
        <div className="wall">
          <Row style={{ justifyContent: 'space-between' }}>
            <h2 className="minor">{own ? `Section ${section}, ${formatStation(own.from, units)} to ${formatStation(own.to, units)}` : ''}</h2>
            <Quiet onPress={() => setHelp(true)} aria-label="Shortcuts">
              ?
            </Quiet>
          </Row>
          <div ref={wide}>
            <WallView
              layout={layout}
              width={width}
              station={at}
              from={own?.from ?? 0}
              to={own?.to ?? layout.plan.length}
              onStation={(s) => {
                setStation(s)
                const to = sectionAt(s)
                if (to !== section) {
                  setSection(to)
                  setChosen(undefined)
                }
              }}
              onCell={(s, c) => {
                const to =
                  state.byCell.get(cellKey(s, c))?.find((x) => !settled(statusOf(state, x))) ??
                  state.byKey.get(stepKey({ stage: layout.system.open.from, section: s, course: c }))
                if (to) goTo(to.key)
              }}
              drawing={{ look, gridPlaced: placed, now: here, readings, units, label: `${name}, section ${section}` }}
              strip={stripProps}
            />
          </div>
          <Lower>
            <CourseTable cells={cells} state={state} now={step} onStep={goTo} />
            <div ref={half}>
              <SectionDrawing
                layout={layout}
                station={at}
                width={halfWidth}
                height={Math.min(380, Math.max(260, halfWidth * 0.8))}
                units={units}
                set={(c) => look(sectionAt(at), c).set > 0}
                placed={(c) => placed(sectionAt(at), c)}
              />
            </div>
          </Lower>
          <EarlierRules state={state} />
          {findings.length > 0 || holds.length > 0 || lost.length > 0 ? (
            <div>
              <h2 className="minor">Waits and findings</h2>
              <ul style={{ paddingLeft: 18, margin: '6px 0' }}>
                {holds.map((h) => (
                  <li key={h.key}>
                    <Pick onPress={() => goTo(h.key)}>⬣ {titleOf(h)}: waits for release</Pick>
                  </li>
                ))}
                {lost.map((u) => (
                  <li key={`lost ${u.key}`}>
                    <Pick onPress={() => goTo(u.key)}>
                      ≠ {u.title}
                      {u.section ? `, section ${u.section}` : ''}
                      {u.course ? ` course ${u.course}` : ''}: {say(u.message, units)}
                    </Pick>
                  </li>
                ))}
                {findings.map((f) => (
                  <li key={f.entry.id}>
                    <Pick onPress={() => goTo(stepKey(f.entry.where as Where))}>
                      ▲ {state.byStage.get(f.entry.where.stage ?? '')?.title}, section {f.entry.where.section} course {f.entry.where.course}:{' '}
                      {say(state.outs.get(f.entry.id)?.text ?? '', units)}
                    </Pick>
                  </li>
                ))}
              </ul>
            </div>
          ) : null}
          {children}
        </div>
      </Layout>
      <Ask title="Shortcuts" open={help} onClose={() => setHelp(false)}>
        <Keys>
          {KEYS.map(([k, what]) => (
            <Fragment key={k}>
              <dt>{k}</dt>
              <dd>{what}</dd>
            </Fragment>
          ))}
        </Keys>
      </Ask>
    </>
  )
}
