'use client'

import { type CatalogueUnit, copyOfPlan, decodeText, type Plan, type RuleBook, type Rules, readPlanFile, storedPlan } from '@stone-tally/core'
import { useState } from 'react'
import { Button as AriaButton } from 'react-aria-components'
import styled from 'styled-components'
import { send } from '@/device/send'
import type { Draft } from '@/features/plan/plan/draft'
import { type Beginning, PlanForm } from '@/features/plan/plan/plan-form'
import { keepTyped, type Me, typedAt } from '@/features/wall'
import { Bar } from '@/ui/bar'
import { Button, Caution, NowButton, Page, Problems, Quiet, Row } from '@/ui/controls'
import { hand, takeHanded } from '@/ui/handed'
import { useHydrated } from '@/ui/use-hydrated'
import { SketchLine } from './sketch-line'

const Ways = styled.ul`
  list-style: none; margin: 0; padding: 0; display: grid; gap: 14px; grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
  button { width: 100%; height: 100%; min-height: 190px; text-align: left; display: grid; gap: 8px; align-content: start; padding: 14px; background: var(--panel); border: 2px solid var(--ink); color: var(--ink); font: inherit; cursor: pointer; border-radius: 4px; }
  button[data-hovered] { background: var(--faint); } strong { font-size: 18px; } span { color: var(--soft); font-size: 15px; } svg { width: 100%; height: 84px; display: block; }
`
type WayIn = 'sketch' | 'type' | 'file' | 'copy' | 'template'
const WAYS: readonly WayIn[] = ['sketch', 'type', 'file', 'copy', 'template']

/** A template of the company; `why`: it cannot be begun with here. */
export interface Usual {
  readonly name: string
  readonly by: string
  readonly plan?: Plan | undefined
  readonly why?: string | undefined
}

/** A wall that can be copied: its name, and where its plan is. */
export interface Copyable {
  readonly id: string
  readonly name: string
  readonly site: string
}

type Begun = Omit<Beginning, 'site'>

/** What was being typed when the page was left; nothing where it cannot be read. */
function keptOf(text: string): { readonly begun: Begun; readonly draft: Draft } | undefined {
  if (text === '') return undefined
  try {
    const kept = JSON.parse(text) as { begun: Begun; draft: Draft }
    return kept.draft?.grades && kept.begun?.way ? kept : undefined
  } catch {
    // Written by another version of the application.
    return undefined
  }
}

