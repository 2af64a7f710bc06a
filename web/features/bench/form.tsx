'use client'

import type { Problem } from '@stone-tally/core'
import styled from 'styled-components'
import { Button, Choice, Field, Quiet, Row, Stack, Wide } from '@/ui/controls'

/** What is typed: texts where the calculator has numbers, in the same shape. */
export type Typed = string | boolean | readonly Typed[] | { readonly [key: string]: Typed }

/** The example of a calculator as it would be typed. */
export function typedOf(value: unknown): Typed {
  if (Array.isArray(value)) return value.map(typedOf)
  if (value !== null && typeof value === 'object') return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, typedOf(v)]))
  return typeof value === 'boolean' ? value : `${value}`
}

/** What was typed as the calculator reads it: numbers where they are numbers, empty fields left out. */
export function readTyped(typed: Typed): unknown {
  if (typeof typed === 'boolean') return typed
  if (typeof typed === 'string') {
    const text = typed.trim().replace(',', '.')
    if (text === '') return undefined
    return /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(text) ? Number(text) : typed
  }
  if (Array.isArray(typed)) return typed.map(readTyped).filter((v) => v !== undefined)
  return Object.fromEntries(
    Object.entries(typed)
      .map(([k, v]) => [k, readTyped(v)] as const)
      .filter(([, v]) => v !== undefined),
  )
}

const Rows = styled(Wide)`td { padding: 4px 8px 4px 0; } input { min-width: 110px; }`

interface Props {
  typed: Typed
  name: string
  path: string
  labels: Readonly<Record<string, string>>
  problems: readonly Problem[]
  onChange(next: Typed): void
}

/** Fields for whatever shape a calculator reads. */
export function Fields({ typed, name, path, labels, problems, onChange }: Props) {
  const label = labels[name] ?? name
  const error = problems.find((p) => p.field === path)?.message
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
    const first = typed[0]
    if (typeof first !== 'object' || Array.isArray(first) || first === undefined) {
      return (
        <Field
          label={`${label}, one after another`}
          value={typed.join(' ')}
          onChange={(v) => onChange(v.split(/[\s;]+/).filter((x, i, l) => x !== '' || i === l.length - 1))}
          error={error}
        />
      )
    }
    const columns = [...new Set(typed.flatMap((r) => Object.keys(r as object)))]
    return (
      <Stack style={{ gap: 4 }}>
        <h3>{label}</h3>
        {error ? <strong>▲ {error}</strong> : null}
        <Rows role="region" aria-label={label} tabIndex={0}>
          <table>
            <tbody>
              {typed.map((row, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place in the list
                <tr key={i}>
                  {columns.map((c) => (
                    <td key={c}>
                      <Fields
                        typed={(row as Record<string, Typed>)[c] ?? ''}
                        name={c}
                        path={`${path}[${i}].${c}`}
                        labels={labels}
                        problems={problems}
                        onChange={(v) => onChange(typed.map((r, k) => (k === i ? { ...(r as object), [c]: v } : r)))}
                      />
                    </td>
                  ))}
                  <td style={{ verticalAlign: 'bottom' }}>
                    <Quiet onPress={() => onChange(typed.filter((_, k) => k !== i))} aria-label={`Take out ${label} ${i + 1}`}>
                      −
                    </Quiet>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Rows>
        <Row>
          <Button onPress={() => onChange([...typed, typed[typed.length - 1] ?? ''])}>One more</Button>
        </Row>
      </Stack>
    )
  }
  const entries = Object.entries(typed as Record<string, Typed>)
  return (
    <Stack>
      {path ? <h3>{label}</h3> : null}
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
