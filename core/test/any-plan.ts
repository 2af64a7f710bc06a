import type { EarlierPlan as Plan } from '@stone-tally/core'
import fc from 'fast-check'
import { smallPlan } from './plans'

/** Plans a person could make: any length, grades that rise and fall, one to three sections, a few layers. */
export const plans = fc
  .record({
    length: fc.integer({ min: 30, max: 400 }),
    rises: fc.array(fc.integer({ min: -8, max: 8 }), { minLength: 1, maxLength: 4 }),
    height: fc.integer({ min: 6, max: 25 }),
    parts: fc.integer({ min: 1, max: 3 }),
    layers: fc.uniqueArray(fc.integer({ min: 1, max: 8 }), { maxLength: 3 }),
    run: fc.integer({ min: 0, max: 20 }),
  })
  .map(({ length, rises, height, parts, layers, run }): Plan => {
    const metres = length / 10
    let toe = 10
    const grades = [{ station: 0, toe, top: toe + height / 10 }]
    rises.forEach((r, i) => {
      toe = Math.round((toe + r / 10) * 1000) / 1000
      grades.push({ station: Math.round(((metres * (i + 1)) / rises.length) * 1000) / 1000, toe, top: Math.round((toe + height / 10) * 1000) / 1000 })
    })
    return {
      ...smallPlan,
      length: metres,
      grades,
      pad: { ...smallPlan.pad, minRun: run / 10 },
      drain: { ...smallPlan.drain, outlets: [{ station: metres, invert: 9 }] },
      grid: layers.map((course) => ({ course, length: 1.2, type: 'uniaxial 30' })),
      sections: Array.from({ length: parts }, (_, i) => ({
        id: String.fromCharCode(65 + i),
        from: (metres * i) / parts,
        to: (metres * (i + 1)) / parts,
      })),
    }
  })
