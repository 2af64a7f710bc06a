'use client'

import {
  CHAPTER_NAMES,
  CHOICES,
  type Chapter,
  LEVEL_NAMES,
  LIMIT_DEFS,
  type LimitName,
  limitsOf,
  POINTS,
  ROLE_NAMES,
  type RuleBook,
  STARTS,
  type StartName,
  say,
  startBy,
  type WallFacts,
} from '@stone-tally/core'
import styled from 'styled-components'
import { Quiet } from '@/ui/controls'
import { fullDay } from '@/ui/day-words'
import { usePreferences } from '@/ui/preferences'
import type { Asked } from './dialogs'
import { limitText, setsRule } from './edit'
import { SchoolSketch } from './school-sketch'
import type { RuleDraft } from './use-rule-draft'

const Rule = styled.div`
  display: grid; grid-template-columns: minmax(170px, 1fr) 110px minmax(0, 2.2fr) auto; gap: 4px 16px; align-items: baseline; padding: 8px 0; border-bottom: 1px solid var(--faint);
  b { font-size: 19px; font-weight: 640; white-space: nowrap; text-align: right; } .why { font-size: 15px; line-height: 1.35; } .by { font: 500 15px/1.3 'Barlow Condensed', sans-serif; color: var(--soft); }
  &[data-set='true'] { border-left: 6px solid var(--ink); padding-left: 12px; }
  @media (max-width: 760px) { grid-template-columns: minmax(0, 1fr) auto; .why { grid-column: 1 / -1; } .do { grid-column: 1 / -1; } }
  @media print { break-inside: avoid; .do { display: none; } }
`
const Schools = styled.div`
  display: grid; gap: 10px; grid-template-columns: repeat(auto-fill, minmax(220px, 1fr)); align-items: stretch; padding-bottom: 12px;
  > button, > div { text-align: left; border: 2px solid var(--line); background: var(--panel); color: var(--ink); padding: 12px; display: grid; gap: 6px; align-content: start; font: inherit; border-radius: 4px; min-height: 48px; }
  > button { cursor: pointer; } > [data-on='true'] { border: 4px solid var(--ink); padding: 10px; }
  strong { font-size: 17px; } span { font-size: 15px; line-height: 1.35; } .mark { font: 600 15px/1 'Barlow Condensed', sans-serif; text-align: right; }
  @media print { > * { break-inside: avoid; } }
`
const Head = styled.div`display: flex; flex-wrap: wrap; gap: 4px 14px; align-items: baseline; padding: 14px 0 8px; h3 { font-size: 17px; } .by { font: 500 15px/1.3 'Barlow Condensed', sans-serif; color: var(--soft); }`

/** Which rules are shown. */
export type Shown = 'all' | 'set' | 'changed'

interface Props {
  readonly chapter: Chapter
  readonly book: RuleBook
  readonly draft: RuleDraft
  readonly may: boolean
  readonly shown: Shown
  /** A wall's own rules: only what a drawing may set is a limit there, and its facts speak for schools. */
  readonly wall: boolean
  /** Does a limit, school or point say anything of this wall? Everything does to a company. */
  says(rule: string): boolean
  readonly facts?: WallFacts | undefined
  ask(asked: Asked): void
}

const NEXT: Readonly<Record<string, string>> = { within: 'either way', most: 'at most', least: 'at least' }

/** Is a rule shown: all of them, those that this level sets, or those that are not as they ship. */
export function isShown(shown: Shown, draft: RuleDraft, book: RuleBook, rule: string): boolean {
  return shown === 'all' || (shown === 'set' ? setsRule(draft.rules, rule) : book.set.some((s) => s.rule === rule))
}

function By({ book, rule }: { book: RuleBook; rule: string }) {
  const set = book.set.find((s) => s.rule === rule)
  return (
    <span className="by">
      {set
        ? `${LEVEL_NAMES[set.level]}${set.by ? `, ${set.by}` : ''}${set.on ? `, ${fullDay(set.on)}` : ''}${set.firm ? ' · firm' : ''}`
        : 'as it ships'}
    </span>
  )
}

