'use client'

import {
  fillBalance,
  type Layout,
  lineOf,
  live,
  type PhotoData,
  type RecordedEntry,
  SIDES,
  type Side,
  type StockBook,
  type StockRow,
  say,
  stockSheet,
  stockValue,
} from '@stone-tally/core'
import { useState } from 'react'
import { Button as AriaButton } from 'react-aria-components'
import styled from 'styled-components'
import { PhotosOf, useFeed, useHere, useToday, WallPage } from '@/features/wall'
import { entryHref, hrefOf } from '@/features/wall/places'
import { amountWords } from '@/ui/amounts'
import { Caution, Choice, Condensed, Quiet, Row, Stack } from '@/ui/controls'
import { dayWords } from '@/ui/day-words'
import { useWidth } from '@/ui/drawing/use-width'
import { Link } from '@/ui/link'
import { usePreferences } from '@/ui/preferences'
import { counted } from '@/ui/sentence'
import { Table } from '@/ui/table'
import { LitWall } from './lit-wall'
import { Mixes } from './mixes'
import { OrderList } from './order-list'
import { Stands } from './stands'
import { StockBar } from './stock-bar'
import { StoreForm } from './store-form'
import { useStock } from './use-stock'

const Cells = styled.div`
  .cell { background: none; border: 0; padding: 0 4px; min-height: 48px; min-width: 48px; color: var(--ink); font: inherit; font-variant-numeric: tabular-nums; cursor: pointer; text-decoration: underline dotted; text-underline-offset: 4px; }
  td.n .cell { text-align: right; } .item { text-align: left; font-weight: 650; text-decoration: none; }
`
const NAMES: Readonly<Record<Side, string>> = {
  ordered: 'Ordered',
  delivered: 'Came',
  refused: 'Sent back',
  placed: 'Built in',
  damaged: 'Broken',
  out: 'Taken away',
  in: 'Brought',
  counted: 'Counted',
}

/** Stock: what the wall takes, what came, what is built in and left; what of it is short; what must be ordered by when. */
export function StockPage() {
  const { me, name } = useHere()
  const feed = useFeed()
  const { state } = feed
  const today = useToday(state)
  const { book, rows, words, lit, orders, trucks } = useStock(state, today)
  const [view, setView] = useState<'stock' | 'orders' | 'stands'>('stock')
  const [box, width] = useWidth<HTMLDivElement>(1180)
  const { units } = usePreferences()
  const due = orders.filter((o) => o.kept).length
  const kept = rows.some((r) => r.kept)
  const first = lit.find((l) => !l.lit)
  return (
    <WallPage here="stock" title="Stock">
      <Row className="noprint" style={{ justifyContent: 'space-between', alignItems: 'center' }}>
        <Choice
          label="View"
          hideLabel
          value={view}
          options={[
            ['stock', 'On site'],
            ['orders', `To order${due > 0 ? ` (${due})` : ''}`],
            ['stands', 'Where it stands'],
          ]}
          onChange={setView}
        />
      </Row>
      {words.map((w) => (
        <Caution key={`${w.id} ${w.of}`}>▲ {say(w.text, units)}</Caution>
      ))}
      {view === 'orders' ? (
        <OrderList orders={orders} today={today} stock={stockSheet(rows)} trucks={trucks} record={feed.record}>
          <Mixes state={state} book={book} record={feed.record} />
        </OrderList>
      ) : view === 'stands' ? (
        <Stands state={state} record={feed.record} near={nearOf(state.layout, first)} />
      ) : (
        <>
          <div ref={box}>
            {kept ? (
              <Stack>
                <LitWall
                  layout={state.layout}
                  book={book}
                  lit={lit}
                  width={Math.max(240, width)}
                  label={`${name}: what can be built with what is here`}
                />
                <p>
                  {lit.length === 0
                    ? 'Everything is built in.'
                    : first
                      ? `With what is here the wall goes up to course ${first.course} of section ${first.section}: there ${first.lacks.join(' and ').toLowerCase()} ${first.lacks.length > 1 ? 'run' : 'runs'} out.`
                      : 'With what is here the whole wall can be built.'}
                </p>
              </Stack>
            ) : (
              <p>Nothing was taken in yet. Open a material and record what came: from then on this page says what is left and what runs short.</p>
            )}
          </div>
          <Rows rows={rows} book={book} me={me} feed={feed} today={today} />
          <Value book={book} />
          <Soil layout={state.layout} />
        </>
      )}
    </WallPage>
  )
}

/** The middle of the section in which the work goes on: what comes is wanted there. */
function nearOf(layout: Layout, first: { readonly section: string } | undefined): number {
  const own = layout.plan.sections.find((s) => s.id === first?.section) ?? { from: 0, to: layout.plan.length }
  return (own.from + own.to) / 2
}

/** What is here and built in is worth, where somebody gave prices. */
function Value({ book }: { book: StockBook }) {
  const v = stockValue(book)
  if (!v) return null
  const money = (n: number) => n.toLocaleString('en-GB', { maximumFractionDigits: 0 })
  return (
    <p>
      Of {v.priced} {v.priced === 1 ? 'material' : 'materials'} with a price: ordered {money(v.ordered)}, came {money(v.came)}, built in{' '}
      {money(v.placed)}, left <strong>{money(v.left)}</strong>.
    </p>
  )
}

