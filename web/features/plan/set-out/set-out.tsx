'use client'

import { advance, clearances, emptyState, formatLength, type Layout, lineBeside, type Plan, say, toldOf, unmatched } from '@stone-tally/core'
import { useEffect, useMemo, useState } from 'react'
import styled from 'styled-components'
import { Places, PlaceTitle, useFeed, useHere, useUnissued } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Choice, Condensed, MAIN, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { useWidth } from '@/ui/drawing/use-width'
import { laidFor } from '@/ui/laid'
import { usePreferences } from '@/ui/preferences'
import { counted } from '@/ui/sentence'
import { AroundPanel } from './around-panel'
import { GradesPanel } from './grades-panel'
import { ImportPanel } from './import-panel'
import { LinePanel } from './line-panel'
import { LongSection } from './long-section'
import { PlanView } from './plan-view'
import { type Issued, RevisionsPanel } from './revisions-panel'
import { StakesPanel } from './stakes-panel'
import { useDraft } from './use-draft'
import { withLine } from './use-drawing'
import { useUndoKeys } from './use-undo-keys'

const Frame = styled.main.attrs(MAIN)`
  display: grid; grid-template-columns: minmax(0, 1fr) 470px; grid-template-rows: auto 1fr; min-height: calc(100vh - 59px);
  .sheet { padding: 12px 20px 24px; display: grid; gap: 10px; align-content: start; grid-template-columns: minmax(0, 1fr); }
  .ways { grid-column: 1 / -1; padding: 8px 20px 0; min-width: 0; }
  .tabs .one { padding: 0 9px; font-size: 15.5px; }
  .side { border-left: 3px solid var(--ink); background: var(--panel); padding: 14px 18px 40px; min-width: 0; }
  @media (max-width: 1000px) { grid-template-columns: minmax(0, 1fr); .side { border-left: 0; border-top: 3px solid var(--ink); } }
  @media (max-width: 640px) { .sheet { padding: 10px; } .side { padding: 10px 12px 30px; } }
`
const TABS = [
  ['line', 'Line'],
  ['grades', 'Grades'],
  ['around', 'Around'],
  ['stakes', 'Stakes'],
  ['import', 'Import'],
  ['revisions', 'Revisions'],
] as const
type Tab = (typeof TABS)[number][0]

export interface RevisionOf {
  readonly number: number
  readonly issuedAt: string
  readonly issuedBy: string
  readonly plan: Plan
}

