import {
  choiceDef,
  kinder,
  type LadderStep,
  ladderOf,
  limitDef,
  type limitsOf,
  milder,
  POINT_KINDS,
  type PointKind,
  type Problem,
  type Role,
  type RuleBook,
  rungOf,
  STEP_NAMES,
  STEPS,
  SYSTEMS,
  shippedLimits,
  shippedPoint,
  startBy,
  startDef,
  typedAmount,
  type UnitSystem,
  type WallFact,
} from '@stone-tally/core'
import { useState } from 'react'
import { usePreferences } from '@/ui/preferences'
import { addedPoint, defOf, limitText, measureOf, readLimit, unitOf } from './edit'
import type { RuleDraft } from './use-rule-draft'

/** What a dialog of the rule book changes, and in which book. */
export interface Changing {
  readonly id: string
  readonly draft: RuleDraft
  readonly book: RuleBook
  onClose(): void
}

const setBy = (book: RuleBook, rule: string) => book.set.find((s) => s.rule === rule)

/** Why a rule is changed; without a reason nothing is. */
function useWhy(given = '') {
  const [why, setWhy] = useState(given)
  return { why, setWhy, reason: why.trim(), given: why.trim().length >= 3 }
}

/** What is wrong with a number that nobody means. */
function beyond(id: string, value: number, units: UnitSystem): Problem | undefined {
  const d = defOf(id)
  if (!d || (value >= d.range[0] - 1e-9 && value <= d.range[1] + 1e-9)) return undefined
  const [least, most] = d.range.map((v) => limitText(id, v, units).replace('±', ''))
  return { field: d.title, message: `must be ${least} to ${most}; is the unit right?` }
}

/** A number of the book as it is typed: looked at in other units and left alone it is the same to the last digit. */
function useNumber(id: string, value: number, title: string) {
  const { units } = usePreferences()
  const measure = measureOf(id)
  const [initial] = useState(measure ? typedAmount(value, measure, units) : `${+value.toFixed(4)}`)
  const [text, setText] = useState(initial)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const read = text === initial ? ({ ok: true, value } as const) : readLimit(id, text, units)
  /** Takes the number where it is one that somebody can mean, and says what is wrong where it is not. */
  const keep = (take: (value: number) => void) => {
    if (!read.ok) return setProblems(read.problems.map((p) => ({ field: title, message: p.message })))
    const outside = beyond(id, read.value, units)
    if (outside) setProblems([outside])
    else take(read.value)
  }
  return { text, setText, problems, read, keep, unit: unitOf(id, units), says: (v: number) => limitText(id, v, units) }
}

/** State of a limit being changed. */
export function useLimit({ id, draft, book, onClose }: Changing) {
  const d = limitDef(id)
  const number = useNumber(id, book.limits.find((l) => l.limit === id)?.value ?? 0, d?.title ?? id)
  const reason = useWhy(setBy(book, `limit.${id}`)?.why)
  const [firm, setFirm] = useState(draft.rules.limits?.find((l) => l.limit === id)?.firm ?? false)
  const ships = shippedLimits(book.shipped)[id as keyof ReturnType<typeof limitsOf>]
  return {
    def: d,
    ...number,
    ...reason,
    firm,
    setFirm,
    ships,
    kinder: d !== undefined && number.read.ok && kinder(d, number.read.value, ships.value),
    take: () =>
      number.keep((value) => {
        draft.put({ rule: 'limit', id, value, why: reason.reason, firm })
        onClose()
      }),
  }
}

/** State of what a new wall starts from being changed. */
export function useStart({ id, draft, book, onClose }: Changing) {
  const d = startDef(id)
  const number = useNumber(id, startBy({ book }, id as StartId), d?.title ?? id)
  const reason = useWhy(setBy(book, `start.${id}`)?.why)
  return {
    def: d,
    ...number,
    ...reason,
    take: () =>
      number.keep((value) => {
        draft.put({ rule: 'start', id, value, why: reason.reason })
        onClose()
      }),
  }
}
type StartId = Parameters<typeof startBy>[1]

