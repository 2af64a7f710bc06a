'use client'

import { type OrderLine, orderCsv } from '@stone-tally/core'
import styled from 'styled-components'
import { useHere } from '@/features/wall'
import { amountWords } from '@/ui/amounts'
import { Button, Quiet, Row, Wide } from '@/ui/controls'
import { dayWords } from '@/ui/day-words'
import { usePreferences } from '@/ui/preferences'
import { save } from '@/ui/save'

const Sheet = styled.section`display: grid; gap: 10px; td.n, th.n { text-align: right; white-space: nowrap; } .late { font-weight: 650; } @media print { .noprint { display: none; } }`

const WANTED = 'Still wanted, nobody keeps account of it'

/** What must be ordered by when, by supplier: as a page, a file and a text for a mail. */
export function OrderList({ orders, today }: { orders: readonly OrderLine[]; today: string }) {
  const { name } = useHere()
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
      ...orders.filter((o) => groupOf(o) === supplier).map((o) => `${amount(o)}  ${o.name}  on site ${o.arrive}`),
    ].join('\n')
  if (orders.length === 0) return <p>Nothing has to be ordered: what is here and expected is enough for all that is left.</p>
  return (
    <>
      <Row className="noprint">
        <Button onPress={() => window.print()}>Print</Button>
        <Button onPress={() => save(`${name} orders.csv`, 'text/csv', orderCsv(orders))}>Save as CSV</Button>
      </Row>
      {suppliers.map((s) => (
        <Sheet key={s} aria-label={s}>
          <h2>{s}</h2>
          {s === WANTED ? <p>Whether it is here is not known. Take in what came, and say how it is bought: then it is ordered in time.</p> : null}
          <Wide>
            <table>
              <thead>
                <tr>
                  <th>Order by</th>
                  <th>Material</th>
                  <th className="n">Amount</th>
                  <th className="n">Packs</th>
                  <th>On site</th>
                  {priced ? <th className="n">Value</th> : null}
                </tr>
              </thead>
              <tbody>
                {orders
                  .filter((o) => groupOf(o) === s)
                  .map((o) => (
                    <tr key={`${o.id} ${o.order} ${o.arrive}`}>
                      <td className={o.kept && o.order <= today ? 'late' : ''}>{o.order <= today ? 'today' : dayWords(o.order)}</td>
                      <td>{o.name}</td>
                      <td className="n">{amount(o)}</td>
                      <td className="n">{o.packName ? `${o.packs} × ${o.packName}` : o.packs > 1 ? o.packs : ''}</td>
                      <td>
                        {dayWords(o.arrive)}
                        {o.late ? <strong> ▲ after it is needed</strong> : ''}
                      </td>
                      {priced ? <td className="n">{o.price === undefined ? '' : (o.price * o.amount).toFixed(2)}</td> : null}
                    </tr>
                  ))}
              </tbody>
            </table>
          </Wide>
          <Row className="noprint">
            <Quiet onPress={() => navigator.clipboard?.writeText(mail(s)).catch(() => undefined)}>Copy as text for a mail</Quiet>
          </Row>
        </Sheet>
      ))}
    </>
  )
}