/** A lorry of loose soil, m³. */
const LORRY = 10
/** What comes and goes of soil. */
function Soil({ layout }: { layout: Layout }) {
  const { units } = usePreferences()
  const b = fillBalance(layout)
  const m3 = (v: number) => amountWords(v, 'm³', units)
  const loads = (v: number) => (v > 0 ? ` (${counted(Math.ceil(v / LORRY - 1e-9), 'lorry', 'lorries')} of ${m3(LORRY)})` : '')
  if (b.compacted <= 0) return null
  return (
    <p>
      Soil: {m3(b.bank)} are dug, {m3(b.loose)} loose. Behind the wall go {m3(b.compacted)} compacted, {m3(b.wanted)} loose. Where all that is dug may
      be used <strong>{m3(b.toBring)}</strong> have to come{loads(b.toBring)}; where none of it may, {m3(b.toTakeAway)} go away{loads(b.toTakeAway)}{' '}
      and {m3(b.wanted)} come{loads(b.wanted)}. The soil says which.
    </p>
  )
}

function Rows({
  rows,
  book,
  me,
  feed,
  today,
}: {
  rows: readonly StockRow[]
  book: ReturnType<typeof useStock>['book']
  me: ReturnType<typeof useHere>['me']
  feed: ReturnType<typeof useFeed>
  today: string
}) {
  const { units } = usePreferences()
  const [open, setOpen] = useState<string>()
  const [side, setSide] = useState<Side>()
  const show = (row: StockRow, s?: Side) => {
    setSide(s)
    setOpen(open === row.id && side === s ? undefined : row.id)
  }
  const amount = (row: StockRow, v: number) => amountWords(v, row.unit, units)
  const none = <span style={{ color: 'var(--soft)' }}>–</span>
  const cell = (row: StockRow, s: Side, value: number) =>
    row.entries[s] ? (
      <AriaButton className="cell" onPress={() => show(row, s)} aria-label={`${NAMES[s]} ${amount(row, value)}: what it is made of`}>
        {amount(row, value)}
      </AriaButton>
    ) : (
      none
    )
  return (
    <Cells>
      <Table
        label="Materials"
        middle
        rows={rows}
        id={(row) => row.id}
        on={(row) => open === row.id}
        detail={(row) =>
          open === row.id ? (
            <Stack>
              {row.material ? <Condensed style={{ color: 'var(--soft)' }}>{say(row.material.working, units)}</Condensed> : null}
              <StoreForm row={row} book={book} me={me} record={feed.record} today={today} onDone={() => setSide(undefined)} />
              <Entries row={row} side={side} units={units} feed={feed} onSide={setSide} />
            </Stack>
          ) : null
        }
        columns={[
          {
            head: 'Material',
            cell: (row) => (
              <AriaButton className="cell item" aria-expanded={open === row.id} onPress={() => show(row)}>
                {open === row.id ? '▾' : '▸'} {say(row.name, units)}
              </AriaButton>
            ),
          },
          { head: 'Plan', is: 'n', cell: (row) => (row.material ? amount(row, row.material.planned) : 'not planned') },
          { head: 'With waste', is: 'n', cell: (row) => (row.material ? amount(row, row.material.order) : '') },
          { head: 'Ordered', is: 'n', cell: (row) => cell(row, 'ordered', row.ordered) },
          { head: 'Came', is: 'n', cell: (row) => cell(row, 'delivered', row.delivered) },
          { head: 'Built in', is: 'n', cell: (row) => cell(row, 'placed', row.placed) },
          { head: 'Left', is: 'n', cell: (row) => (row.kept ? <strong>{amount(row, row.left)}</strong> : none) },
          { head: '■ built in, ▧ here, ┆ expected; line: the plan', cell: (row) => <StockBar row={row} units={units} /> },
        ]}
      />
    </Cells>
  )
}

const SHOWN = 12
/** What a number is made of: the entries behind it, each a tap away in the record. */
function Entries({
  row,
  side,
  units,
  feed,
  onSide,
}: {
  row: StockRow
  side: Side | undefined
  units: ReturnType<typeof usePreferences>['units']
  feed: ReturnType<typeof useFeed>
  onSide(side: Side | undefined): void
}) {
  const { wall, me } = useHere()
  const { state } = feed
  const photos = state.entries.filter((e) => e.entry.kind === 'photo' && live(state, e.entry.id))
  const [all, setAll] = useState(false)
  const has = SIDES.filter((s) => row.entries[s])
  const list = [...(side ? (row.entries[side] ?? []) : [...new Set(has.flatMap((s) => row.entries[s] ?? []))])].sort((a, b) => b.seq - a.seq)
  if (has.length === 0) return null
  const line = (e: RecordedEntry) => (
    <li key={e.entry.id}>
      {e.waiting ? '◌ not sent yet' : <Link href={entryHref(wall, e.seq)}>{e.seq}</Link>} · {dayWords(e.entry.at)} ·{' '}
      {lineOf(state, e.entry, { units })} · {e.entry.by.name}
      {e.entry.kind === 'delivery' && !e.waiting && me.role !== 'office' ? (
        <PhotosOf
          wall={wall}
          photos={photos.filter((p) => (p.entry.data as PhotoData).of === e.entry.id)}
          where={{}}
          of={e.entry.id}
          me={me.id}
          record={feed.record}
          label="Photo of its docket"
        />
      ) : null}
    </li>
  )
  return (
    <div>
      <Row style={{ gap: 6 }}>
        <Quiet onPress={() => onSide(undefined)} aria-pressed={side === undefined}>
          All
        </Quiet>
        {has.map((s) => (
          <Quiet key={s} onPress={() => onSide(s)} aria-pressed={side === s}>
            {side === s ? `● ${NAMES[s]}` : NAMES[s]}
          </Quiet>
        ))}
        <Link href={hrefOf(wall, 'units')}>Drawing and quantities</Link>
      </Row>
      <ul style={{ margin: '6px 0 0', paddingLeft: 18 }}>{(all ? list : list.slice(0, SHOWN)).map(line)}</ul>
      {list.length > SHOWN && !all ? <Quiet onPress={() => setAll(true)}>All {list.length}</Quiet> : null}
    </div>
  )
}
