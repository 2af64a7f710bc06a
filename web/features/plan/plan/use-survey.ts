'use client'

import { DRAWING_UNITS, type Drawing, type DrawingUnit, foundAlong, type Plan } from '@stone-tally/core'
import { useMemo, useRef, useState } from 'react'
import { startReader } from '@/features/plan/set-out/reader'
import { beside } from '@/workers/beside'
import type { DrawingWorker } from '@/workers/drawing.worker'
import { aroundTexts } from './around'
import type { PlanForm } from './use-plan-form'

export type Axes = 'northing-first' | 'easting-first'
const LIMIT = 40 * 1024 * 1024

/** State of levels taken from a survey: the file, what it does not say of itself, and what of it lies beside the wall; knows no markup. */
export function useSurvey({ plan, units, form }: Pick<PlanForm, 'plan' | 'units' | 'form'>) {
  const [file, setFile] = useState<{ name: string; bytes: Uint8Array }>()
  const [drawing, setDrawing] = useState<Drawing>()
  const [unit, setUnit] = useState<DrawingUnit>()
  const [axes, setAxes] = useState<Axes>()
  const [word, setWord] = useState('')
  // A large file that is still being read when another is chosen says nothing any more.
  const turn = useRef(0)
  const read = async (f: { name: string; bytes: Uint8Array }, order?: Axes) => {
    const mine = ++turn.current
    const worker = beside<DrawingWorker>(startReader)
    setWord('Reading …')
    try {
      const made = await worker.ask(async (api) => await api.read(f.bytes, order, undefined, undefined as never))
      if (mine !== turn.current) return
      if (!made.ok) return setWord(`▲ ${f.name}: ${made.problems[0]?.field} ${made.problems[0]?.message}`)
      setDrawing(made.value.drawing)
      setUnit(made.value.drawing.unit)
      setWord('')
    } catch {
      if (mine === turn.current) setWord(`▲ ${f.name} could not be read on this device`)
    } finally {
      worker.end()
    }
  }
  const pick = async (f: File) => {
    const mine = ++turn.current
    setDrawing(undefined)
    setAxes(undefined)
    if (f.size > LIMIT) {
      setFile(undefined)
      return setWord(`▲ ${f.name} is larger than the 40 MB that are taken`)
    }
    const next = { name: f.name, bytes: new Uint8Array(await f.arrayBuffer()) }
    if (mine !== turn.current) return
    setFile(next)
    await read(next)
  }
  const scale = unit && DRAWING_UNITS[unit]
  // A surface has hundreds of thousands of points: they are put beside the line once, not at every letter typed.
  const line = plan?.alignment
  const length = plan?.length ?? 0
  const lineText = JSON.stringify(line)
  // biome-ignore lint/correctness/useExhaustiveDependencies: a line read anew is the same line
  const found = useMemo(
    () =>
      drawing?.axes && scale && line
        ? foundAlong(
            { alignment: line, length },
            [...drawing.points, ...(drawing.ground ?? [])].map((p) => ({
              easting: p.easting * scale,
              northing: p.northing * scale,
              elevation: p.elevation === undefined ? undefined : p.elevation * scale,
            })),
          )
        : undefined,
    [drawing, scale, lineText, length],
  )
  return {
    file: file?.name,
    word,
    axes,
    /** The file does not say which number of a point comes first. */
    asksAxes: drawing !== undefined && file !== undefined && !drawing.axes,
    unit,
    /** Nor in what it is measured. */
    asksUnit: drawing !== undefined && !drawing.unit,
    /** Points it has, with a level or without. */
    count: drawing ? drawing.points.length + (drawing.ground?.length ?? 0) : 0,
    /** The ground could be found, had the wall a line on the site grid. */
    noLine: plan !== undefined && drawing?.axes !== undefined && scale !== undefined && line === undefined,
    found,
    pick,
    chooseAxes: (a: Axes) => {
      setAxes(a)
      if (file) read(file, a)
    },
    chooseUnit: setUnit,
    take: () => {
      if (!found) return
      const texts = aroundTexts({ ...(plan as Plan), found: { points: found.points } }, units)
      form.setValue('found', texts.found, { shouldDirty: true })
      setDrawing(undefined)
    },
  }
}
