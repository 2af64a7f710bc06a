'use client'

import type { Instrument, Role, Where } from '@stone-tally/core'
import { clockAhead } from './clock'
import type { Waiting } from './db'
import { uuid7 } from './ids'

/** Who is at this device. */
export interface Me {
  readonly id: string
  readonly name: string
  readonly role: Role
}

/** A fact to record; the rest of the entry follows from who, when and which wall. */
export interface Fact {
  /** Where what is recorded has one already (a photo that was taken); otherwise it is made. */
  readonly id?: string | undefined
  readonly kind: string
  readonly where: Where
  readonly data: unknown
  readonly supersedes?: string | undefined
  /** Why it corrects the other. */
  readonly reason?: string | undefined
  readonly recheckOf?: string | undefined
  readonly instrument?: Instrument | undefined
}

/**
 * Facts as entries of this device.
 *
 * @param knew - number of the last entry the person had seen
 * @example const [entry] = entriesOf([{ kind: 'note', where: {}, data: { text: 'rain' } }], { wall, revision: 1, me, knew: 12, now: Date.now() })
 */
export function entriesOf(
  facts: readonly Fact[],
  { wall, revision, me, knew, now }: { wall: string; revision: number; me: Me; knew: number; now: number },
): Waiting[] {
  const clock = clockAhead()
  return facts.map((f, i) => ({
    owner: me.id,
    ownerName: me.name,
    knew,
    id: f.id ?? uuid7(now + i),
    wall,
    revision,
    at: new Date(now).toISOString(),
    kind: f.kind,
    where: f.where,
    data: f.data,
    ...(f.supersedes ? { supersedes: f.supersedes } : {}),
    ...(f.reason ? { reason: f.reason } : {}),
    ...(f.recheckOf ? { recheckOf: f.recheckOf } : {}),
    ...(f.instrument ? { instrument: f.instrument } : {}),
    // Nought is said too: it is not the same as a clock nobody has compared.
    ...(clock === undefined ? {} : { clock }),
  }))
}
