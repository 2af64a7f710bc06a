import { LENGTH_TOLERANCE, tidy } from '../geometry'
import type { Plan } from '../plan'
import { buildingOf } from '../systems'
import type { PadStep } from './base-steps'
import { alongFace, besideStation, type FaceLeg } from './face'

/** A cap where it lies: stations, true length along the face, elevation of its underside (m). */
export interface Cap {
  readonly start: number
  readonly to: number
  readonly length: number
  readonly elevation: number
  /** end: one finished end that is seen at a top step or the end of the wall; corner: mitred; tapered: for a curve. */
  readonly kind: 'full' | 'end' | 'corner' | 'tapered' | 'cut'
}

/**
 * Caps of one top step along one leg: finished ends where an end is seen, mitres at corners, tapered ones on tight curves,
 * the one cut piece away from both ends.
 */
export function capsOver(plan: Plan, step: PadStep, face: FaceLeg, ends: { left: boolean; right: boolean }, slope: number): Cap[] {
  const { cap } = buildingOf(plan)
  if (!cap) return []
  const { leg } = face
  const from = Math.max(step.start, leg.from)
  const to = Math.min(step.end, leg.to)
  if (to - from < LENGTH_TOLERANCE) return []
  const atStart = Math.abs(from - leg.from) < LENGTH_TOLERANCE
  const atEnd = Math.abs(to - leg.to) < LENGTH_TOLERANCE
  const cornerStart = atStart && leg.start.endsWith('corner')
  const cornerEnd = atEnd && leg.end.endsWith('corner')
  const c0 = alongFace(face, cornerStart ? face.u0 : from)
  const c1 = alongFace(face, cornerEnd ? face.u1 : to)
  const run = c1 - c0
  const full = cap.length
  const count = Math.max(1, Math.ceil(run / full - 1e-6))
  // The last two share what is left when it would be a sliver.
  const rest = run - (count - 1) * full
  const lengths = Array.from({ length: count }, () => full)
  if (count === 1) lengths[0] = run
  else if (rest < full - 1e-6) {
    const at = Math.max(count > 2 ? 1 : 0, count - 2)
    if (rest < full / 2) {
      lengths[at] = (full + rest) / 2
      lengths[Math.max(0, at - 1)] = (full + rest) / 2
      lengths[count - 1] = full
    } else lengths[at] = rest
  }
  const excess = lengths.reduce((a, b) => a + b, 0) - run
  if (Math.abs(excess) > 1e-6) lengths[Math.max(0, count - 2)] = (lengths[Math.max(0, count - 2)] as number) - excess
  let c = c0
  return lengths.map((length, i) => {
    const [start, end] = [besideStation(face, c), besideStation(face, c + length)]
    const middle = besideStation(face, c + length / 2)
    const reach = face.reaches.find((r) => middle >= r.u0 && middle <= r.u1) ?? face.reaches[0]
    const segment = reach === undefined ? undefined : face.line.elements[reach.element]?.segment
    c += length
    const tight = segment?.kind === 'arc' && segment.radius < cap.taper
    const kind: Cap['kind'] =
      (i === 0 && cornerStart) || (i === count - 1 && cornerEnd)
        ? 'corner'
        : (i === 0 && ends.left) || (i === count - 1 && ends.right)
          ? 'end'
          : tight
            ? 'tapered'
            : length < full - 1e-6
              ? 'cut'
              : 'full'
    return {
      start: tidy(Math.max(from, start)),
      to: tidy(Math.min(to, end)),
      length: tidy(length * slope),
      elevation: step.elevation,
      kind,
    }
  })
}