/** State of a school of practice being chosen. */
export function useSchool({ id, draft, book, onClose }: Changing, option: string) {
  const def = choiceDef(id)
  const reason = useWhy(setBy(book, `choice.${id}`)?.why)
  const [firm, setFirm] = useState(draft.rules.choices?.find((c) => c.choice === id)?.firm ?? false)
  return {
    def,
    school: def?.options.find((o) => o.id === option),
    ...reason,
    firm,
    setFirm,
    take: () => {
      draft.put({ rule: 'choice', id, option, why: reason.reason, firm })
      onClose()
    },
  }
}

/** State of an inspection point of the book being changed. */
export function usePoint({ id, draft, book, onClose }: Changing) {
  const shipped = shippedPoint(id)
  const now = book.points.find((p) => p.point === id)
  const [kind, setKind] = useState<PointKind>(now?.kind ?? 'hold')
  const [roles, setRoles] = useState<Role[]>([...(now?.roles ?? [])])
  const [own, setOwn] = useState(now?.own ?? false)
  const reason = useWhy(setBy(book, `point.${id}`)?.why)
  const [firm, setFirm] = useState(draft.rules.points?.find((p) => p.point === id)?.firm ?? false)
  return {
    shipped,
    kinds: shipped?.fixed ? (['hold'] as const) : POINT_KINDS,
    kind,
    setKind,
    roles,
    setRoles,
    own,
    setOwn,
    /** May it be said here that people release their own work? */
    mayOwn: shipped !== undefined && !(shipped.fixed && !shipped.own),
    ...reason,
    firm,
    setFirm,
    ready: reason.given && !(kind === 'hold' && roles.length === 0),
    take: () => {
      draft.put({ rule: 'point', id, point: { kind, roles, own: kind === 'hold' && own, ...(firm ? { firm: true } : {}) }, why: reason.reason })
      onClose()
    },
  }
}

/** Stages of every system, each once, in the order of the work: `[id, title]`. */
export const STAGES = [...new Map(SYSTEMS.flatMap((s) => s.stages.map((x) => [x.id, x.title] as const))).entries()]

/** State of a point of one's own being added. */
export function useAdded({ draft, book, onClose }: Omit<Changing, 'id'>) {
  const [title, setTitle] = useState('')
  const [stage, setStage] = useState(STAGES[0]?.[0] ?? '')
  const [kind, setKind] = useState<'hold' | 'witness'>('hold')
  const [roles, setRoles] = useState<Role[]>(['inspector'])
  const [section, setSection] = useState('')
  const [course, setCourse] = useState('')
  const reason = useWhy()
  const taken = [...book.points.map((p) => ({ id: p.point, title: shippedPoint(p.point)?.title ?? p.point })), ...book.added]
  const made = addedPoint({ title, stage, kind, roles, section, course, why: reason.reason }, taken)
  const wrong = (field: string) => (made.ok ? undefined : made.problems.find((p) => p.field === field)?.message)
  return {
    title,
    setTitle,
    titleWrong: title.trim() ? wrong('title') : undefined,
    stage,
    setStage,
    kind,
    setKind,
    roles,
    setRoles,
    section,
    setSection,
    course,
    setCourse,
    courseWrong: wrong('course'),
    ...reason,
    ready: made.ok && reason.given && roles.length > 0,
    take: () => {
      if (!made.ok) return
      draft.take({ ...draft.rules, added: [...(draft.rules.added ?? []), made.value] })
      onClose()
    },
  }
}

/** State of a line of the ladder being made stricter; only steps that ask for no less than what ships are offered. */
export function useRung({ id, draft, book, onClose }: Changing) {
  const ships = rungOf(id as WallFact)
  const now = ladderOf({ book }).find((r) => r.fact === id) ?? ships
  const [low, setLow] = useState(now.low)
  const [higher, setHigher] = useState(now.higher)
  const reason = useWhy(setBy(book, `ladder.${id}`)?.why)
  const offered = (least: LadderStep) =>
    STEPS.filter((s) => !milder(s, least))
      .sort((a, b) => Number(milder(b, a)) - Number(milder(a, b)))
      .map((s) => [s, STEP_NAMES[s]] as const)
  return {
    ships,
    low,
    setLow,
    higher,
    setHigher,
    lows: offered(ships.low),
    highers: offered(ships.higher),
    ...reason,
    take() {
      draft.put({ rule: 'ladder', id: ships.fact, low, higher, why: reason.reason })
      onClose()
    },
  }
}