/** A new wall: four ways in, each with what it looks like; then its questions beside the drawing. */
export function Planner({
  me,
  catalogue,
  book,
  levels,
  walls,
  templates,
  asked,
  site,
}: {
  me: Me
  catalogue: readonly CatalogueUnit[]
  book: RuleBook | undefined
  levels: { company: Rules; sites: Record<string, Rules> }
  walls: readonly Copyable[]
  templates: readonly Usual[]
  /** The way in that was chosen on the Yard. */
  asked: string | undefined
  /** The site that was planned on last. */
  site: string
}) {
  const [handed] = useState(takeHanded)
  const [way, setWay] = useState<WayIn | undefined>(handed ? 'file' : WAYS.find((w) => w === asked && w !== 'type' && w !== 'file'))
  const [begun, setBegun] = useState<Begun | undefined>(() => {
    if (!handed) return asked === 'type' ? { way: 'type' } : undefined
    // A drawing that was handed over is read where its line is chosen.
    hand(handed)
    return { way: 'file' }
  })
  const [problems, setProblems] = useState<readonly { field: string; message: string }[]>([])
  const [carried, carry] = useState<Draft>()
  const [, dropped] = useState(0)
  // What the device keeps is known only once the page runs there.
  const here = useHydrated()
  const before = here ? keptOf(typedAt('planner', 'new') ?? '') : undefined
  const keep = (text: string | undefined) => keepTyped('planner', 'new', text)
  const copy = async (w: Copyable) => {
    let last: { plan: object } | undefined
    try {
      const answer = await fetch(`/api/walls/${w.id}/desk`)
      if (!answer.ok) return setProblems([{ field: w.name, message: 'could not be read just now; try again' }])
      const { revisions } = (await answer.json()) as { revisions: readonly { number: number; plan: object }[] }
      last = revisions[revisions.length - 1]
    } catch {
      return setProblems([{ field: w.name, message: 'cannot be copied without a connection; begin with its plan file instead' }])
    }
    if (!last) return setProblems([{ field: w.name, message: 'has no plan that can be copied' }])
    setBegun({ way: 'copy', from: copyOfPlan(storedPlan(last.plan) as Plan, `Copy of ${w.name}`.slice(0, 80)) })
  }
  const file = async (f: File) => {
    setProblems([])
    if (!/\.json$/i.test(f.name)) {
      hand(f)
      return setBegun({ way: 'file' })
    }
    if (f.size > 8 * 1024 * 1024) return setProblems([{ field: f.name, message: 'is larger than the 8 MB that are taken' }])
    const content = decodeText(new Uint8Array(await f.arrayBuffer()))
    const plan = content.ok ? readPlanFile(content.value.text) : content
    if (!plan.ok) return setProblems(plan.problems.map((p) => ({ field: `${f.name} ${p.field}`, message: p.message })))
    setBegun({ way: 'file', from: plan.value })
  }
  if (begun)
    return (
      <PlanForm
        me={me}
        catalogue={catalogue}
        book={book}
        levels={levels}
        begun={{ ...begun, site, carried }}
        kept={{
          text: '',
          set: (draft) => keep(`{"begun":${JSON.stringify({ ...begun, draft: undefined })},"draft":${draft}}`),
          letGo: () => keep(undefined),
        }}
        onBack={(typed) => {
          carry(typed)
          setBegun(undefined)
          setWay(undefined)
        }}
      />
    )
  return (
    <>
      <Bar person={me}>
        <strong>New wall</strong>
      </Bar>
      <Page>
        <h1>New wall</h1>
        {carried && way === undefined ? (
          <Row style={{ alignItems: 'center' }}>
            <NowButton onPress={() => setBegun({ way: carried.drawn.line ? 'sketch' : 'type', draft: carried })}>
              Back to {carried.name.trim() || 'what was typed'}
            </NowButton>
            <span style={{ color: 'var(--soft)' }}>Its name and heights go along on every other way in.</span>
          </Row>
        ) : before && way === undefined ? (
          <Row style={{ alignItems: 'center' }}>
            <NowButton onPress={() => setBegun({ ...before.begun, draft: before.draft })}>
              Go on with {before.draft.name.trim() || 'what was begun'}
            </NowButton>
            <Quiet
              onPress={() => {
                keep(undefined)
                dropped((n) => n + 1)
              }}
            >
              Begin anew
            </Quiet>
          </Row>
        ) : null}
        {way === 'sketch' ? (
          <SketchLine from={carried?.drawn.line} onTake={(line) => setBegun({ way: 'sketch', line })} onBack={() => setWay(undefined)} />
        ) : way === 'copy' ? (
          <>
            <p>
              Its line, unit, pad, water, layers and sections are taken over. Its drawing and engineer, what it holds, the ground in front and what
              stands around are not: they are asked of this one.
            </p>
            <ul aria-label="Walls to copy" style={{ listStyle: 'none', margin: 0, padding: 0, display: 'grid', gap: 6 }}>
              {walls.map((w) => (
                <li key={w.id}>
                  <Button onPress={() => copy(w)}>
                    {w.name}, {w.site}
                  </Button>
                </li>
              ))}
            </ul>
            {walls.length === 0 ? <p>There is no wall yet that could be copied.</p> : null}
            <Quiet onPress={() => setWay(undefined)}>Another way in</Quiet>
          </>
        ) : way === 'template' ? (
          <Templates
            list={templates}
            may={me.role === 'foreman' || me.role === 'office'}
            onTake={(t) => setBegun({ way: 'template', from: t })}
            onBack={() => setWay(undefined)}
          />
        ) : (
          <Ways aria-label="Ways in">
            <Way
              title="Type length and heights"
              words="The quickest: its name, how long, how high. Everything else has an answer already."
              onPress={() => setBegun({ way: 'type' })}
            >
              <path d="M10 66H230M10 66V30H150V18H230V66" fill="none" stroke="var(--ink)" strokeWidth="2.5" />
              <path d="M10 76H230M10 72v8M230 72v8" stroke="var(--now)" strokeWidth="2" fill="none" />
              <path
                d="M10 42H150M10 54H230M80 30V42M45 42V54M115 42V54M150 30H230M190 18V30M80 54V66M150 54V66"
                stroke="var(--ink)"
                strokeWidth="1"
                fill="none"
              />
            </Way>
            <Way title="Sketch its line" words="Draw corners and curves from above, then type what is exact." onPress={() => setWay('sketch')}>
              <path d="M14 66L90 60Q140 56 150 34T226 14" fill="none" stroke="var(--ink)" strokeWidth="3" />
              {[
                [14, 66],
                [90, 60],
                [150, 34],
                [226, 14],
              ].map(([x, y]) => (
                <circle key={x} cx={x} cy={y} r="6" fill="var(--panel)" stroke="var(--now)" strokeWidth="2.5" />
              ))}
            </Way>
            <FileWay onFile={file} />
            <Way title="Copy a wall" words="One like it stands or is planned: begin with its answers." onPress={() => setWay('copy')}>
              <path d="M10 54H110V20H10ZM10 37H110M60 20V37M35 37V54M85 37V54" fill="none" stroke="var(--soft)" strokeWidth="2" />
              <path d="M120 37H140M134 31L141 37L134 43" stroke="var(--now)" strokeWidth="2.5" fill="none" />
              <path d="M150 66H232V28H150ZM150 47H232M191 28V47M170 47V66M212 47V66" fill="none" stroke="var(--ink)" strokeWidth="2.5" />
            </Way>
            {templates.length > 0 ? (
              <Way
                title="Begin with a template"
                words={`The usual wall of your company: ${templates
                  .slice(0, 3)
                  .map((t) => t.name)
                  .join(', ')}${templates.length > 3 ? ' …' : ''}.`}
                onPress={() => setWay('template')}
              >
                <path d="M20 66H220V24H20Z" fill="none" stroke="var(--soft)" strokeWidth="2" strokeDasharray="6 5" />
                <path d="M40 54H150V34H40ZM40 44H150M95 34V44M68 44V54M122 44V54" fill="none" stroke="var(--ink)" strokeWidth="2" />
                <path d="M168 44H200M184 28V60" stroke="var(--now)" strokeWidth="3" />
              </Way>
            ) : null}
          </Ways>
        )}
        <Problems list={problems} />
      </Page>
    </>
  )
}

