import { said } from '../base/said'
import { type EmbedmentInput, embedment, embedmentInput } from '../rules'
import { defineCalculator } from './calculator'

const NAMES = { fixed: 'fixed minimum', perHeight: 'fixed plus an allowance per height', fraction: 'fraction of height', courses: 'whole courses' }

export const embedmentCalculator = defineCalculator<EmbedmentInput, { depth: number; governing: number; courses: number }>({
  name: 'embedment',
  title: 'Embedment',
  purpose: 'How deep the wall is buried in front: the largest of the rules that apply.',
  formula: 'fixed; base + per metre × height; fraction × height; count × unit height: the largest governs',
  source: 'Schools of practice; an approved plan or local code overrides.',
  schema: embedmentInput as never,
  example: {
    exposedHeight: 1.8,
    unitHeight: 0.2,
    rules: [
      { kind: 'fixed', depth: 0.15 },
      { kind: 'fraction', fraction: 0.1 },
    ],
  } as EmbedmentInput,
  labels: {
    exposedHeight: ['Visible height', 'length'],
    unitHeight: ['Unit height', 'length'],
    rules: 'Rules',
    kind: 'Rule',
    depth: ['Depth', 'length'],
    base: ['Base', 'length'],
    perMetre: 'Share of the height added',
    fraction: 'Fraction',
    count: 'Courses',
  },
  run: embedment,
  working: (i, o) => {
    const rule = i.rules[o.governing]
    return [
      { what: 'Governing rule', how: rule ? `${o.governing + 1}: ${NAMES[rule.kind]}` : '', result: said.given(o.depth) },
      { what: 'Whole courses to bury', how: `${said.given(o.depth)} ÷ ${said.given(i.unitHeight)}, rounded up`, result: `${o.courses}` },
    ]
  },
})
