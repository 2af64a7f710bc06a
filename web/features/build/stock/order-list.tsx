'use client'

import { type OrderLine, orderSheet, type Sheet, say, sheetCsv, type TruckDay } from '@stone-tally/core'
import styled from 'styled-components'
import { useHere, useRecord, type WallFeed } from '@/features/wall'
import { amountWords } from '@/ui/amounts'
import { Button, Caution, Problems, Quiet, Row } from '@/ui/controls'
import { dayWords, fullDay } from '@/ui/day-words'
import { usePreferences } from '@/ui/preferences'
import { save } from '@/ui/save'
import { Table } from '@/ui/table'
import { saveWorkbook } from '@/ui/workbook'

const Page = styled.section`display: grid; gap: 10px; td.n, th.n { text-align: right; white-space: nowrap; } .late { font-weight: 650; }`

const WANTED = 'Still wanted, nobody keeps account of it'

/** What must be ordered by when, by supplier: as a page, a file and a text for a mail. */
export function OrderList({
  orders,
  today,
  stock,
  trucks,
  record,
  children,
}: {
  orders: readonly OrderLine[]
  today: string
  /** How everything stands: it goes into the workbook beside the orders. */
  stock: Sheet
  trucks: readonly TruckDay[]
  record: WallFeed['record']
  children?: React.ReactNode
}) {
  const { name, me } = useHere()
  const { busy, problems, go } = useRecord(record)
  const mayOrder = me.role === 'foreman' || me.role === 'office'
  /** What the line says is what was ordered; another amount or day is recorded with the material itself. */
  const ordered = (o: OrderLine) =>
    go([
      {
        kind: 'ordered',
        where: {},
        data: {
          item: o.id,
          name: say(o.name, 'metric'),
          unit: o.unit,
          amount: o.amount,
          expected: o.arrive,
          ...(o.supplier ? { supplier: o.supplier } : {}),
        },
      },
    ])
  const { units } = usePreferences()
  const groupOf = (o: OrderLine) => (o.kept ? o.supplier || 'No supplier named' : WANTED)
  // What nobody keeps account of stands last.
  const suppliers = [...new Set(orders.map(groupOf))].sort((a, b) => Number(a === WANTED) - Number(b === WANTED) || (a < b ? -1 : 1))
  const priced = orders.some((o) => o.price !== undefined)
  const amount = (o: OrderLine) => amountWords(o.amount, o.unit, units)
  const mail = (supplier: string) =>
    [
      `${name}, order of ${today}`,
      '',
      ...orders.filter((o) => groupOf(o) === supplier).map((o) => `${amount(o)}  ${say(o.name, units)}  on site ${fullDay(o.arrive)}`),
    ].join('\n')
  const mass = (kg: number) => (units === 'metric' && kg >= 10_000 ? `${(kg / 1000).toFixed(1)} t` : amountWords(kg, 'kg', units))
  if (orders.length === 0)
    return (
      <>
        <p>Nothing has to be ordered: what is here and expected is enough for all that is left.</p>
        <Trucks list={trucks} mass={mass} />
        {children}
      </>
    )
  return (
    <>
      <h2 className="printed">
        {name}: to order, as of {fullDay(today)}
      </h2>
      <Row className="noprint">
        <Button onPress={() => window.print()}>Print</Button>
        <Button onPress={() => save(`${name} orders.csv`, 'text/csv', sheetCsv(orderSheet(orders)))}>Save as CSV</Button>
        <Button onPress={() => saveWorkbook(`${name} orders.xlsx`, [orderSheet(orders), stock])}>Save as workbook</Button>
      </Row>
      {suppliers.map((s) => (
        <Page key={s} aria-label={s}>
          <h2>{s}</h2>
          {s === WANTED ? <p>Whether it is here is not known. Take in what came, and say how it is bought: then it is ordered in time.</p> : null}
          <Table
            label={`Orders: ${s}`}
            rows={orders.filter((o) => groupOf(o) === s)}
            id={(o) => `${o.id} ${o.order} ${o.arrive}`}
            columns={[
              {
                head: 'Order by',
                cell: (o) => <span className={o.kept && o.order <= today ? 'late' : ''}>{o.order <= today ? 'today' : dayWords(o.order)}</span>,
              },
              { head: 'Material', cell: (o) => say(o.name, units) },
              { head: 'Amount', is: 'n', cell: amount },
              { head: 'Packs', is: 'n', cell: (o) => (o.packName ? `${o.packs} × ${o.packName}` : o.packs > 1 ? o.packs : '') },
              {
                head: 'On site',
                cell: (o) => (
                  <>
                    {dayWords(o.arrive)}
                    {o.late ? <strong> ▲ after it is needed</strong> : ''}
                  </>
                ),
              },
              { head: 'Comes as', is: 'wrap', cell: (o) => loadWords(o, mass) },
              ...(mayOrder
                ? [
                    {
                      head: 'Done',
                      cell: (o: OrderLine) => (
                        <Quiet
                          isDisabled={busy}
                          aria-label={`${say(o.name, units)} is ordered, on site ${dayWords(o.arrive)}`}
                          onPress={() => ordered(o)}
                        >
                          Ordered
                        </Quiet>
                      ),
                    },
                  ]
                : []),
              ...(priced
                ? [{ head: 'Value', is: 'n' as const, cell: (o: OrderLine) => (o.price === undefined ? '' : (o.price * o.amount).toFixed(2)) }]
                : []),
            ]}
          />
          {orders
            .filter((o) => groupOf(o) === s && o.load.wrong)
            .map((o) => (
              <Caution key={`${o.id} ${o.order} ${o.arrive} load`}>
                ▲ {say(o.name, units)}: {say(o.load.wrong ?? '', units)}
              </Caution>
            ))}
          <Row className="noprint">
            <Quiet onPress={() => navigator.clipboard?.writeText(mail(s)).catch(() => undefined)}>Copy as text for a mail</Quiet>
          </Row>
        </Page>
      ))}
      <Problems list={problems} />
      <Trucks list={trucks} mass={mass} />
      {children}
    </>
  )
}

/** How an order comes, in words: its mass, lorries and the way they need; rolls by their cut plan. */
function loadWords(o: OrderLine, mass: (kg: number) => string): string {
  const { load, rolls } = o
  return [
    load.mass === undefined ? '' : mass(load.mass),
    load.lorries !== undefined && load.lorries > 1 ? `${load.lorries} lorries` : '',
    load.access === undefined ? '' : `way of ${load.access} m`,
    rolls
      ? `${rolls.rolls} ${rolls.rolls === 1 ? 'roll' : 'rolls'} by the cut plan${rolls.rolls > rolls.bound ? `, no fewer than ${rolls.bound}` : ''}`
      : '',
  ]
    .filter(Boolean)
    .join('; ')
}

/** Truck by truck in the order in which units are set, with the day each is wanted. */
function Trucks({ list, mass }: { list: readonly TruckDay[]; mass(kg: number): string }) {
  if (list.length === 0) return null
  return (
    <Page>
      <h2>Trucks, in the order of setting</h2>
      <Table
        label="Trucks"
        rows={list}
        id={(t) => t.truck}
        columns={[
          { head: 'Truck', cell: (t) => t.truck },
          { head: 'Wanted', cell: (t) => dayWords(t.day ?? '') },
          {
            head: 'Units',
            cell: (t) => (
              <>
                {t.units}: {t.first === t.last ? t.first : `${t.first} to ${t.last}`}
              </>
            ),
          },
          { head: 'Mass', is: 'n', cell: (t) => mass(t.mass) },
        ]}
      />
    </Page>
  )
}
