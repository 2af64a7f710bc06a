import type { Problem, Result } from '../../base/result'
import { said } from '../../base/said'
import type { yup } from '../../base/schema'
import type { Layout } from '../../layout'
import type { Role } from '../../rules'
import type { Stage, Work } from '../../systems'
import type { Measure } from '../../units'
import type { Entry, Reader, RecordedEntry, Verdict } from '../entry'

/** What a kind may look at when it judges or checks an entry. */
export interface Context {
  /** The layout of the revision under which the entry was made. */
  readonly layout: Layout
  /** The stage the entry belongs to, where it belongs to one. */
  readonly stage: Stage | undefined
  /** Another entry of this wall: the laboratory curve of a density test. */
  find(id: string): Entry | undefined
  /** Entries of a kind that are in force, in order: a docket that came twice. */
  of(kind: string): readonly RecordedEntry[]
}

/** Who builds, who measures as well, and everyone. Inspectors measure and release, they do not build. */
export const BUILDERS: readonly Role[] = ['foreman', 'crew']
export const MEASURERS: readonly Role[] = ['foreman', 'crew', 'inspector']

/** What an entry does besides standing in the record. */
export type Effect<D = unknown> =
  /** It decides on the hold point of its step. */
  | { readonly is: 'decision' }
  /** It lets the work go past its step for a written reason. */
  | { readonly is: 'override' }
  /** It asks somebody from outside to decide on the hold point of its step. */
  | { readonly is: 'asks' }
  /** It answers a finding, which it names. */
  | { readonly is: 'answer'; of(data: D): string }
  /** It takes an entry out, which it supersedes; of any kind. */
  | { readonly is: 'strike' }
  /** It puts a plan revision in force, by its number; only the house records it. */
  | { readonly is: 'revision'; number(data: D): number }

/** How an entry is put right as one number. */
export interface PutRight<D = unknown> {
  /** What is asked for. */
  readonly title: string
  /** What it is measured in, as it was recorded; or a whole number. */
  of(data: D): Measure | 'count'
  /** In SI; lengths in m. */
  value(data: D): number
  /** The data with another number. */
  put(data: D, value: number): D
}

/**
 * One kind of entry: its schema, how it is judged, how it reads as a line of the diary. One file each;
 * a new kind is a file beside these and a line in the index.
 */
export interface EntryKind<D = unknown> {
  readonly kind: string
  readonly schema: yup.AnySchema
  /** What it does to the record beside what it says; work, or a fact beside it, where left out. */
  readonly effect?: Effect<D>
  /** The one number by which it is put right; others are struck out and recorded anew. */
  readonly correction?: PutRight<D>
  /** Why nobody corrects it or strikes it out; left out where its author, or a role above, may. */
  readonly stays?: string
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

/** A kind as it is written: its data is what its schema reads. */
type Written<S extends yup.AnySchema> = EntryKind<yup.InferType<S>> & { readonly schema: S }

/**
 * Defines a kind; its data type follows from its schema, and its judgement, checks and words are typed by it. In the list of all kinds the
 * data is of no known type: whatever reaches it was read by the same schema first.
 *
 * @example defineKind({ kind: 'note', roles: ROLES, schema: record({ text: text(2000) }), line: (e) => e.data.text })
 */
export const defineKind = <S extends yup.AnySchema>(kind: Written<S>): Kind<yup.InferType<S>> => ({
  ...(kind as unknown as EntryKind),
  is: (entry): entry is Entry<string, yup.InferType<S>> => entry.kind === kind.kind,
  among: (list) => list.filter((e): e is RecordedEntry & { entry: Entry<string, yup.InferType<S>> } => e.entry.kind === kind.kind),
})

/** A kind that tells its own entries from others, with their data typed. */
export interface Kind<D> extends EntryKind {
  /** @example recorded.filter((e) => lift.is(e.entry)) */
  is(entry: Entry): entry is Entry<string, D>
  /** Its entries of a list, with their data typed. @example lift.among(log.work).map((e) => e.entry.data.thickness) */
  among(list: readonly RecordedEntry[]): readonly (RecordedEntry & { readonly entry: Entry<string, D> })[]
}
