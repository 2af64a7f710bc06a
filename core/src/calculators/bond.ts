import { said } from '../base/said'
import { type BondInput, bond, bondInput } from '../bond'
import { defineCalculator } from './calculator'

interface Output {
  pieces: readonly { length: number; kind: string }[]
  cuts: number
}

export const bondCalculator = defineCalculator<BondInput, Output>({
  name: 'bond',
  title: 'Running bond',
  purpose: 'The pieces of one course with the fewest cuts that keep off the joints below.',
  formula: 'every joint at least the overlap from every joint below; fewest cuts, then fewest halves',
  source: 'Exact search over the lengths that can occur.',
  schema: bondInput as never,
  example: {
    from: 0,
    to: 4.05,
    unit: { length: 0.45 },
    half: true,
    minPiece: 0.1,
    minOverlap: 0.1,
    below: [0.45, 0.9, 1.35, 1.8, 2.25, 2.7, 3.15, 3.6],
    endCuts: false,
  },
  labels: {
    from: ['From', 'length'],
    to: ['To', 'length'],
    unit: 'Unit',
    length: ['Length', 'length'],
    half: 'Half units are made',
    minPiece: ['Shortest piece', 'length'],
    minOverlap: ['Least overlap', 'length'],
    below: ['Joints below', 'length'],
    endCuts: 'Cut pieces at the ends',
  },
  run: bond as never,
  working: (i, o) => {
    let at = i.from
    const runs = o.pieces.map((p) => {
      const start = at
      at += p.length
      return { what: p.kind, how: `${said.given(start)} to ${said.given(at)}`, result: said.given(p.length) }
    })
    return [...runs, { what: 'Cuts', how: 'pieces that are neither full nor half', result: `${o.cuts}` }]
  },
})
