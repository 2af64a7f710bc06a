import { type Order, type StockPlanInput, stockPlan, stockPlanInput } from '../stock'
import { defineCalculator, num } from './calculator'

export const stockPlanCalculator = defineCalculator<StockPlanInput, { orders: Order[]; end: number }>({
  name: 'stock-plan',
  title: 'Order by',
  purpose: 'What must be ordered by when, in whole packs, so that the crew never meets less than the reserve.',
  formula: 'left = on hand + come by then + ordered − used; below the reserve, whole packs are ordered a lead time before',
  source: 'Reorder point with lead time and pack size.',
  schema: stockPlanInput as never,
  example: {
    onHand: 40,
    reserve: 10,
    needs: [
      { day: 2, amount: 35 },
      { day: 5, amount: 60 },
    ],
    lead: 3,
    pack: 60,
    today: 0,
  },
  labels: {
    onHand: 'On hand',
    reserve: 'Reserve, never less',
    needs: 'Needs in order of day',
    'needs.day': 'On day',
    'needs.amount': 'Amount',
    expected: 'Ordered already',
    'expected.day': 'Comes on day',
    'expected.amount': 'Amount',
    lead: 'Comes after, days',
    pack: 'Sold in packs of',
    today: 'Today is day',
  },
  run: stockPlan,
  working: (i, o) => [
    ...o.orders.slice(0, 12).map((r) => ({
      what: `Order on day ${num(r.order)}`,
      how: `${num(r.amount / i.pack)} × ${num(i.pack)}, there on day ${num(r.arrive)}`,
      result: r.late ? `${num(r.amount)}, too late for its need` : num(r.amount),
    })),
    ...(o.orders.length > 12 ? [{ what: 'and so on', how: `${o.orders.length - 12} more orders`, result: '' }] : []),
    { what: 'Left after all', how: 'on hand + come + ordered − used', result: num(o.end) },
  ],
})
