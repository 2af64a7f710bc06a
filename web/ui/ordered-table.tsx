'use client'

import { createSortedRowModel, rowSortingFeature, type SortingState, tableFeatures, useTable } from '@tanstack/react-table'
import { useState } from 'react'
import { type Column, Table, type TableProps } from './table'

/** A column by which rows can be put in order. */
export interface OrderedColumn<T> extends Column<T> {
  /** What rows are put in order by when its head is pressed; those without come last. */
  readonly by?: (row: T) => string | number | undefined
}

/** Fewer rows than this are seen at a glance: their heads stay words. */
const WORTH_ORDERING = 5
const features = tableFeatures({ rowSortingFeature, sortedRowModel: createSortedRowModel() })
const compare = (a: unknown, b: unknown) =>
  typeof a === 'number' && typeof b === 'number' ? a - b : String(a).localeCompare(String(b), 'en', { numeric: true })

/**
 * A {@link Table} whose rows are put in another order by its heads.
 *
 * @example <OrderedTable label="People" rows={people} id={(p) => p.id} columns={[{ head: 'Name', cell: (p) => p.name, by: (p) => p.name }]} />
 */
export function OrderedTable<T extends object>({
  columns,
  ...props
}: Omit<TableProps<T>, 'columns' | 'order'> & { columns: readonly OrderedColumn<T>[] }) {
  const { rows, id } = props
  const [sorting, setSorting] = useState<SortingState>([])
  const table = useTable({
    features,
    data: rows as T[],
    columns: columns.map((c, i) => ({
      id: String(i),
      accessorFn: (row: T) => c.by?.(row),
      enableSorting: c.by !== undefined,
      sortUndefined: 'last' as const,
      sortDescFirst: false,
      sortFn: (a: { getValue(id: string): unknown }, b: { getValue(id: string): unknown }, at: string) => compare(a.getValue(at), b.getValue(at)),
    })),
    state: { sorting },
    onSortingChange: setSorting,
    getRowId: (row: T, i: number) => String(id(row, i)),
  })
  if (rows.length < WORTH_ORDERING) return <Table {...props} columns={columns} />
  return (
    <Table
      {...props}
      columns={columns}
      order={{
        rows: table.getRowModel().rows.map((r) => [r.original as T, r.index] as const),
        by: (i) => (columns[i]?.by ? (table.getColumn(String(i))?.getIsSorted() ?? false) : undefined),
        press: (i) => table.getColumn(String(i))?.toggleSorting(),
        chosen: sorting.length > 0,
      }}
    />
  )
}
