'use client'

import { type Calculator, type Measure, type Problem, parseAmount, say, typedAmount, type UnitSystem, unitOf } from '@stone-tally/core'
import styled from 'styled-components'
import { Button, Choice, Field, Quiet, Row, Stack, Wide } from '@/ui/controls'
import { usePreferences } from '@/ui/preferences'

/** What is typed: texts where the calculator has numbers, in the same shape. */
export type Typed = string | boolean | readonly Typed[] | { readonly [key: string]: Typed }

export type Labels = Calculator['labels']

/** Amounts behind texts nobody has changed, by field and text: a sixteenth of an inch shown is not the amount itself. */
export type Exact = Map<string, number>

/** How a calculator's fields are written and read: in whose units, under which names. */
export interface Reading {
  readonly labels: Labels
  readonly units: UnitSystem
  readonly exact: Exact
  /** Fields that are words, by their whole way: a task may be called 12. */
  readonly words: ReadonlySet<string>
}

interface Described {
  readonly type?: string
  readonly fields?: Readonly<Record<string, unknown>>
  readonly innerType?: unknown
}
/**
 * The fields of a calculator that are words and no amounts.
 *
 * @example wordsOf(calculator.schema.describe()) // Set { 'tasks.id', 'tasks.after.id' }
 */
export function wordsOf(of: unknown, path = ''): ReadonlySet<string> {
  const { type, fields = {}, innerType } = (of ?? {}) as Described
  if (type === 'string') return new Set([path])
  return new Set([...(innerType ? wordsOf(innerType, path) : []), ...Object.entries(fields).flatMap(([k, f]) => [...wordsOf(f, below(path, k))])])
}
const wayOf = (path: string) => path.replace(/\[\d+\]/g, '')

/** What a field is called: by its whole way where two of one name are not the same, else by its name. */
const labelOf = (labels: Labels, path: string, name: string): Labels[string] | undefined => labels[wayOf(path)] ?? labels[name]
const measureOf = (labels: Labels, path: string, name: string): Measure | undefined => {
  const label = labelOf(labels, path, name)
  return typeof label === 'string' ? undefined : label?.[1]
}
const keyOf = (r: Reading, path: string, text: string) => `${r.units} ${path} ${text}`
const below = (path: string, name: string | number) => (typeof name === 'number' ? `${path}[${name}]` : path ? `${path}.${name}` : name)

/**
 * What a calculator reads, as it would be typed in the reader's units.
 *
 * @example typedOf({ benchmark: 10 }, { labels, units: 'metric', exact: new Map() }) // { benchmark: '10' }
 */
export function typedOf(value: unknown, r: Reading, path = '', name = ''): Typed {
  if (Array.isArray(value)) return value.map((v, i) => typedOf(v, r, below(path, i), name))
  if (value !== null && typeof value === 'object')
    return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, typedOf(v, r, below(path, k), k)]))
  if (typeof value === 'boolean') return value
  const measure = measureOf(r.labels, path, name)
  if (typeof value !== 'number' || !measure) return `${value ?? ''}`
  const text = typedAmount(value, measure, r.units)
  r.exact.set(keyOf(r, path, text), value)
  return text
}

/** What was typed as the calculator reads it: SI numbers where they are numbers, empty fields left out. */
export function readTyped(typed: Typed, r: Reading, path = '', name = ''): unknown {
  if (typeof typed === 'boolean') return typed
  if (typeof typed === 'string') {
    if (typed.trim() === '') return undefined
    const measure = measureOf(r.labels, path, name)
    if (measure) {
      const known = r.exact.get(keyOf(r, path, typed))
      if (known !== undefined) return known
      const amount = parseAmount(typed, measure, r.units)
      return amount.ok ? amount.value : typed
    }
    if (r.words.has(wayOf(path))) return typed
    const text = typed.trim().replace(',', '.')
    return /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(text) ? Number(text) : typed
  }
  if (Array.isArray(typed)) return typed.map((t, i) => readTyped(t, r, below(path, i), name)).filter((v) => v !== undefined)
  return Object.fromEntries(
    Object.entries(typed)
      .map(([k, v]) => [k, readTyped(v, r, below(path, k), k)] as const)
      .filter(([, v]) => v !== undefined),
  )
}

/** What separates the values of a list: feet and inches have blanks of their own. */
const BETWEEN = { metric: [' ', /[\s;]+/], imperial: ['; ', /;\s*/], 'decimal-feet': [' ', /[\s;]+/] } as const

