import type { StartName } from '../rules'

/** What a new wall starts from, as the rules of the company have it. */
export interface Starts {
  /** Defaults by name: lengths m, per cent as they are. */
  value(name: StartName): number
  /** The school of a choice. */
  school(choice: string): string
}

/** What is typed for a question: a length (m or ft) or a small one (mm or in), a mass, an area, rain, per cent of a share, per cent and counts as they are, words, a day. */
export type QuestionOf = 'length' | 'small' | 'mass' | 'area' | 'rain' | 'share' | 'number' | 'text' | 'day'

/** A column of a question that takes a list. */
export interface QuestionColumn {
  readonly id: string
  readonly label: string
  readonly of: QuestionOf
  /** What a new first line begins with. */
  readonly begin?: string
  /** A new line begins with what the line before it says: the next layer is mostly of the same roll. */
  readonly again?: true
  /** May be left empty. */
  readonly optional?: true
}

interface Asked {
  /** Its name among the questions of a system. */
  readonly id: string
  /** Where the answer stands in the part: `foundation.thickness`, `embedment[kind=fixed].depth`. */
  readonly at: string
  /** `own`: what no other system asks. */
  readonly chapter: 'wall' | 'ground' | 'pad' | 'own' | 'water' | 'grid' | 'built' | 'rules' | 'order'
  readonly label: string
  readonly hint?: string
  /** Said of it outside the form, where a problem is named; the label where left out. */
  readonly name?: string
  /** Asked only where the answer to another question is one of these. */
  readonly when?: { readonly question: string; readonly is: readonly string[] }
  /** Not asked where the answer to another question is one of these. */
  readonly unless?: { readonly question: string; readonly is: readonly string[] }
}

/**
 * What the planner asks for a system's own part of the plan. One form shows them all; a system only says what it wants to know, where the
 * answer stands in its part, and in which words.
 */
export type Question = Asked &
  /** `usual`: what holds, and is shown, where the part says nothing. */
  (
    | { readonly of: QuestionOf; readonly optional?: true; readonly usual?: number }
    /** `yesNo`: the plan holds a yes or no. An option with an empty id leaves it unsaid. */
    | { readonly of: 'choice'; readonly options: readonly (readonly [id: string, title: string])[]; readonly yesNo?: true }
    /** One of the units of the catalogue that belong to the system. */
    | { readonly of: 'unit' }
    | {
        readonly of: 'list'
        readonly one: string
        readonly columns: readonly QuestionColumn[]
        readonly least: number
        readonly add: string
        /** A list without a line is none. */
        readonly optional?: true
        readonly proposed?: 'layers'
        /** Without a line the system itself says what stands there (`WallSystem.stands`), in these words of where it comes from. */
        readonly stands?: string
      }
  )

/** One place on the way to an answer: a field, or the one of a list whose field is as said. */
type Stop = { readonly field: string } | { readonly key: string; readonly value: string }
const stops = (at: string): Stop[] =>
  at
    .split(/\.|(?=\[)/)
    .filter(Boolean)
    .map((s) => {
      const one = /^\[(\w+)=([\w-]+)\]$/.exec(s)
      return one ? { key: one[1] as string, value: one[2] as string } : { field: s }
    })
type Tree = Record<string, unknown>

/**
 * The answer a part holds to a question; undefined where it holds none.
 *
 * @example answerIn({ embedment: [{ kind: 'fixed', depth: 0.2 }] }, 'embedment[kind=fixed].depth') // 0.2
 */
export function answerIn(part: unknown, at: string): unknown {
  let here = part
  for (const s of stops(at)) {
    if (here === null || typeof here !== 'object') return undefined
    here = 'field' in s ? (here as Tree)[s.field] : (here as Tree[]).find((x) => x[s.key] === s.value)
  }
  return here
}

/**
 * A part with another answer; undefined takes the answer out, and with it the line of a list that held it alone. Nothing else of it changes.
 *
 * @example withAnswer({ stone: { width: 0.3 } }, 'stone.width', 0.4) // { stone: { width: 0.4 } }
 */
export function withAnswer(part: unknown, at: string, answer: unknown): unknown {
  const put = (here: unknown, [stop, ...rest]: readonly Stop[]): unknown => {
    if (!stop) return answer
    if ('field' in stop) {
      const of = { ...((here ?? {}) as Tree) }
      const inner = put(of[stop.field], rest)
      // What was taken out last takes what held it along.
      const empty = answer === undefined && inner !== null && typeof inner === 'object' && Object.keys(inner).length === 0
      if (inner === undefined || empty) delete of[stop.field]
      else of[stop.field] = inner
      return of
    }
    const list = [...((here ?? []) as Tree[])]
    const i = list.findIndex((x) => x[stop.key] === stop.value)
    if (answer === undefined) return list.filter((_, k) => k !== i)
    const inner = put(list[i] ?? { [stop.key]: stop.value }, rest) as Tree
    if (i < 0) list.push(inner)
    else list[i] = inner
    return list
  }
  return put(part, stops(at))
}
