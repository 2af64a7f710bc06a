import type { DrainSchool } from '../water/seat'
import type { Requirement, Stage } from './system'

const PIPE: ReadonlySet<string> = new Set(['invert', 'drain', 'cover'])
const without = (s: Stage, gone: ReadonlySet<string>): Stage => ({ ...s, requires: s.requires.filter((r) => !gone.has(r.stage)) })
const asking = (s: Stage, ...more: Requirement[]): Stage => ({ ...s, requires: [...s.requires, ...more] })

const SEEN: readonly Requirement[] = [
  { stage: 'drain', of: 'same', force: 'hold', why: 'the pipe may not be covered before it' },
  { stage: 'cover', of: 'same', force: 'soft', why: 'the pipe has no stone over it yet' },
]

/**
 * The stages of a system in the order that follows from where the pipe sits: in the pad before the pad covers it; on its bed before the
 * stone behind the first course; raised, once the fill stands at its level, and before the stone beside it.
 *
 * @example pipeOrder(stages, 'in-pad').map((s) => s.id) // […, 'subgrade', 'invert', 'drain', 'cover', 'pad', …]
 */
export function pipeOrder(stages: readonly Stage[], school: DrainSchool): readonly Stage[] {
  const pipe = stages.filter((s) => PIPE.has(s.id))
  const rest = stages.filter((s) => !PIPE.has(s.id))
  if (school === 'in-pad') {
    const low = pipe.map(
      (s): Stage => ({
        ...s,
        scope: 'section',
        when: 'every',
        requires:
          s.id === 'invert' ? [{ stage: 'subgrade', of: 'same', force: 'hold', why: 'the pipe lies on ground that was released' }] : s.requires,
      }),
    )
    return rest.flatMap((s) => (s.id === 'pad' ? [...low, asking(s, ...SEEN)] : [without(s, PIPE)]))
  }
  // Stone beside the pipe goes in after it: the stage that places stone behind the units, where the system has one.
  const stone = rest.find((s) => s.work.type === 'check' && s.work.items.some((i) => i.id === 'stone'))
  const first: Requirement =
    school === 'raised'
      ? { stage: 'backfill', of: 'below', force: 'soft', why: 'the fill does not stand at the level of the pipe yet' }
      : { stage: 'line', of: 'same', force: 'hold', why: 'the first course is not released where it lies' }
  const moved = pipe.map(
    (s): Stage => ({
      ...s,
      when: 'pipe',
      ...(stone?.round ? { round: stone.round } : {}),
      ...(s.id === 'invert' && (stone || school === 'raised') ? { requires: [first] } : {}),
    }),
  )
  if (!stone) {
    const before = stages.findIndex((s) => PIPE.has(s.id))
    return [...rest.slice(0, before), ...moved, ...rest.slice(before)]
  }
  return rest.flatMap((s) => (s === stone ? [...moved, asking(s, ...SEEN)] : [s]))
}