const Way = ({ title, words, onPress, children }: { title: string; words: string; onPress(): void; children: React.ReactNode }) => (
  <li>
    <AriaButton onPress={onPress}>
      <svg viewBox="0 0 240 84" aria-hidden>
        {children}
      </svg>
      <strong>{title}</strong>
      <span>{words}</span>
    </AriaButton>
  </li>
)

/** Templates to begin with, each taken out by whoever may; one of a system that is gone says so. */
function Templates({ list, may, onTake, onBack }: { list: readonly Usual[]; may: boolean; onTake(plan: Plan): void; onBack(): void }) {
  const [problems, setProblems] = useState<readonly { field: string; message: string }[]>([])
  const drop = async (name: string) => {
    const answer = await send('POST', '/api/templates', { name, plan: null })
    if (answer.ok) window.location.reload()
    else setProblems(answer.problems)
  }
  return (
    <>
      <p>Its unit, pad, water, layers and rules are filled in; its name, length and heights are asked.</p>
      <ul aria-label="Templates" style={{ listStyle: 'none', margin: 0, padding: 0, display: 'grid', gap: 6 }}>
        {list.map((t) => (
          <li key={t.name}>
            <Row style={{ alignItems: 'center' }}>
              <Button isDisabled={!t.plan} onPress={() => t.plan && onTake(t.plan)}>
                {t.name}
              </Button>
              <span style={{ color: 'var(--soft)' }}>kept by {t.by}</span>
              {may ? (
                <Quiet onPress={() => drop(t.name)} aria-label={`Take the template ${t.name} out`}>
                  ✕
                </Quiet>
              ) : null}
            </Row>
            {t.why ? <Caution>▲ It cannot be begun with here: {t.why}.</Caution> : null}
          </li>
        ))}
      </ul>
      <Problems list={problems} />
      <Quiet onPress={onBack}>Another way in</Quiet>
    </>
  )
}

function FileWay({ onFile }: { onFile(f: File): void }) {
  return (
    <li>
      <AriaButton onPress={() => document.getElementById('plan-from-file')?.click()}>
        <svg viewBox="0 0 240 84" aria-hidden>
          <path d="M70 8H140L164 32V78H70ZM140 8V32H164" fill="none" stroke="var(--ink)" strokeWidth="2.5" />
          <path d="M82 66L106 56L124 62L152 44" fill="none" stroke="var(--now)" strokeWidth="3" />
        </svg>
        <strong>Take a file</strong>
        <span>A drawing (DXF), LandXML, survey points (CSV) or a plan file.</span>
      </AriaButton>
      <input
        id="plan-from-file"
        type="file"
        hidden
        aria-label="Drawing, survey or plan file"
        accept=".json,.dxf,.xml,.landxml,.csv,.txt,application/json"
        onChange={(e) => {
          const f = e.target.files?.[0]
          e.target.value = ''
          if (f) onFile(f)
        }}
      />
    </li>
  )
}