function Do({
  rule,
  asked,
  draft,
  may,
  ask,
  label,
}: {
  rule: string
  asked: Asked
  draft: RuleDraft
  may: boolean
  ask(a: Asked): void
  label: string
}) {
  if (!may) return <span className="do" />
  return (
    <span className="do" style={{ display: 'flex', gap: 6 }}>
      <Quiet onPress={() => ask(asked)} aria-label={`Change ${label}`}>
        Change
      </Quiet>
      {setsRule(draft.rules, rule) ? (
        <Quiet onPress={() => draft.drop(rule)} aria-label={`${label}: as the level above has it`}>
          As above
        </Quiet>
      ) : null}
    </span>
  )
}

/** One chapter: its limits with reason and who set them, then its schools side by side. */
export function ChapterPart({ chapter, book, draft, may, shown, wall, says, facts, ask }: Props) {
  const { units } = usePreferences()
  const limits = limitsOf({ book })
  const own = (Object.keys(LIMIT_DEFS) as LimitName[]).filter(
    (n) => LIMIT_DEFS[n].chapter === chapter && says(`limit.${n}`) && isShown(shown, draft, book, `limit.${n}`),
  )
  const choices = CHOICES.filter((c) => c.chapter === chapter && says(`choice.${c.id}`) && isShown(shown, draft, book, `choice.${c.id}`))
  const starts = wall
    ? []
    : (Object.keys(STARTS) as StartName[]).filter((n) => STARTS[n].chapter === chapter && isShown(shown, draft, book, `start.${n}`))
  if (own.length + choices.length + starts.length === 0) return null
  return (
    <section aria-labelledby={`chapter-${chapter}`}>
      <h2 id={`chapter-${chapter}`} style={{ scrollMarginTop: 12 }}>
        {CHAPTER_NAMES[chapter]}
      </h2>
      {own.map((n) => (
        <Rule key={n} data-set={book.set.some((s) => s.rule === `limit.${n}`)}>
          <span>
            {LIMIT_DEFS[n].title}
            <br />
            <By book={book} rule={`limit.${n}`} />
          </span>
          <b>
            {limitText(n, limits[n].value, units)}
            <br />
            <span className="by">{NEXT[LIMIT_DEFS[n].sense]}</span>
          </b>
          <span className="why">{say(limits[n].reason, units)}</span>
          <Do
            rule={`limit.${n}`}
            asked={{ what: 'limit', id: n }}
            draft={draft}
            may={may && (!wall || LIMIT_DEFS[n].drawing === true)}
            ask={ask}
            label={LIMIT_DEFS[n].title}
          />
        </Rule>
      ))}
      {starts.map((n) => (
        <Rule key={n} data-set={book.set.some((s) => s.rule === `start.${n}`)}>
          <span>
            {STARTS[n].title}
            <br />
            <By book={book} rule={`start.${n}`} />
          </span>
          <b>
            {limitText(n, startBy({ book }, n), units)}
            <br />
            <span className="by">planner starts</span>
          </b>
          <span className="why">
            {book.set.find((s) => s.rule === `start.${n}`)?.why ?? 'What a new wall starts from, until somebody types another.'}
          </span>
          <Do rule={`start.${n}`} asked={{ what: 'start', id: n }} draft={draft} may={may} ask={ask} label={STARTS[n].title} />
        </Rule>
      ))}
      {choices.map((c) => {
        const taken = book.choices.find((x) => x.choice === c.id)?.option ?? c.standard
        const why = book.set.find((s) => s.rule === `choice.${c.id}`)?.why
        const speaks = facts ? c.recommend?.(facts) : undefined
        return (
          <div key={c.id}>
            <Head>
              <h3>{c.title}</h3>
              <By book={book} rule={`choice.${c.id}`} />
              {why ? <span style={{ fontSize: 15 }}>“{why}”</span> : null}
              {speaks && speaks.option !== taken ? (
                <span style={{ fontSize: 15 }}>
                  This wall speaks for <strong>{c.options.find((o) => o.id === speaks.option)?.title.toLowerCase()}</strong>:{' '}
                  {say(speaks.because, units)}
                </span>
              ) : null}
              {may && setsRule(draft.rules, `choice.${c.id}`) ? (
                <Quiet onPress={() => draft.drop(`choice.${c.id}`)} aria-label={`${c.title}: as the level above has it`}>
                  As above
                </Quiet>
              ) : null}
            </Head>
            <Schools>
              {c.options.map((o) => {
                const on = o.id === taken
                const inside = (
                  <>
                    <span className="mark">{on ? 'taken ✓' : o.id === c.standard ? 'ships' : '\u00a0'}</span>
                    <SchoolSketch choice={c.id} option={o.id} />
                    <strong>{o.title}</strong>
                    <span>{say(o.says, units)}</span>
                  </>
                )
                return may && !on ? (
                  <button key={o.id} type="button" onClick={() => ask({ what: 'choice', id: c.id, option: o.id })}>
                    {inside}
                  </button>
                ) : (
                  <div key={o.id} data-on={on}>
                    {inside}
                  </div>
                )
              })}
            </Schools>
          </div>
        )
      })}
    </section>
  )
}

