import type { CourseRun, LaidPiece, LaidRun } from '../system'
import type { Unit } from '../unit'

/**
 * Mats side by side, each with the gap that a backing mat bridges. What is left at the end is narrowed between two wires that lie into the
 * fill: only wires along the wall are cut. Two narrowed ones stand there rather than one too narrow to hold itself.
 *
 * @param mesh - wires into the fill apart, m
 */
export function lay(run: CourseRun, unit: Unit, mesh: number): LaidRun {
  const laid = straight(run, unit, mesh)
  const corner = (end: CourseRun['start']) => end === 'outside-corner' || end === 'inside-corner'
  const last = laid.pieces.length - 1
  // The mat at an angle is bent to it: its wires along the wall are cut there, those into the fill overlap or spread.
  return {
    ...laid,
    pieces: laid.pieces.map((p, i) => ((i === 0 && corner(run.start)) || (i === last && corner(run.end)) ? { ...p, kind: 'mitre' as const } : p)),
  }
}

/** A run as if it ended nowhere. */
function straight(run: CourseRun, unit: Unit, mesh: number): LaidRun {
  const { length } = unit
  const least = unit.minPiece ?? length / 4
  const whole = Math.floor(run.length / length + 1e-9)
  const left = run.length - whole * length
  const pieces: LaidPiece[] = []
  const put = (at: number, long: number, kind: LaidPiece['kind']) => pieces.push({ at, length: long, kind })
  if (left < 1e-6) {
    for (let i = 0; i < whole; i++) put(i * length, length, 'full')
    return { pieces }
  }
  if (left >= least - 1e-9) {
    for (let i = 0; i < whole; i++) put(i * length, length, 'full')
    put(whole * length, left, 'cut')
    return { pieces }
  }
  if (whole === 0) return { pieces: [{ at: 0, length: run.length, kind: 'cut' }], broken: 'a mat is narrower than it may be' }
  // The last whole one gives up some of its width; both end between wires.
  const both = length + left
  const first = Math.min(length, Math.ceil(both / 2 / mesh - 1e-9) * mesh)
  for (let i = 0; i < whole - 1; i++) put(i * length, length, 'full')
  put((whole - 1) * length, first, 'cut')
  put((whole - 1) * length + first, both - first, 'cut')
  return { pieces }
}
