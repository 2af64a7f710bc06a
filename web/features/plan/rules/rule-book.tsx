'use client'

import {
  bookOf,
  CHAPTER_NAMES,
  CHAPTERS,
  emptyRules,
  type Layout,
  layOut,
  limitsApart,
  type Problem,
  ROLE_NAMES,
  ROLES,
  type Role,
  type RuleBook,
  type RuleChange,
  readRules,
  SYSTEMS,
  say,
  wallFacts,
} from '@stone-tally/core'
import { useRouter } from 'next/navigation'
import { useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import { type Me, Places, useTyped } from '@/features/wall'
import type { OtherRules, RuleSet, RuleSetChange } from '@/server/rules'
import { Bar } from '@/ui/bar'
import { Button, Caution, Check, Choice, Field, LinkButton, NowButton, Page, Problems, Quiet, Row, Stack } from '@/ui/controls'
import { fullDay } from '@/ui/day-words'
import { usePreferences } from '@/ui/preferences'
import { ChapterPart, PointsPart, type Shown } from './chapter'
import { type Asked, RuleDialog } from './dialogs'
import { limitText } from './edit'
import { LadderPart } from './ladder-part'
import { type RulesOf, scopeOf, useRuleDraft, wallLevel } from './use-rule-draft'

const Two = styled.div`
  display: grid; grid-template-columns: 180px minmax(0, 1fr); gap: 28px; align-items: start;
  nav { position: sticky; top: 10px; display: grid; gap: 0; a { min-height: 44px; display: flex; align-items: center; text-decoration: none; font-weight: 550; border-bottom: 1px solid var(--faint); } }
  @media (max-width: 900px) { grid-template-columns: minmax(0, 1fr); nav { display: none; } }
  @media print { grid-template-columns: minmax(0, 1fr); nav { display: none; } }
`
const Sites = styled.div`display: flex; flex-wrap: wrap; a { min-height: 48px; padding: 0 14px; border: 2px solid var(--ink); margin: 0 -2px -2px 0; display: inline-flex; align-items: center; text-decoration: none; font-weight: 550; background: var(--panel); } a[aria-current] { background: var(--ink); color: var(--ground); } @media print { display: none; }`
const Pending = styled.section`
  position: sticky; bottom: 0; z-index: 4; background: var(--panel); border: 3px solid var(--ink); padding: 14px 16px; display: grid; gap: 10px; max-height: 60vh; overflow: auto; @media (max-width: 640px) { max-height: 46vh; padding: 10px; }
  ul { margin: 0; padding-left: 18px; } h2 { font-size: 18px; }
  @media print { display: none; }
`
const NoPrint = styled.div`@media print { display: none; }`

export interface RuleBookProps {
  readonly me: Me
  readonly of: RulesOf
  readonly sites: readonly string[]
  /** The rules of company or site in force; a wall's own stand in its plan. */
  readonly own?: RuleSet
  /** Newest revision of the wall. */
  readonly revision?: number
  readonly history: readonly RuleSetChange[]
  readonly walls: readonly OtherRules[]
  readonly keepers: readonly Role[]
}

const limitOf = (book: RuleBook, name: string) => book.limits.find((l) => l.limit === name)?.value ?? 0
const hrefOf = (site: string | undefined) => (site === undefined ? '/rules' : `/rules?site=${encodeURIComponent(site)}`)

function ChangeList({ changes }: { changes: readonly RuleChange[] }) {
  const { units } = usePreferences()
  return (
    <ul>
      {changes.map((c) => (
        <li key={c.rule}>
          {c.title}: {say(c.was, units)} → <strong>{say(c.is, units)}</strong>
          {c.why ? <span style={{ color: 'var(--soft)' }}> ({say(c.why, units)})</span> : null}
        </li>
      ))}
    </ul>
  )
}

/** Walls that were issued under other rules, and every change there was. */
function Aftermath({ walls, history }: Pick<RuleBookProps, 'walls' | 'history'>) {
  return (
    <>
      <section aria-labelledby="walls">
        <h2 id="walls">Walls under way by other rules</h2>
        {walls.length === 0 ? <p>Every wall’s newest revision was issued under these rules.</p> : null}
        <ul style={{ margin: 0, paddingLeft: 18, display: 'grid', gap: 10 }}>
          {walls.map((w) => (
            <li key={w.wall}>
              <a href={`/walls/${w.wall}/rules`}>
                {w.name}, revision {w.revision}
              </a>
              {w.changes.length > 0 ? (
                <>
                  {' '}
                  would take up {w.changes.length} {w.changes.length === 1 ? 'change' : 'changes'} with its next revision:
                  <ChangeList changes={w.changes} />
                </>
              ) : null}
            </li>
          ))}
        </ul>
      </section>
      <section aria-labelledby="history">
        <h2 id="history">Every change</h2>
        {history.length === 0 ? <p>Nothing was changed yet.</p> : null}
        <ol style={{ listStyle: 'none', margin: 0, padding: 0, display: 'grid', gap: 12 }}>
          {history.map((h) => (
            <li key={h.number}>
              <strong>
                {h.number}. {h.reason}
              </strong>{' '}
              <span style={{ color: 'var(--soft)' }}>
                {h.by}, {fullDay(h.at)}
              </span>
              <ChangeList changes={h.changes} />
            </li>
          ))}
        </ol>
      </section>
    </>
  )
}

/** Which rules say anything of a wall: the limits, schools and points of its own system. */
function sayingOf(layout: Layout | undefined): (rule: string) => boolean {
  if (!layout) return () => true
  const { system } = layout
  const apart = limitsApart(system, SYSTEMS)
  const points = new Set(system.stages.flatMap((s) => [s.hold, s.witness]))
  return (rule) => {
    const [of, id = ''] = rule.split('.')
    if (of === 'limit') return !apart.has(id)
    if (of === 'choice') return !system.schools || system.schools.includes(id)
    // A point that is off is on no stage: it can be put on again.
    return of !== 'point' || points.has(id) || bookOf(layout.plan).points.some((p) => p.point === id && p.kind === 'off')
  }
}

/** The rule book of a company, one of its sites or one wall: every limit, school and inspection point, who set it and why; changed as a whole, with a reason. */
export function RuleBookPage({ me, of, sites, own, revision = 0, history, walls, keepers }: RuleBookProps) {
  const { units } = usePreferences()
  const router = useRouter()
  const site = of.level === 'site' ? of.site : undefined
  const mine = useMemo<RuleSet>(
    () => own ?? { number: revision, rules: of.level === 'wall' ? wallLevel(of.plan) : emptyRules() },
    [own, revision, of],
  )
  const draft = useRuleDraft(of, mine)
  const laid = useMemo(() => (of.level === 'wall' ? layOut(of.plan) : undefined), [of])
  const layout = laid?.ok ? laid.value : undefined
  const facts = useMemo(() => layout && wallFacts(layout), [layout])
  const says = useMemo(() => sayingOf(layout), [layout])
  const [shown, setShown] = useState<Shown>('all')
  const [asked, setAsked] = useState<Asked>()
  const [reason, setReason, noReason] = useTyped(scopeOf(of), 'reason')
  const [fileProblems, setFileProblems] = useState<readonly Problem[]>([])
  const file = useRef<HTMLInputElement>(null)
  const may = keepers.includes(me.role)
  const take = async (picked: File | undefined) => {
    setFileProblems([])
    if (!picked) return
    if (picked.size > 1_000_000) return setFileProblems([{ field: picked.name, message: 'is over 1 MB; a rule file is a few kB' }])
    let value: unknown
    try {
      value = JSON.parse(await picked.text())
    } catch {
      return setFileProblems([{ field: picked.name, message: 'is not JSON; take the file that “Save as file” made' }])
    }
    const read = readRules(value)
    if (read.ok) draft.take(read.value)
    else setFileProblems(read.problems)
  }
  const putInForce = async () => {
    if (!(await draft.inForce(reason.trim()))) return
    noReason()
    router.refresh()
  }
  const wall = of.level === 'wall'
  const part = { book: draft.book, draft, may, shown, ask: setAsked, facts, wall, says }
  return (
    <>
      <Bar person={me}>
        <strong>{of.level === 'wall' ? of.name : 'Rule book'}</strong>
      </Bar>
      <Page>
        {of.level === 'wall' ? <Places here="rules" /> : null}
        <Row style={{ justifyContent: 'space-between' }}>
          <h1>{of.level === 'wall' ? `Rules of ${of.name}, revision ${revision}` : `Rule book${site === undefined ? '' : `, ${site}`}`}</h1>
          <NoPrint>
            <Row>
              {wall ? null : (
                <LinkButton href={site === undefined ? '/api/rules' : `/api/rules?site=${encodeURIComponent(site)}`} download>
                  Save as file
                </LinkButton>
              )}
              {may && !wall ? <Button onPress={() => file.current?.click()}>Import a file</Button> : null}
              <Button onPress={() => window.print()}>Print</Button>
              <input
                ref={file}
                type="file"
                accept=".json,application/json"
                hidden
                aria-label="Rule file"
                onChange={(e) => take(e.target.files?.[0])}
              />
            </Row>
          </NoPrint>
        </Row>
        {wall ? null : (
          <Sites role="navigation" aria-label="Whose rules">
            {[undefined, ...sites].map((s) => (
              <a key={s ?? ''} href={hrefOf(s)} {...(s === site ? { 'aria-current': 'page' as const } : {})}>
                {s ?? 'Company'}
              </a>
            ))}
          </Sites>
        )}
        <p style={{ color: 'var(--soft)' }}>
          {wall
            ? 'What this wall is built and judged by: the company’s rules, its site’s, and its own. What it changes itself is part of its plan, so changing it is a revision; entries made before keep the rules of theirs.'
            : site === undefined
              ? 'What your company changes of what ships. It holds for walls and revisions issued from now on; a revision keeps the rules it was issued under for ever.'
              : 'What this site changes of the company’s rules. It holds for its walls and revisions issued from now on.'}{' '}
          An approved plan and local code go before every rule here. Kept by the {keepers.map((r) => ROLE_NAMES[r].toLowerCase()).join(' or ')}
          {may ? '' : '; you may read it'}.
        </p>
        <NoPrint>
          <Choice
            label="Which rules are shown"
            hideLabel
            value={shown}
            options={[
              ['all', 'All rules'],
              ['changed', 'Not as they ship'],
              ['set', wall ? 'Set by this wall' : site === undefined ? 'Set by the company' : 'Set by this site'],
            ]}
            onChange={setShown}
          />
        </NoPrint>
        <Problems list={fileProblems} />
        {walls.some((w) => w.problems.length > 0) ? (
          <Caution as="div">
            {walls
              .filter((w) => w.problems.length > 0)
              .map((w) => `${w.name} (${w.site}): ${w.problems[0]?.message}. No revision can be issued there until it fits.`)
              .join(' ')}
          </Caution>
        ) : null}
        <Two>
          <nav aria-label="Chapters">
            {CHAPTERS.map((c) => (
              <a key={c} href={`#chapter-${c}`}>
                {CHAPTER_NAMES[c]}
              </a>
            ))}
            <a href="#ladder">Whose wall it is</a>
            <a href="#chapter-points">Inspection points</a>
            {wall ? null : (
              <>
                <a href="#walls">Walls under way</a>
                <a href="#history">Every change</a>
              </>
            )}
          </nav>
          <Stack style={{ gap: 28 }}>
            {shown !== 'all' && draft.book.set.length === 0 ? <p>Everything is as it ships.</p> : null}
            {CHAPTERS.map((c) => (
              <ChapterPart key={c} chapter={c} {...part} />
            ))}
            {draft.book.shipped > 2 ? (
              <LadderPart
                book={draft.book}
                draft={draft}
                low={limitText('lowShowing', limitOf(draft.book, 'lowShowing'), units)}
                may={may && !wall}
                ask={setAsked}
              />
            ) : null}
            <PointsPart {...part} />
            {of.level === 'company' && may && shown === 'all' ? (
              <NoPrint>
                <section aria-labelledby="keepers">
                  <h2 id="keepers">Who may change the rule book</h2>
                  {ROLES.map((r) => {
                    const now = draft.rules.keepers ?? keepers
                    return (
                      <Check
                        key={r}
                        checked={now.includes(r)}
                        onChange={(on) => draft.keepers(ROLES.filter((x) => (x === r ? on : now.includes(x))))}
                      >
                        {ROLE_NAMES[r]}
                      </Check>
                    )
                  })}
                </section>
              </NoPrint>
            ) : null}
            {wall ? null : <Aftermath walls={walls} history={history} />}
          </Stack>
        </Two>
        {draft.changes.length > 0 || draft.problems.length > 0 || draft.overtaken ? (
          <Pending aria-label="Change not in force yet">
            <h2>
              {draft.changes.length} {draft.changes.length === 1 ? 'change' : 'changes'}{' '}
              {draft.begun ? 'not in force yet' : `of company and site since revision ${revision}; the next revision takes them up`}
            </h2>
            {draft.overtaken ? (
              <Caution as="div">
                Somebody else changed these rules since you began. Yours are shown against the newest ones: go on with them, or throw them away.{' '}
                <Quiet onPress={draft.rebase}>Go on with mine</Quiet>
              </Caution>
            ) : null}
            <ChangeList changes={draft.changes} />
            {draft.stages.length > 0 ? (
              <details>
                <summary style={{ fontWeight: 600, minHeight: 44 }}>What it changes on the work</summary>
                {draft.stages.map((s) => (
                  <p key={s.system}>
                    <strong>{s.system}.</strong> {say(s.texts.join('; '), units)}.
                  </p>
                ))}
              </details>
            ) : null}
            <Problems list={draft.problems} />
            {wall ? null : <Field label="Reason for this change, kept with it" value={reason} onChange={setReason} />}
            {may ? (
              <Row>
                <NowButton isDisabled={draft.busy || draft.overtaken || (!wall && reason.trim().length < 3)} onPress={putInForce}>
                  {wall ? `Issue revision ${revision + 1}` : 'Put in force'}
                </NowButton>
                {draft.begun ? <Button onPress={draft.discard}>Throw away</Button> : null}
              </Row>
            ) : null}
          </Pending>
        ) : null}
      </Page>
      {asked ? <RuleDialog asked={asked} draft={draft} book={draft.book} wall={wall} onClose={() => setAsked(undefined)} /> : null}
    </>
  )
}
