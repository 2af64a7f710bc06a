'use client'

import {
  cellKey,
  gridPlaced,
  nextStep,
  openFindings,
  owedNow,
  type ProgressBook,
  progressBook,
  settled,
  statusOf,
  stepKey,
  unmatched,
  waitingHolds,
} from '@stone-tally/core'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { isWriting, useFeed, useHere } from '@/features/wall'

/** Where the Board is opened. */
export interface Opened {
  /** Step that is opened at first. */
  readonly open?: string | undefined
  /** Station that is looked at first, m. */
  readonly from?: number | undefined
  /** What is next in each section, as the house saw it when it made the page; until this device knows better. */
  readonly seen?: Readonly<Record<string, string>> | undefined
}

/** State of the Board: the section, the step and the station one is at, and what the wall is there; knows no markup. */
export function useBoard({ open, from, seen }: Opened) {
  const { plans } = useHere()
  const feed = useFeed()
  // Until the record is here the wall is shown as the house sees it; nothing is recorded on that.
  const state = feed.glimpse ?? feed.state
  const { layout } = state
  const [section, setSection] = useState(
    (open && state.byKey.get(open)?.section) ||
      ((from === undefined ? undefined : layout.plan.sections.find((s) => from <= s.to)) ?? layout.plan.sections[0])?.id ||
      '',
  )
  const [chosen, setChosen] = useState<string | undefined>(open)
  const [station, setStation] = useState(from)
  const [help, setHelp] = useState(false)

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
  // What had the focus may be gone after a record: whoever works by keys goes on at the card, and whoever pressed at its foot sees its head.
  const card = useRef<HTMLElement>(null)
  const seenStep = useRef(stepNow)
  // biome-ignore lint/correctness/useExhaustiveDependencies: after every entry
  useEffect(() => {
    const isNew = seenStep.current !== stepNow
    seenStep.current = stepNow
    const wait = setTimeout(() => {
      if (!worked.current || !card.current) return
      if (document.activeElement === document.body) card.current.focus({ preventScroll: true })
      const { top } = card.current.getBoundingClientRect()
      if (isNew && (top < 0 || top > window.innerHeight / 2)) card.current.scrollIntoView({ block: 'start' })
    }, 50)
    return () => clearTimeout(wait)
  }, [state.seq, stepNow])
  const worked = useRef(false)
  const at = station ?? (own ? own.from + (own.to - own.from) / 2 : 0)
  const holds = waitingHolds(state)
  const owed = useMemo(() => owedNow(state), [state])
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
      if (e.ctrlKey || e.metaKey) return
      // The other section is gone to out of a field as well: the first reading has the focus already.
      if (e.altKey) {
        const to = layout.plan.sections[Number(e.key) - 1]
        if (to) {
          e.preventDefault()
          setSection(to.id)
          follow()
        }
        return
      }
      if (isWriting(on)) return
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
  const chooseSection = useCallback(
    (id: string) => {
      setSection(id)
      follow()
    },
    [follow],
  )
  /** Another station is looked at; beyond the section's end that is another section, at what is next there. */
  const lookAt = (s: number) => {
    setStation(s)
    const to = sectionAt(s)
    if (to === section) return
    setSection(to)
    setChosen(undefined)
  }
  /** A course was touched on the drawing: its first step that is not settled. */
  const openCell = (s: string, course: number) => {
    const to =
      state.byCell.get(cellKey(s, course))?.find((x) => !settled(statusOf(state, x))) ??
      state.byKey.get(stepKey({ stage: layout.system.open.from, section: s, course }))
    if (to) goTo(to.key)
  }
  return {
    feed,
    state,
    layout,
    section,
    chooseSection,
    own,
    step,
    status,
    coming,
    /** Somebody chose another step than the next. */
    elsewhere: chosen !== undefined && step?.key !== next?.key,
    isNext: step !== undefined && step.key === next?.key,
    /** The station that was chosen, if one was; and the one that is looked at, m. */
    station,
    setStation,
    at,
    goTo,
    follow,
    move,
    lookAt,
    openCell,
    look,
    placed,
    sectionAt,
    cells,
    readings,
    here,
    holds,
    owed,
    findings,
    lost,
    help,
    setHelp,
    card,
    /** The card has had the focus: whoever works by keys goes on there. */
    began: () => {
      worked.current = true
    },
  }
}
export type BoardState = ReturnType<typeof useBoard>