// A list within a row stands below it, set in: beside its fields it is wider than a phone.
const Rows = styled(Wide)`
  ol { list-style: none; margin: 0; padding: 0; } li { display: flex; gap: 8px; padding: 4px 0; align-items: end; } input { min-width: 110px; }
  li:has([role='region']) { flex-wrap: wrap; } li > div:has([role='region']) { flex: 1 1 100%; order: 1; padding-left: 12px; border-left: 3px solid var(--line); }
`

interface Props {
  typed: Typed
  name: string
  path: string
  labels: Labels
  problems: readonly Problem[]
  onChange(next: Typed): void
  /** A row as other lists of the same name have it: what one that is empty begins with. */
  like?: Typed | undefined
}

/** The same fields with nothing in them. */
const blank = (row: Typed | undefined): Typed =>
  row !== undefined && typeof row === 'object' && !Array.isArray(row) ? Object.fromEntries(Object.keys(row).map((k) => [k, ''])) : ''

/** Fields for whatever shape a calculator reads. */
export function Fields({ typed, name, path, labels, problems, onChange, like }: Props) {
  const { units } = usePreferences()
  const own = labelOf(labels, path, name)
  const label = own === undefined ? name : typeof own === 'string' ? own : `${own[0]}, ${unitOf(own[1], units)}`
  const found = problems.find((p) => p.field === path)?.message
  const error = found === undefined ? undefined : say(found, units)
  if (typeof typed === 'boolean') {
    return (
      <Choice
        label={label}
        value={typed ? 'yes' : 'no'}
        options={[
          ['yes', 'Yes'],
          ['no', 'No'],
        ]}
        onChange={(v) => onChange(v === 'yes')}
      />
    )
  }
  if (typeof typed === 'string') return <Field label={label} value={typed} onChange={onChange} inputMode="decimal" error={error} />
  if (Array.isArray(typed)) {
    const first = typed[0] ?? like
    if (typeof first !== 'object' || Array.isArray(first) || first === undefined) {
      return (
        <Field
          label={`${label}, one after another`}
          value={typed.join(BETWEEN[units][0])}
          onChange={(v) => onChange(v.split(BETWEEN[units][1]).filter((x, i, l) => x !== '' || i === l.length - 1))}
          error={error}
        />
      )
    }
    // A list within a row of another is told from those of the other rows.
    const within = /\[(\d+)\]\.\w+$/.exec(path)
    const columns = [...new Set([first, ...typed].flatMap((r) => Object.keys(r as object)))]
    /** The first row of a list that another row has under this name. */
    const rowsOf = (c: string) => typed.map((r) => (r as Record<string, Typed>)[c]).find((v) => Array.isArray(v) && typeof v[0] === 'object')
    return (
      <Stack style={{ gap: 4 }}>
        <h2 className="minor">{label}</h2>
        {error ? <strong>▲ {error}</strong> : null}
        <Rows role="region" aria-label={within ? `${label} of row ${Number(within[1]) + 1}` : label} tabIndex={0}>
          <ol>
            {typed.map((row, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place in the list
              <li key={i}>
                {columns.map((c) => (
                  <div key={c}>
                    <Fields
                      typed={(row as Record<string, Typed>)[c] ?? (rowsOf(c) ? [] : '')}
                      like={(rowsOf(c) as readonly Typed[] | undefined)?.[0]}
                      name={c}
                      path={`${path}[${i}].${c}`}
                      labels={labels}
                      problems={problems}
                      onChange={(v) => onChange(typed.map((r, k) => (k === i ? { ...(r as object), [c]: v } : r)))}
                    />
                  </div>
                ))}
                <div>
                  <Quiet
                    isDisabled={typed.length === 1 && !like}
                    onPress={() => onChange(typed.filter((_, k) => k !== i))}
                    aria-label={`Take out ${label} ${i + 1}`}
                  >
                    −
                  </Quiet>
                </div>
              </li>
            ))}
          </ol>
        </Rows>
        <Row>
          <Button onPress={() => onChange([...typed, typed[typed.length - 1] ?? blank(like)])}>One more</Button>
        </Row>
      </Stack>
    )
  }
  const entries = Object.entries(typed as Record<string, Typed>)
  return (
    <Stack>
      {path ? <h2 className="minor">{label}</h2> : null}
      <Row style={{ alignItems: 'start' }}>
        {entries.map(([k, v]) => (
          <div key={k} style={{ flex: typeof v === 'string' || typeof v === 'boolean' ? '0 1 200px' : '1 1 100%' }}>
            <Fields
              typed={v}
              name={k}
              path={path ? `${path}.${k}` : k}
              labels={labels}
              problems={problems}
              onChange={(next) => onChange({ ...(typed as object), [k]: next })}
            />
          </div>
        ))}
      </Row>
    </Stack>
  )
}
