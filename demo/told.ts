import type { Instrument, Where } from '@stone-tally/core'
import type { Picture } from './pictures'

/** A fact of the story: who says it, and the entry without its id and time. */
export interface Told {
  readonly who: 'foreman' | 'crew' | 'inspector'
  readonly kind: string
  readonly where: Where
  readonly data: unknown
  /** Names this fact, so that a later one can correct or re-check it. */
  readonly as?: string
  readonly supersedes?: string
  /** Why it corrects the other. */
  readonly reason?: string
  readonly recheckOf?: string
  readonly actionOn?: string
  /** Name of the laboratory curve a density test refers to. */
  readonly curve?: string
  /** A photo: what it shows, and the fact it was taken of. */
  readonly picture?: Picture
  readonly of?: string
  readonly instrument?: (now: Date) => Instrument
}
