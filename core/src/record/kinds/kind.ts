import type { Problem, Result } from '../../base/result'
import { said } from '../../base/said'
import type { yup } from '../../base/schema'
import type { Layout } from '../../layout'
import type { Role } from '../../rules'
import type { Stage, Work } from '../../systems'
import type { Entry, Reader, Verdict } from '../entry'

/** What a kind may look at when it judges or checks an entry. */
export interface Context {
  /** The layout of the revision under which the entry was made. */
  readonly layout: Layout
  /** The stage the entry belongs to, where it belongs to one. */
  readonly stage: Stage | undefined
  /** Another entry of this wall: the laboratory curve of a density test. */
  find(id: string): Entry | undefined
}

/** Who builds, who measures as well, and everyone. Inspectors measure and release, they do not build. */
export const BUILDERS: readonly Role[] = ['foreman', 'crew']
export const MEASURERS: readonly Role[] = ['foreman', 'crew', 'inspector']

/**
 * One kind of entry: its schema, how it is judged, how it reads as a line of the diary. One file each;
 * a new kind is a file beside these and a line in the index.
 */
export interface EntryKind<D = unknown> {
  readonly kind: string
  readonly schema: yup.ISchema<D>
  /** The type of work this records; undefined for facts that stand beside the work. */
  readonly work?: Work['type']
  /** Who may record it. */
  readonly roles: readonly Role[]
  /** What can only be refused with plan and record at hand. */
  check?(entry: Entry<string, D>, context: Context): Result<true>
  /** Recorded beside the work: at stages that list it, or at any. */
  readonly beside?: true | 'anywhere'
  /** Kinds of finding that this re-checks; its own when left out. */
  readonly closes?: readonly string[]
  /**
   * Is a re-check of the very thing that was found? What they have in common (stage, section, course, station, offset) is looked at for
   * every kind.
   *
   * @returns what the finding was of, where it is not
   */
  again?(entry: Entry<string, D>, finding: Entry<string, D>): Problem | undefined
  judge?(entry: Entry<string, D>, context: Context): Verdict | undefined
  line(entry: Entry<string, D>, reader: Reader, context: Context): string
}

/** Out where anything is: a finding names everything, not the first of it. @example judged([late && 'late'], 'as planned') */
export function judged(outs: readonly (string | false | undefined)[], good: string): Verdict {
  const said = outs.filter((o): o is string => typeof o === 'string')
  return said.length > 0 ? { verdict: 'out', text: said.join('; ') } : { verdict: 'ok', text: good }
}

/** A re-check by stretches takes in all of the stretch that was found. */
export function covers(
  now: { from?: number | undefined; to?: number | undefined },
  was: { from?: number | undefined; to?: number | undefined },
): Problem | undefined {
  if (now.from === undefined && now.to === undefined) return undefined
  const [a, b] = [was.from ?? 0, was.to ?? Number.POSITIVE_INFINITY]
  const whole = was.from === undefined && was.to === undefined
  if ((now.from ?? 0) <= a + 0.05 && (now.to ?? Number.POSITIVE_INFINITY) >= b - 0.05) return undefined
  const field = (now.from ?? 0) > a + 0.05 ? 'data.from' : 'data.to'
  return { field, message: `a re-check takes in all of ${whole ? 'the section' : `${said.given(a)} to ${said.given(b)}`}, where the finding is` }
}

/** Defines a kind; the data type follows from its schema. */
export const defineKind = <D>(kind: EntryKind<D>): EntryKind => kind as unknown as EntryKind
