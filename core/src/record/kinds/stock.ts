import { fail, ok } from '../../base/result'
import { choice, type InferType, optionalText, record } from '../../base/schema'
import { amountOf, amountSaid, itemShape } from '../item'
import { BUILDERS, defineKind } from './kind'

/** What happens to material besides coming and being built in. */
export const STOCK_CHANGES = [
  ['counted', 'Counted: so much is left'],
  ['damaged', 'Broken or spoiled'],
  ['moved-out', 'Taken to another wall'],
  ['moved-in', 'Brought from another wall'],
] as const
const CHANGES = STOCK_CHANGES.map(([id]) => id)

export const stockData = record({
  ...itemShape,
  amount: amountOf(),
  what: choice(CHANGES),
  /** The other wall, in words. */
  other: optionalText(120),
  why: optionalText(200),
})
export type StockData = InferType<typeof stockData>

export const stock = defineKind({
  kind: 'stock',
  roles: BUILDERS,
  schema: stockData,
  check({ data: d }) {
    if (d.what !== 'counted' && !(d.amount > 0)) return fail('data.amount', 'must be more than nothing')
    if (d.what.startsWith('moved') && !d.other?.trim())
      return fail('data.other', `is missing; name the wall it ${d.what === 'moved-out' ? 'goes to' : 'comes from'}`)
    if (d.what === 'damaged' && !d.why?.trim()) return fail('data.why', 'is missing; say what happened to it')
    return ok(true)
  },
  line({ data: d }) {
    const amount = `${amountSaid(d.amount, d.unit)} ${d.name}`
    const why = d.why ? `: ${d.why}` : ''
    if (d.what === 'counted') return `Counted: ${amount} left${why}`
    if (d.what === 'damaged') return `Broken or spoiled: ${amount}${why}`
    return `${d.what === 'moved-out' ? 'Taken' : 'Brought'}: ${amount} ${d.what === 'moved-out' ? 'to' : 'from'} ${d.other}${why}`
  },
})
