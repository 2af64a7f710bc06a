import { LENGTH_TOLERANCE, tidy } from '../geometry'
import type { Plan } from '../plan'
import { schoolBy } from '../rules'
import type { Building, Piece, RunEnd, WallSystem } from '../systems'
import type { PadStep } from './base-steps'
import { alongFace, besideStation, type FaceLeg, type Leg } from './face'
import type { Course, Stretch } from './rows'

/** A run of one course between two ends of any kind, filled with its pieces. */
export interface Run {
  readonly leg: number
  /** Stations; past the wall's length where a ring is crossed at its first station. */
  readonly from: number
  readonly to: number
  readonly start: RunEnd
  readonly end: RunEnd
  readonly onPad: boolean
  /** Distance along the leg's face where the run starts, and its true length (m). */
  readonly c0: number
  readonly length: number
  readonly pieces: readonly Piece[]
  /** Stations beside its joints and ends, ascending. */
  readonly joints: Float64Array
  readonly below: readonly Run[]
  readonly broken?: string | undefined
}

interface Gap {
  from: number
  to: number
  start: RunEnd
  end: RunEnd
}

/** The stretches of a course cut at the corners; in a ring what meets at the first station is one. */
function gapsOf(stretches: readonly Stretch[], leg: Leg, length: number, closed: boolean, openings: Plan['openings']): Gap[] {
  const result: Gap[] = []
  const copies = closed ? [0, length] : [0]
  for (const shift of copies) {
    for (const s of stretches) {
      const from = Math.max(leg.from, s.from + shift)
      const to = Math.min(leg.to, s.to + shift)
      if (to - from < LENGTH_TOLERANCE) continue
      const last = result[result.length - 1]
      if (last && Math.abs(last.to - from) < LENGTH_TOLERANCE) last.to = to
      else result.push({ from, to, start: 'step', end: 'step' })
    }
  }
  const open = (at: number) =>
    openings?.some((o) => Math.abs(o.station - o.width / 2 - (at % length)) < 1e-4 || Math.abs(o.station + o.width / 2 - (at % length)) < 1e-4) ??
    false
  for (const g of result) {
    if (Math.abs(g.from - leg.from) < LENGTH_TOLERANCE) g.start = leg.start
    else if (open(g.from)) g.start = 'opening'
    if (Math.abs(g.to - leg.to) < LENGTH_TOLERANCE) g.end = leg.end
    else if (open(g.to)) g.end = 'opening'
  }
  // A ring that is not whole has ends at its first station only by accident of where stations begin.
  const [first, last] = [result[0], result[result.length - 1]]
  if (leg.start === 'ring' && first && last && !(first === last && first.start === 'ring' && first.end === 'ring')) {
    if (first.start === 'ring' && last.end === 'ring' && first !== last) {
      last.to = first.to + length
      last.end = first.end
      result.shift()
    }
    for (const g of result) {
      if (g.start === 'ring') g.start = 'step'
      if (g.end === 'ring') g.end = 'step'
    }
  }
  return result
}

export interface RunBasis {
  readonly plan: Plan
  readonly system: WallSystem
  readonly building: Building
  readonly closed: boolean
  readonly length: number
  readonly steps: readonly PadStep[]
}

/**
 * The runs of one course, laid on those of the course below. A run of an earlier layout whose ends and underlay are the
 * same is taken over as it is.
 */
export function runsOf(basis: RunBasis, course: Course, faces: readonly FaceLeg[], below: readonly Run[], earlier: readonly Run[]): Run[] {
  const result: Run[] = []
  const { plan, length } = basis
  const lower = new Map<number, Run[]>()
  for (const r of below) {
    const list = lower.get(r.leg)
    if (list) list.push(r)
    else lower.set(r.leg, [r])
  }
  for (const face of faces) {
    const { leg } = face
    for (const gap of gapsOf(course.stretches, leg, length, basis.closed, plan.openings)) {
      const ring = gap.start === 'ring'
      // A ring's joint moves by half a unit on every other course, so that it is bonded like any other.
      const shift = ring && course.course % 2 === 0 ? basis.building.course(course.course).length / 2 : 0
      const under = (lower.get(leg.index) ?? []).filter((r) => ring || (r.from < gap.to + 1 && r.to > gap.from - 1))
      const onPad = basis.steps.some(
        (s) => Math.abs(s.elevation - course.bottom) < LENGTH_TOLERANCE && overlaps(s.start, s.end, gap.from, gap.to, length, basis.closed),
      )
      const known = earlier.find(
        (r) =>
          r.leg === leg.index &&
          r.from === gap.from &&
          r.to === gap.to &&
          r.start === gap.start &&
          r.end === gap.end &&
          r.onPad === onPad &&
          r.below.length === under.length &&
          r.below.every((b, i) => b === under[i]),
      )
      result.push(known ?? layRun({ basis, course, face, gap, shift, under, onPad }))
    }
  }
  return result
}

function overlaps(a: number, b: number, from: number, to: number, length: number, closed: boolean): boolean {
  const one = (x: number) => a + x < to - LENGTH_TOLERANCE && b + x > from + LENGTH_TOLERANCE
  return one(0) || (closed && one(length))
}

