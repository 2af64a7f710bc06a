'use client'

import { type Adopted, adopt, type Drawing, type DrawingUnit, foundAt, type Plan, type Problem, systemOf } from '@stone-tally/core'
import { proxy } from 'comlink'
import { useEffect, useRef, useState } from 'react'
import { beside } from '@/workers/beside'
import type { DrawingWorker } from '@/workers/drawing.worker'
import { startReader } from './reader'

/** A drawing that takes longer than this to read is given up, ms. */
const PATIENCE = 90_000
/** Larger files are refused before they are read into memory. */
const LIMIT = 40 * 1024 * 1024

const reader = () => beside<DrawingWorker>(startReader, PATIENCE)

/** A plan with the line and grades of a drawing; what lies beyond the new end is brought back to it, or goes. */
export function withLine(p: Plan, a: Adopted): Plan {
  const kept = p.sections.filter((s) => s.from < a.length - 0.5)
  const part = systemOf(p.system.id)?.refit(p.system.data, a.length) ?? p.system.data
  return {
    ...p,
    system: { ...p.system, data: part },
    length: a.length,
    alignment: a.alignment,
    grades: a.grades ?? [
      { ...(p.grades[0] as (typeof p.grades)[number]), station: 0 },
      { ...(p.grades[p.grades.length - 1] as (typeof p.grades)[number]), station: a.length },
    ],
    sections: kept.map((s, i) => (i === kept.length - 1 ? { ...s, to: a.length } : s)),
    ...(p.openings ? { openings: p.openings.filter((o) => o.station <= a.length) } : {}),
    ...(p.padSteps ? { padSteps: p.padSteps.filter((s) => s < a.length - 0.01) } : {}),
    ...foundAt(p, a),
  }
}

/** Lines of a file that are offered to choose from: more of them nobody finds anything in. */
const OFFERED = 300

/** Its longest lines, in the order of the file; whatever is chosen is among them. */
export function offeredOf(drawing: Pick<Drawing, 'lines'>, ...chosen: readonly string[]): Drawing['lines'] {
  const { lines } = drawing
  if (lines.length <= OFFERED) return lines
  const longest = new Set([...lines].sort((a, b) => b.vertices.length - a.vertices.length).slice(0, OFFERED))
  return lines.filter((l) => longest.has(l) || chosen.includes(l.id))
}

/** A drawing or survey that is looked at: read beside the page, given up at any moment; which line, unit and grades of it are meant. */
export function useDrawing(handed: File | undefined, asFarAsItGoes: boolean | undefined) {
  const [file, setFile] = useState<{ name: string; bytes: Uint8Array }>()
  const [drawing, setDrawing] = useState<{ value: Drawing; encoding: string }>()
  /** Share of the file that is read; undefined when nothing is being read. */
  const [share, setShare] = useState<number>()
  const reading = useRef<ReturnType<typeof reader>>(undefined)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [line, setLine] = useState('')
  const [unit, setUnit] = useState<DrawingUnit>()
  const [axes, setAxes] = useState<'northing-first' | 'easting-first'>()
  const [fillRight, setFillRight] = useState<'left' | 'right'>('left')
  const [toe, setToe] = useState('')
  const [top, setTop] = useState('')

  const read = async (f: { name: string; bytes: Uint8Array }, order?: 'northing-first' | 'easting-first', as?: DrawingUnit) => {
    setShare(0)
    const worker = reader()
    reading.current = worker
    // Given up by a person, or another file was chosen: whatever comes of it now is for nobody.
    const over = () => reading.current !== worker
    try {
      const made = await worker.ask(
        async (api, alive) =>
          await api.read(
            f.bytes,
            order,
            as,
            proxy((done: number) => {
              alive()
              if (!over()) setShare(done)
            }),
          ),
      )
      if (over()) return
      setProblems(made.ok ? [] : made.problems)
      setDrawing(made.ok ? { value: made.value.drawing, encoding: made.value.encoding } : undefined)
      if (!made.ok) return
      const d = made.value.drawing
      const longest = [...d.lines].sort((a, b) => b.vertices.length - a.vertices.length)
      const face = d.lines.find((l) => /face|wall/i.test(l.layer) || /face|wall/i.test(l.name)) ?? longest[0]
      setLine(face?.id ?? '')
      setUnit(as ?? d.unit)
      const named = (word: RegExp) =>
        d.profiles.find((p) => word.test(p.name) && p.line === face?.id)?.id ?? d.lines.find((l) => l.elevations && word.test(l.layer))?.id ?? ''
      setToe(named(/toe|bottom|lower/i))
      setTop(named(/top|upper/i))
    } catch {
      if (over()) return
      setProblems([
        { field: 'file', message: 'could not be read: the drawing is too much for this device. Save only the layers of the wall into a new file' },
      ])
    } finally {
      worker.end()
      if (!over()) stop()
    }
  }
  const stop = () => {
    reading.current?.end()
    reading.current = undefined
    setShare(undefined)
  }
  const pick = async (f: File | undefined) => {
    setDrawing(undefined)
    setProblems([])
    if (!f) return
    if (f.size > LIMIT) {
      setProblems([
        {
          field: 'file',
          message: `${f.name} is ${(f.size / 1048576).toFixed(0)} MB; at most 40 MB are taken. Save only the layers of the wall into a new file`,
        },
      ])
      return
    }
    const next = { name: f.name, bytes: new Uint8Array(await f.arrayBuffer()) }
    setFile(next)
    setAxes(undefined)
    await read(next)
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, with the file that was handed over
  useEffect(() => {
    if (handed) pick(handed)
    return stop
  }, [])
  const d = drawing?.value
  return {
    ...{ file, drawing, share, problems, line, unit, axes, fillRight, toe, top, pick, stop },
    offered: d ? offeredOf(d, line, toe, top) : [],
    /** What would be taken. */
    made: d ? adopt(d, { line, unit, fillRight: fillRight === 'right', toe: toe || undefined, top: top || undefined, asFarAsItGoes }) : undefined,
    leave: () => {
      setDrawing(undefined)
      setFile(undefined)
    },
    set: {
      line: setLine,
      fillRight: setFillRight,
      toe: setToe,
      top: setTop,
      unit: (u: DrawingUnit) => {
        setUnit(u)
        // Ends are joined by metres, so a drawing is read again.
        if (file && d?.kind === 'dxf') read(file, axes, u)
      },
      axes: (a: 'northing-first' | 'easting-first') => {
        setAxes(a)
        if (file) read(file, a)
      },
    },
  }
}
