'use client'

import { Fragment, type ReactNode, useState } from 'react'
import styled from 'styled-components'
import { Quiet, Row } from './controls'

const Wide = styled.div`overflow-x: auto; position: relative; @media print { overflow: visible; max-height: none !important; } table { width: 100%; } td, th { white-space: nowrap; } td.n, th.n { text-align: right; } td.wrap, th.wrap { white-space: normal; min-width: 130px; } th.n.wrap { min-width: 96px; }
  tr[data-on='true'] td { background: var(--faint); } tr.group th { color: var(--ink); border-bottom: 1px solid var(--line); padding-top: 14px; }
  &.middle td { vertical-align: middle; } .unseen { position: absolute; clip-path: inset(50%); }`
const Head = styled.button`font: inherit; color: inherit; letter-spacing: inherit; background: none; border: 0; padding: 0; min-height: 48px; min-width: 48px; cursor: pointer; text-align: inherit; display: inline-flex; align-items: end; gap: 4px; text-decoration: underline dotted; text-underline-offset: 3px;`

/** A column of a {@link Table}. */
export interface Column<T> {
  /** What its head says. */
  readonly head: ReactNode
  /** For a column whose head says nothing to be seen: what it holds, for whoever has the page read. */
  readonly unseen?: string
  readonly cell: (row: T, index: number) => ReactNode
  /** Figures stand right, under each other; words wrap. Both: a figure with words. */
  readonly is?: 'n' | 'wrap' | 'n wrap'
}

/** Rows in an order that somebody chose. */
export interface Order<T> {
  readonly rows: readonly (readonly [row: T, index: number])[]
  /** How the rows stand by a column; undefined where they are not put in order by it. */
  readonly by: (column: number) => 'asc' | 'desc' | false | undefined
  readonly press: (column: number) => void
  readonly chosen: boolean
}

export interface TableProps<T> {
  /** What the table holds; it is read out before it, and it can be scrolled to by keys. */
  readonly label: string
  readonly columns: readonly Column<T>[]
  readonly rows: readonly T[]
  readonly id: (row: T, index: number) => string | number
  /** Rows that stand out, such as the one that is picked. */
  readonly on?: (row: T) => boolean
  /** Other marks of a row, for those who look at the page by its marks. */
  readonly marks?: (row: T) => Readonly<Record<`data-${string}`, unknown>>
  /** A line above the first row of each group, until the rows are put in another order. */
  readonly group?: (row: T) => { readonly key: string | number; readonly title: string } | undefined
  /** What opens beneath a row, as wide as the table. */
  readonly detail?: (row: T) => ReactNode
  /** Rows shown before somebody asks for more; all where nothing is said. */
  readonly atOnce?: number
  /** A last row, such as a sum: a cell for each column. */
  readonly foot?: readonly ReactNode[]
  /** It scrolls by itself from this height on, px. */
  readonly tall?: number
  /** Given by the table whose rows can be put in order ({@link OrderedTable}). */
  readonly order?: Order<T> | undefined
  /** Cells that hold more than a line of text stand in the middle of their row. */
  readonly middle?: boolean
}

const STATES = { asc: 'ascending', desc: 'descending' } as const

/**
 * The one table: named, wider than a phone only within itself, long ones shown in parts.
 *
 * @example <Table label="People" rows={people} id={(p) => p.id} columns={[{ head: 'Name', cell: (p) => p.name }]} />
 */
export function Table<T>({
  label,
  columns,
  rows,
  id,
  on,
  marks,
  group,
  detail,
  atOnce = Number.POSITIVE_INFINITY,
  foot,
  tall,
  order,
  middle,
}: TableProps<T>) {
  const [shown, setShown] = useState(atOnce)
  const ordered = order?.rows ?? rows.map((r, i) => [r, i] as const)
  const inGroups = group !== undefined && !order?.chosen
  return (
    <>
      <Wide
        role="region"
        aria-label={label}
        tabIndex={0}
        className={middle ? 'middle' : ''}
        style={tall ? { maxHeight: tall, overflowY: 'auto' } : {}}
      >
        <table aria-label={label}>
          <thead>
            <tr>
              {columns.map((c, i) => {
                const by = order?.by(i)
                return (
                  // biome-ignore lint/suspicious/noArrayIndexKey: a column is its place
                  <th key={i} className={c.is ?? ''} {...(by === undefined ? {} : { 'aria-sort': by ? STATES[by] : 'none' })}>
                    {by === undefined ? (
                      c.head
                    ) : (
                      <>
                        <Head type="button" className="noprint" onClick={() => order?.press(i)}>
                          {c.head}
                          {by ? <span aria-hidden>{by === 'asc' ? '▲' : '▼'}</span> : null}
                        </Head>
                        <span className="printed">{c.head}</span>
                      </>
                    )}
                    {c.unseen ? <span className="unseen">{c.unseen}</span> : null}
                  </th>
                )
              })}
            </tr>
          </thead>
          <tbody>
            {ordered.slice(0, shown).map(([row, index], at) => {
              const own = inGroups ? group(row) : undefined
              const before = ordered[at - 1]
              const opened = detail?.(row)
              return (
                <Fragment key={id(row, index)}>
                  {own && (!before || group?.(before[0])?.key !== own.key) ? (
                    <tr className="group">
                      <th colSpan={columns.length} scope="colgroup">
                        {own.title}
                      </th>
                    </tr>
                  ) : null}
                  <tr {...(on ? { 'data-on': on(row) } : {})} {...(marks ? marks(row) : {})}>
                    {columns.map((c, i) => (
                      // biome-ignore lint/suspicious/noArrayIndexKey: a column is its place
                      <td key={i} className={c.is ?? ''}>
                        {c.cell(row, index)}
                      </td>
                    ))}
                  </tr>
                  {opened ? (
                    <tr data-on>
                      <td colSpan={columns.length} className="wrap">
                        {opened}
                      </td>
                    </tr>
                  ) : null}
                </Fragment>
              )
            })}
            {foot ? (
              <tr>
                {foot.map((f, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: a column is its place
                  <td key={i} className={columns[i]?.is ?? ''}>
                    {f}
                  </td>
                ))}
              </tr>
            ) : null}
          </tbody>
        </table>
      </Wide>
      {ordered.length > shown ? (
        <Row>
          <span>
            {shown} of {ordered.length} are shown.
          </span>
          <Quiet onPress={() => setShown(shown + atOnce)}>Show {Math.min(atOnce, ordered.length - shown)} more</Quiet>
        </Row>
      ) : null}
    </>
  )
}