/** Set-out: the wall from above with its long section beneath; what is chosen is edited beside it. */
export function SetOut({ revisions }: { revisions: readonly RevisionOf[] }) {
  const { me, wall, name } = useHere()
  const { units } = usePreferences()
  const issued = useMemo<Issued[]>(
    () =>
      revisions.map((r) => {
        const laid = laidFor(r.plan)
        if (!laid.ok) throw new Error(laid.problems[0]?.message)
        return { number: r.number, issuedAt: r.issuedAt, issuedBy: r.issuedBy, layout: laid.value }
      }),
    [revisions],
  )
  const last = issued[issued.length - 1] as Issued
  const draft = useDraft(last.layout.plan, last.layout)
  const feed = useFeed()
  useUnissued(draft.changed)
  const [tab, setTab] = useState<Tab>('line')
  const [selected, setSelected] = useState<number>()
  const [snap, setSnap] = useState(true)
  const [course, setCourse] = useState(last.layout.courses[0]?.course ?? 1)
  const [[left, right], compare] = useState<[number, number]>([last.number, 0])
  const [ref, width] = useWidth<HTMLDivElement>(800)
  const may = me.role === 'foreman' || me.role === 'office'
  const clear = useMemo(() => clearances(draft.layout), [draft.layout])
  const { undo, redo } = draft

  useUndoKeys(undo, redo)
  // Leaving with an unissued draft loses it; the browser asks.
  useEffect(() => {
    if (!draft.changed) return
    const ask = (e: BeforeUnloadEvent) => e.preventDefault()
    window.addEventListener('beforeunload', ask)
    return () => window.removeEventListener('beforeunload', ask)
  }, [draft.changed])

  const lost = useMemo(() => {
    if (tab !== 'revisions' || !feed.loaded) return []
    const layouts: Layout[] = right === 0 ? [...issued.map((r) => r.layout), draft.layout] : issued.map((r) => r.layout)
    let state = emptyState(layouts)
    for (const e of feed.state.entries) state = advance(state, e)
    return unmatched(state)
  }, [tab, right, issued, draft.layout, feed.loaded, feed.state])
  const older = tab === 'revisions' ? issued.find((r) => r.number === left)?.layout : draft.changed ? last.layout : undefined
  const before = useMemo(() => (older ? lineBeside(older.alignment, 0) : undefined), [older])
  const shown = draft.layout.courses.some((c) => c.course === course) ? course : (draft.layout.courses[0]?.course ?? 1)
  return (
    <>
      <Bar person={me}>
        <strong>{name}</strong> <Condensed style={{ color: 'var(--soft)', marginLeft: 8 }}>Set-out</Condensed>
      </Bar>
      <Frame>
        <div className="ways">
          <Places here="set-out" />
        </div>
        <div className="sheet">
          <Row style={{ justifyContent: 'space-between', alignItems: 'center' }}>
            <PlaceTitle unseen>Set-out</PlaceTitle>
            <Condensed as="p" style={{ fontSize: 18, fontWeight: 500 }}>
              Set-out, revision {last.number}
              {draft.changed ? ', changed' : ''} · {formatLength(draft.layout.plan.length, units, 2)} ·{' '}
              {counted(draft.layout.courses.length, 'course')}
              {draft.progress !== undefined ? ` · laying out ${Math.round(draft.progress * 100)} %` : ''}
            </Condensed>
            <Row style={{ gap: 8, alignItems: 'center' }}>
              {may ? (
                <>
                  <Quiet onPress={draft.undo} isDisabled={!draft.canUndo}>
                    Undo
                  </Quiet>
                  <Quiet onPress={draft.redo} isDisabled={!draft.canRedo}>
                    Redo
                  </Quiet>
                  <Quiet onPress={() => setSnap(!snap)} aria-pressed={snap}>
                    {snap ? '✓ Snap' : 'Snap'}
                  </Quiet>
                </>
              ) : null}
            </Row>
          </Row>
          {draft.problems.length > 0 ? (
            <Problems list={draft.problems} />
          ) : (
            draft.layout.cautions
              .filter((c) => c.blocks || c.id === 'bond')
              .slice(0, 2)
              .map((c) => (
                <p key={c.message} style={{ fontSize: 15 }}>
                  ▲ {say(c.message, units)}
                </p>
              ))
          )}
          {clear.some((c) => !c.ok) && tab !== 'around' ? (
            <p style={{ fontSize: 15 }}>
              ▲ {say(clear.find((c) => !c.ok)?.message.split(';')[0] ?? '', units)}. <Quiet onPress={() => setTab('around')}>Clearances</Quiet>
            </p>
          ) : null}
          <div ref={ref}>
            <PlanView
              draft={draft}
              width={Math.max(280, width)}
              height={Math.round(Math.max(300, Math.min(470, width * 0.6)))}
              units={units}
              clear={clear}
              selected={selected}
              onSelect={(i) => {
                setSelected(i)
                if (i !== undefined) setTab('line')
              }}
              course={shown}
              snap={snap}
              readOnly={!may}
              before={before}
            />
            <div style={{ height: 8 }} />
            <LongSection draft={draft} width={Math.max(280, width)} height={170} units={units} readOnly={!may} />
          </div>
          <Row style={{ alignItems: 'center', gap: 10 }}>
            <Quiet onPress={() => setCourse(Math.max(draft.layout.courses[0]?.course ?? 1, shown - 1))} aria-label="Show the course below">
              ▾
            </Quiet>
            <Condensed>units of course {shown} shown when near enough</Condensed>
            <Quiet
              onPress={() => setCourse(Math.min(draft.layout.courses[draft.layout.courses.length - 1]?.course ?? 1, shown + 1))}
              aria-label="Show the course above"
            >
              ▴
            </Quiet>
          </Row>
        </div>
        <section className="side" aria-label="Set-out details">
          <Stack>
            <div className="tabs">
              <Choice label="What" hideLabel value={tab} options={TABS} onChange={setTab} />
            </div>
            {tab === 'line' ? <LinePanel draft={draft} units={units} selected={selected ?? 0} onSelect={setSelected} readOnly={!may} /> : null}
            {tab === 'grades' ? <GradesPanel draft={draft} units={units} readOnly={!may} /> : null}
            {tab === 'around' ? <AroundPanel draft={draft} units={units} clear={clear} readOnly={!may} /> : null}
            {tab === 'stakes' ? <StakesPanel draft={draft} units={units} /> : null}
            {tab === 'import' ? (
              may ? (
                <ImportPanel
                  length={draft.plan.length}
                  units={units}
                  onTake={(line) => {
                    draft.edit((p) => withLine(p, line))
                    setTab('line')
                  }}
                />
              ) : (
                <p>Importing takes the foreman or the office.</p>
              )
            ) : null}
            {tab === 'revisions' ? (
              <RevisionsPanel
                wall={wall}
                draft={draft}
                issued={issued}
                left={left}
                right={right}
                onCompare={(a, b) => compare([a, b])}
                unmatched={lost}
                told={(n) =>
                  feed.loaded
                    ? toldOf(feed.state, n)
                        .map((t) => t.name)
                        .join(', ') || 'nobody yet'
                    : '…'
                }
                may={may}
              />
            ) : null}
          </Stack>
        </section>
      </Frame>
    </>
  )
}