interface ToLay {
  basis: RunBasis
  course: Course
  face: FaceLeg
  gap: Gap
  shift: number
  under: readonly Run[]
  onPad: boolean
}

function layRun({ basis, course, face, gap, shift, under, onPad }: ToLay): Run {
  const { leg } = face
  const atCorner = (end: RunEnd) => end === 'outside-corner' || end === 'inside-corner'
  const u0 = atCorner(gap.start) && Math.abs(gap.from - leg.from) < LENGTH_TOLERANCE ? face.u0 : gap.from
  const u1 = atCorner(gap.end) && Math.abs(gap.to - leg.to) < LENGTH_TOLERANCE ? face.u1 : gap.to
  const c0 = alongFace(face, u0)
  const length = alongFace(face, u1) - c0
  // Joints below, as distances along this run's face.
  const joints: number[] = []
  const around = gap.start === 'ring' ? [-basis.length, 0, basis.length] : [0]
  for (const turn of around) {
    for (const r of under) {
      for (let i = 0; i < r.joints.length; i++) {
        const u = (r.joints[i] as number) + turn
        if (u > u0 - 3 && u < u1 + 3) joints.push(alongFace(face, u) - c0 - shift)
      }
    }
  }
  if (under.length > 1 || around.length > 1) joints.sort((a, b) => a - b)
  const make = basis.building.course(course.course)
  const laid = basis.system.lay(
    {
      length,
      course: course.course,
      onPad,
      start: gap.start,
      end: gap.end,
      startTurn: gap.start === leg.start ? leg.startTurn : 0,
      endTurn: gap.end === leg.end ? leg.endTurn : 0,
      ...(schoolBy(basis.plan, 'corner') === 'mitred-turn' ? { mitre: 'turn' as const } : {}),
      below: joints,
    },
    basis.plan.system.data,
  )
  // Every unit stands at its own station. What an outside corner takes away, or an inside corner adds, is drawn in what touches the
  // corner alone: up to the first joint a piece's length away from it.
  const standing = (p: { readonly at: number }) => besideStation(face, c0 + p.at + shift)
  const reach = make.length / 2
  const [low, high] = [Math.max(u0, gap.from), Math.min(u1, gap.to)]
  const cornered = {
    left: atCorner(gap.start) && Math.abs(u0 - gap.from) > LENGTH_TOLERANCE,
    right: atCorner(gap.end) && Math.abs(u1 - gap.to) > LENGTH_TOLERANCE,
  }
  const first = cornered.left ? laid.pieces.find((p) => standing(p) > low + reach) : undefined
  const last = cornered.right ? laid.pieces.findLast((p) => standing(p) < high - reach) : undefined
  const left = first && standing(first)
  const right = last && standing(last)
  // A run too short for that is drawn out as a whole.
  const short = (atCorner(gap.start) || atCorner(gap.end)) && (left ?? low) > (right ?? high)
  const whole = (gap.to - gap.from) / (u1 - u0 || 1)
  // Where one unit ends the next begins.
  let [knownAt, knownStation] = [Number.NaN, 0]
  const drawn = (at: number) => {
    if (knownAt === at) return knownStation
    const u = besideStation(face, c0 + at + shift)
    const s = short
      ? gap.from + (u - u0) * whole
      : left !== undefined && u < left
        ? gap.from + ((u - u0) * (left - gap.from)) / (left - u0)
        : right !== undefined && u > right
          ? right + ((u - right) * (gap.to - right)) / (u1 - right)
          : u
    const kept = gap.start === 'ring' ? s : Math.min(gap.to, Math.max(gap.from, s))
    knownAt = at
    knownStation = tidy(kept)
    return knownStation
  }
  const pieces: Piece[] = laid.pieces.map((p) => {
    const start = drawn(p.at)
    const to = drawn(p.at + p.length)
    const turn = start >= basis.length - LENGTH_TOLERANCE && basis.closed ? basis.length : 0
    const [a, b, at, length] = [tidy(start - turn), tidy(to - turn), p.at + shift, tidy(p.length)]
    if (p.shape === undefined) return { start: a, to: b, at, length, kind: p.kind }
    return { start: a, to: b, at, length, kind: p.kind, shape: p.shape, bottom: p.bottom ?? 0, height: p.height ?? make.height }
  })
  const edges: number[] = []
  for (const p of laid.pieces) {
    // Upon a band of rows only the joints that reach its top matter to the course above.
    if (p.height !== undefined && (p.bottom ?? 0) + p.height < make.height - LENGTH_TOLERANCE) continue
    if (p.at > LENGTH_TOLERANCE || gap.start !== 'free') edges.push(standing(p))
  }
  edges.push(besideStation(face, c0 + length + shift))
  return {
    leg: leg.index,
    from: gap.from,
    to: gap.to,
    start: gap.start,
    end: gap.end,
    onPad,
    c0,
    length,
    pieces,
    joints: Float64Array.from(edges),
    below: under,
    broken: laid.broken,
  }
}
