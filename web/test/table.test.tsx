import { fireEvent, render, screen, within } from '@testing-library/react'
import { type OrderedColumn, OrderedTable as Table } from '../ui/ordered-table'

interface Piece {
  readonly name: string
  readonly length: number | undefined
  readonly unit: number
}
const PIECES: readonly Piece[] = [
  { name: 'Cut 10', length: 0.2, unit: 1 },
  { name: 'Cut 2', length: 0.31, unit: 1 },
  { name: 'Half', length: undefined, unit: 2 },
  { name: 'Cut 20', length: 0.4, unit: 3 },
  { name: 'Cut 21', length: 0.5, unit: 3 },
]
const COLUMNS: readonly OrderedColumn<Piece>[] = [
  { head: 'Piece', cell: (p) => p.name, by: (p) => p.name },
  { head: 'Length', is: 'n', cell: (p, i) => `${i}: ${p.length ?? '—'}`, by: (p) => p.length },
  { head: '', unseen: 'What to do', cell: (p) => <button type="button">Tick {p.name}</button> },
]
const names = () =>
  within(screen.getByRole('table'))
    .getAllByRole('button', { name: /^Tick/ })
    .map((b) => b.textContent?.slice(5))
const order = (head: string) => fireEvent.click(screen.getByRole('button', { name: new RegExp(`^${head}`) }))
const sortOf = (head: string) => screen.getByRole('columnheader', { name: new RegExp(`^${head}`) }).getAttribute('aria-sort')

test('a table has its name, its heads are named, and where it is wider than the screen keys reach it', () => {
  render(<Table label="Cuts" rows={PIECES} id={(p) => p.name} columns={COLUMNS} />)
  expect(screen.getByRole('table', { name: 'Cuts' })).toBeTruthy()
  expect(screen.getByRole('region', { name: 'Cuts' }).tabIndex).toBe(0)
  expect(screen.getByRole('columnheader', { name: 'What to do' })).toBeTruthy()
  expect(screen.getAllByRole('row')).toHaveLength(6)
})

test('a head puts rows in its order, the other way round, and back; numbers as numbers, what has no value last both times', () => {
  render(<Table label="Cuts" rows={PIECES} id={(p) => p.name} columns={COLUMNS} />)
  expect(names()).toEqual(['Cut 10', 'Cut 2', 'Half', 'Cut 20', 'Cut 21'])
  expect(sortOf('Piece')).toBe('none')
  order('Piece')
  expect(names()).toEqual(['Cut 2', 'Cut 10', 'Cut 20', 'Cut 21', 'Half'])
  expect(sortOf('Piece')).toBe('ascending')
  order('Length')
  expect(names()).toEqual(['Cut 10', 'Cut 2', 'Cut 20', 'Cut 21', 'Half'])
  order('Length')
  expect([names(), sortOf('Length'), sortOf('Piece')]).toEqual([['Cut 21', 'Cut 20', 'Cut 2', 'Cut 10', 'Half'], 'descending', 'none'])
  // A row keeps the number it has in the list.
  expect(screen.getByText('1: 0.31')).toBeTruthy()
  order('Length')
  expect(names()).toEqual(['Cut 10', 'Cut 2', 'Half', 'Cut 20', 'Cut 21'])
})

test('new rows come in the order that was chosen', () => {
  const shown = render(<Table label="Cuts" rows={PIECES} id={(p) => p.name} columns={COLUMNS} />)
  order('Length')
  shown.rerender(<Table label="Cuts" rows={[...PIECES, { name: 'Short', length: 0.1, unit: 3 }]} id={(p) => p.name} columns={COLUMNS} />)
  expect(names()).toEqual(['Short', 'Cut 10', 'Cut 2', 'Cut 20', 'Cut 21', 'Half'])
})

test('a few rows are seen at a glance: their heads are no buttons', () => {
  render(<Table label="Cuts" rows={PIECES.slice(0, 4)} id={(p) => p.name} columns={COLUMNS} />)
  expect(screen.queryByRole('button', { name: /^Piece/ })).toBeNull()
  expect(sortOf('Piece')).toBeNull()
})

test('groups stand above their rows until another order is chosen', () => {
  const group = (p: Piece) => ({ key: p.unit, title: 'Out of one unit' })
  render(<Table label="Cuts" rows={PIECES} id={(p) => p.name} columns={COLUMNS} group={group} />)
  expect(screen.getAllByRole('columnheader', { name: 'Out of one unit' })).toHaveLength(3)
  order('Piece')
  expect(screen.queryByRole('columnheader', { name: 'Out of one unit' })).toBeNull()
})

test('a long table is shown in parts, and says how much of it is', () => {
  const many = Array.from({ length: 25 }, (_, i) => ({ name: `Cut ${i}`, length: i, unit: i }))
  render(<Table label="Cuts" rows={many} id={(p) => p.name} columns={COLUMNS} atOnce={10} />)
  expect(names()).toHaveLength(10)
  expect(screen.getByText('10 of 25 are shown.')).toBeTruthy()
  fireEvent.click(screen.getByRole('button', { name: 'Show 10 more' }))
  fireEvent.click(screen.getByRole('button', { name: 'Show 5 more' }))
  expect(names()).toHaveLength(25)
  expect(screen.queryByText(/are shown/)).toBeNull()
})

test('what opens beneath a row is as wide as the table; a last row and what stands out are marked', () => {
  render(
    <Table
      label="Cuts"
      rows={PIECES}
      id={(p) => p.name}
      columns={COLUMNS}
      on={(p) => p.name === 'Half'}
      detail={(p) => (p.name === 'Half' ? <p>Two of these</p> : null)}
      foot={['In all', 0.51, '']}
    />,
  )
  expect(screen.getByText('Two of these').closest('td')?.colSpan).toBe(3)
  expect(screen.getByText('Tick Half').closest('tr')?.dataset.on).toBe('true')
  expect(
    within(screen.getAllByRole('row').at(-1) as HTMLElement)
      .getAllByRole('cell')
      .map((c) => c.textContent),
  ).toEqual(['In all', '0.51', ''])
})
