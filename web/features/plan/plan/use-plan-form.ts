'use client'

import {
  type Adopted,
  type CatalogueUnit,
  issued,
  issueUnder,
  type Layout,
  type Plan,
  type Problem,
  type Result,
  type RuleBook,
  type Rules,
  type UnitSystem,
  unitOfPlan,
  type WallSystem,
} from '@stone-tally/core'
import { startTransition, useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { type UseFormReturn, useForm } from 'react-hook-form'
import type { Draft as Edits } from '@/features/plan/set-out/use-draft'
import { useLaid } from '@/features/plan/set-out/use-laid'
import { laidFor } from '@/ui/laid'
import { usePreferences } from '@/ui/preferences'
import { draftAlong, planAlong } from './along-line'
import { applyPlan } from './apply-plan'
import { afterUnit, answerOf, chosenOf } from './chosen'
import { type Draft, draftOf, emptyDraft, placedIn, planRead } from './draft'
import { useStepsBack } from './use-steps-back'

/** How a new wall is begun: on a line, from another plan, or from nothing. */
export interface Beginning {
  readonly way: 'sketch' | 'type' | 'file' | 'copy' | 'template'
  readonly line?: Adopted | undefined
  /** The plan it begins from: what the form does not show is kept of it. */
  readonly from?: Plan | undefined
  /** The site that was planned on last. */
  readonly site: string
  /** What was typed before the page was loaded anew. */
  readonly draft?: Draft | undefined
  /** What was typed on the way in before this one. */
  readonly carried?: Draft | undefined
}
/** The wall a plan is the next revision of. */
export interface Revised {
  readonly id: string
  readonly name: string
  readonly revision: number
  readonly plan: Plan
  readonly madeUp?: boolean
  /** It was put away. */
  readonly away?: boolean
}
export interface Planning {
  readonly wall?: Revised | undefined
  readonly catalogue: readonly CatalogueUnit[]
  /** The company's rules, which a new wall starts from. */
  readonly book?: RuleBook | undefined
  /** Rules of the company and its sites, which the plan would be issued under. */
  readonly levels?: { readonly company: Rules; readonly sites: Readonly<Record<string, Rules>> } | undefined
  readonly begun?: Beginning | undefined
  /** Keeps what is typed over a reload; told that it is not wanted any more once it is issued. */
  readonly kept?: { readonly text: string; set(draft: string): void; letGo(): void } | undefined
}

/** A plan while it is typed: its texts, the plan and the wall they make, and what is wrong with them. */
export interface PlanForm {
  readonly form: UseFormReturn<Draft>
  readonly draft: Draft
  readonly base: Plan | undefined
  /** What a bare number means. */
  readonly units: UnitSystem
  readonly u: 'm' | 'ft'
  /** What is typed makes this plan; undefined while it makes none. */
  readonly plan: Plan | undefined
  /** By field of the draft; empty where the wall can be built as it is typed. */
  readonly problems: readonly Problem[]
  /** The last wall that could be laid out, as it would be issued. */
  readonly layout: Layout | undefined
  readonly progress: number | undefined
  /** The wall as it was issued last. */
  readonly before: Layout | undefined
  /** Something differs from what it began with. */
  readonly changed: boolean
  readonly system: WallSystem | undefined
  readonly offered: readonly CatalogueUnit[]
  readonly line: Adopted | undefined
  /** The plan changed on its drawing. */
  readonly edits: Pick<Edits, 'plan' | 'layout' | 'edit' | 'settle'> | undefined
  /** The same of the last plan that was one. */
  readonly lastEdits: Pick<Edits, 'plan' | 'layout' | 'edit' | 'settle'> | undefined
  /** The plan the fields make at this moment, while what is drawn may still follow. */
  planNow(): Result<Plan>
  /** Is what is drawn, and every problem said of it, of the fields as they stand? */
  isDrawn(): boolean
  /** A field filled in as one types: it stands at once, what follows from it comes after. */
  type<N extends keyof Draft>(name: N, value: Draft[N]): void
  /** Another draft in place of this one, as one step; with the same key in a row it is the same step. */
  put(next: Draft, key?: string): void
  withUnit(id: string): Draft
  /** The plan another draft makes, as it would be issued. */
  planOf(of: Draft): Result<Plan>
}

/** Typing that rests this long is drawn, ms: less than a look up takes, more than from one letter to the next. */
const STILL = 150

/** What the form begins with: what was typed before, a plan, or what the rule book has. */
function beginWith(base: Plan | undefined, begun: Beginning | undefined, units: UnitSystem, book: RuleBook | undefined): Draft {
  const empty = base ? draftOf(base, units) : { ...emptyDraft(units, book), site: begun?.site ?? '' }
  // Written by an earlier version of the application it may lack what is asked since.
  if (begun?.draft) {
    const kept = { ...empty, ...begun.draft }
    return begun.line && !kept.drawn.line ? { ...kept, drawn: { ...kept.drawn, line: begun.line } } : kept
  }
  const made = begun?.way === 'template' ? fromTemplate(empty, begun.site) : empty
  const begins = begun?.carried ? carriedInto(made, begun.carried, base !== undefined, begun.way) : made
  return begun?.line ? draftAlong(begins, begun.line, units) : begins
}

/** What was typed on another way in goes along: all of it where this one begins with nothing, else what this wall alone has. */
function carriedInto(draft: Draft, { drawn, ...carried }: Draft, from: boolean, way: Beginning['way']): Draft {
  if (!from) {
    const { line: _, alignment: __, ...rest } = drawn
    return { ...draft, ...carried, drawn: rest }
  }
  const named = { ...draft, name: carried.name.trim() || draft.name, site: carried.site.trim() || draft.site }
  return way === 'template' ? { ...named, length: carried.length, grades: carried.grades } : named
}

/** A template fills in what a wall is; where it lies, how long and how high is asked. */
function fromTemplate(draft: Draft, site: string): Draft {
  return {
    ...draft,
    name: '',
    site,
    length: '',
    grades: [
      { station: '0', toe: '', top: '' },
      { station: '', toe: '', top: '' },
    ],
    sections: [{ id: 'A', to: '' }],
    benchmark: '',
    padSteps: '',
    everyLists: { ...draft.everyLists, openings: [] },
    // Where water leaves is the place's.
    lists: { ...draft.lists, ...(draft.lists.outlets ? { outlets: [] } : {}) },
  }
}

/**
 * The draft that is drawn. A letter that is typed stands in its field at once; the drawing, the problems and the other questions follow and are
 * given up half-way where the next letter comes first. What is pressed or put in is drawn at once.
 *
 * @returns the draft, and how to change fields as typing does
 */
function useDrawnDraft(form: UseFormReturn<Draft>): [Draft, (change: () => void) => void] {
  const [draft, draw] = useState<Draft>(() => structuredClone(form.getValues()))
  const typing = useRef(false)
  useEffect(() => {
    let wait: ReturnType<typeof setTimeout> | undefined
    const take = () => {
      clearTimeout(wait)
      draw(structuredClone(form.getValues()))
    }
    const sub = form.watch((_, { type }) => {
      if (type !== 'change' && !typing.current) return take()
      clearTimeout(wait)
      wait = setTimeout(() => startTransition(take), STILL)
    })
    // What a part of the form put in while the page came up.
    take()
    return () => {
      clearTimeout(wait)
      sub.unsubscribe()
    }
  }, [form])
  const soon = useCallback((change: () => void) => {
    typing.current = true
    change()
    typing.current = false
  }, [])
  return [draft, soon]
}

/** State of a plan being made or revised; knows no markup. */
export function usePlanForm({ wall, catalogue, book, levels, begun, kept }: Planning): { of: PlanForm; steps: ReturnType<typeof useStepsBack> } {
  const { units: reads } = usePreferences()
  // A change of units in the middle of typing would change what a bare number means.
  const [units] = useState<UnitSystem>(reads)
  const base = wall?.plan ?? begun?.from
  const form = useForm<Draft>({ defaultValues: beginWith(base, begun, units, book) })
  const steps = useStepsBack(form, kept)
  const [draft, soon] = useDrawnDraft(form)
  // What a person typed is theirs, even where it reads as what the unit starts with.
  useEffect(() => {
    const typing = form.watch((_, { name, type }) => {
      const answer = type === 'change' && name ? answerOf(name) : undefined
      const known = form.getValues('typed') ?? []
      if (answer && answer !== 'part.unit' && !known.includes(answer)) soon(() => form.setValue('typed', [...known, answer]))
    })
    return () => typing.unsubscribe()
  }, [form, soon])
  // The unit of this wall is offered even when it has left the catalogue.
  const offered = useMemo(() => {
    const own = base && unitOfPlan(base)
    return own && base && !catalogue.some((c) => c.unit.id === own.id) ? [...catalogue, { system: base.system.id, unit: own }] : catalogue
  }, [base, catalogue])
  const site = wall?.plan.site
  const issue = useCallback(
    (p: Plan): Result<Plan> =>
      levels ? issueUnder(p, { company: levels.company, site: levels.sites[site ?? p.site] }) : { ok: true, value: issued(p) },
    [levels, site],
  )
  const read = useCallback(
    (of: Draft): Result<Plan> => {
      const plan = planRead(of, units, catalogue, base, book)
      const { line } = of.drawn
      return plan.ok && line ? { ok: true, value: planAlong(plan.value, line, of, units) } : plan
    },
    [units, catalogue, base, book],
  )
  const [first] = useState(() => {
    const laid = wall && laidFor(wall.plan)
    return laid?.ok ? laid.value : undefined
  })
  const text = JSON.stringify(draft)
  // biome-ignore lint/correctness/useExhaustiveDependencies: a draft is its text
  const made = useMemo(() => read(draft), [text, read])
  const plan = made.ok ? made.value : undefined
  const { made: laid, progress } = useLaid<Layout | undefined>(plan, first, issue)
  // biome-ignore lint/correctness/useExhaustiveDependencies: a draft is its text
  const problems = useMemo(
    () => (made.ok ? (plan === undefined ? [] : placedIn(draft, catalogue, base, laid.problems)) : made.problems),
    [made, text, catalogue, base, laid.problems],
  )
  const now = useRef(plan)
  now.current = plan
  const { begin } = steps
  const turn = useRef(0)
  const put = useCallback(
    (next: Draft, key = `put ${++turn.current}`) => {
      begin(key)
      form.reset(next, { keepDefaultValues: true })
    },
    [form, begin],
  )
  const edit = useCallback(
    (change: (p: Plan) => Plan, key?: string) => {
      const before = now.current
      const after = before && change(before)
      if (!before || !after || after === before) return
      put(applyPlan(form.getValues(), before, after, units), key)
      // The next step of the same drag starts from here.
      now.current = after
    },
    [form, put, units],
  )
  const settle = useCallback(() => begin(`after ${++turn.current}`), [begin])
  const { layout } = laid
  const edits = useMemo(() => (plan && layout ? { plan, layout, edit, settle } : undefined), [plan, layout, edit, settle])
  const lastEdits = useRef(edits)
  if (edits) lastEdits.current = edits
  const [firstText] = useState(text)
  const withUnit = useCallback(
    (id: string) => {
      const values = form.getValues()
      return { ...values, ...afterUnit(values, offered, id, units, base, book) }
    },
    [form, offered, units, base, book],
  )
  const doing = useMemo(
    () => ({
      put,
      withUnit,
      planNow: () => read(structuredClone(form.getValues())),
      type: <N extends keyof Draft>(name: N, value: Draft[N]) => soon(() => form.setValue(name, value as never, { shouldDirty: true })),
      planOf: (of: Draft) => {
        const p = read(of)
        return p.ok ? issue(p.value) : p
      },
    }),
    [put, withUnit, form, read, issue, soon],
  )
  const last = lastEdits.current
  // The same while nothing of it changed: what stands beside the fields is not made anew for a letter in one of them.
  // biome-ignore lint/correctness/useExhaustiveDependencies: a draft is its text
  const of = useMemo(
    (): PlanForm => ({
      form,
      draft,
      base,
      units,
      u: units === 'metric' ? 'm' : 'ft',
      plan,
      problems,
      layout,
      progress,
      before: first,
      changed: text !== firstText,
      system: chosenOf(draft, catalogue, base)?.system,
      offered,
      line: draft.drawn.line,
      edits,
      lastEdits: last,
      isDrawn: () => JSON.stringify(form.getValues()) === text,
      ...doing,
    }),
    [form, text, base, units, plan, problems, layout, progress, first, catalogue, offered, edits, last, doing],
  )
  return { of, steps }
}