const KIND_SIGN = { hold: '⬣ hold', witness: '○ witness', off: '– off' } as const

/** The inspection points: what each does, who releases it, and why. */
export function PointsPart({ book, draft, may, shown, says, ask }: Omit<Props, 'chapter' | 'facts' | 'wall'>) {
  const points = POINTS.filter((p) => says(`point.${p.id}`) && isShown(shown, draft, book, `point.${p.id}`))
  const added = book.added.filter((p) => isShown(shown, draft, book, `point.${p.id}`))
  return (
    <section aria-labelledby="chapter-points">
      <h2 id="chapter-points" style={{ scrollMarginTop: 12 }}>
        Inspection points
      </h2>
      {points.map((p) => {
        const now = book.points.find((x) => x.point === p.id) ?? { kind: p.kind, roles: p.roles, own: p.own }
        return (
          <Rule key={p.id} data-set={book.set.some((s) => s.rule === `point.${p.id}`)}>
            <span>
              {p.title}
              <br />
              <By book={book} rule={`point.${p.id}`} />
            </span>
            <b style={{ fontSize: 16 }}>{KIND_SIGN[now.kind]}</b>
            <span className="why">
              {book.set.find((s) => s.rule === `point.${p.id}`)?.why ?? p.reason}{' '}
              {now.kind === 'hold'
                ? `Released by the ${now.roles.map((r) => ROLE_NAMES[r].toLowerCase()).join(' or ')}${now.own ? ', own work too' : ', not by who did the work'}.`
                : ''}
            </span>
            <Do rule={`point.${p.id}`} asked={{ what: 'point', id: p.id }} draft={draft} may={may} ask={ask} label={`point ${p.title}`} />
          </Rule>
        )
      })}
      {added.map((p) => (
        <Rule key={p.id} data-set>
          <span>
            {p.title}
            <br />
            <By book={book} rule={`point.${p.id}`} />
          </span>
          <b style={{ fontSize: 16 }}>{KIND_SIGN[p.kind]}</b>
          <span className="why">
            {p.why} After {p.at.stage}
            {p.at.section ? `, section ${p.at.section}` : ''}
            {p.at.course ? ` course ${p.at.course}` : ''}; {p.kind === 'hold' ? 'released by' : 'seen by'} the{' '}
            {p.roles.map((r) => ROLE_NAMES[r].toLowerCase()).join(' or ')}.
          </span>
          {may && setsRule(draft.rules, `point.${p.id}`) ? (
            <span className="do">
              <Quiet onPress={() => draft.drop(`point.${p.id}`)} aria-label={`Take out ${p.title}`}>
                Take out
              </Quiet>
            </span>
          ) : (
            <span />
          )}
        </Rule>
      ))}
      {may ? (
        <div style={{ paddingTop: 10 }}>
          <Quiet onPress={() => ask({ what: 'added' })}>Add a point of your own</Quiet>
        </div>
      ) : null}
    </section>
  )
}
