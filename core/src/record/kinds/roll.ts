import { type InferType, optionalText, quantity, record, text } from '../../base/schema'
import { withoutWord } from '../../base/typed'
import { ROLES } from '../../rules'
import { formatLength } from '../../units/length'
import { defineKind } from './kind'

/** A roll of geogrid on site; m. */
export const rollData = record({
  roll: text(60),
  lot: optionalText(60),
  type: text(60),
  width: quantity({ min: 0.3, max: 6, unit: 'm' }),
  length: quantity({ min: 0.5, max: 500, unit: 'm' }),
})
export type RollData = InferType<typeof rollData>

export const roll = defineKind({
  kind: 'roll',
  roles: ROLES,
  schema: rollData,
  line: (e, r) =>
    `Roll ${withoutWord('roll', e.data.roll)}${e.data.lot ? `, lot ${withoutWord('lot', e.data.lot)}` : ''} of ${e.data.type} on site, ${formatLength(e.data.length, r.units, 1)} by ${formatLength(e.data.width, r.units, 2)}`,
})
