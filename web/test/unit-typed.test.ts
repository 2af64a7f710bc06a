import { SYSTEMS, type UnitSystem } from '@stone-tally/core'
import { readUnit, typedUnit } from '../features/catalogue/unit-typed'

const listed = SYSTEMS.flatMap((s) => s.units.map((unit) => ({ system: s.id, unit, own: false })))

describe('a unit of the catalogue as it is typed', () => {
  test.each(['metric', 'imperial', 'decimal-feet'] as UnitSystem[])('opened in %s and saved, none changes by the last digit', (units) => {
    for (const start of listed) {
      const read = readUnit(typedUnit(start, units), start, units)
      expect(read.ok).toBe(true)
      if (!read.ok) continue
      for (const [k, v] of Object.entries(read.value.unit))
        if (typeof v === 'number') expect([start.unit.id, k, v]).toEqual([start.unit.id, k, start.unit[k as 'length']])
    }
  })
  test('what was changed is read in the units it was typed in', () => {
    const start = listed[0] as (typeof listed)[0]
    const typed = typedUnit(start, 'imperial')
    const read = readUnit({ ...typed, texts: { ...typed.texts, height: '8"' } }, start, 'imperial')
    expect(read.ok && read.value.unit.height).toBeCloseTo(0.2032, 6)
    expect(read.ok && read.value.unit.length).toBe(start.unit.length)
  })
  test('numbers that are none are said by the words of the form, all at once', () => {
    const start = listed[0] as (typeof listed)[0]
    const typed = typedUnit(start, 'metric')
    const read = readUnit({ ...typed, texts: { ...typed.texts, height: '', mass: 'heavy', capLength: '' } }, start, 'metric')
    expect(read.ok ? [] : read.problems.map((p) => p.field)).toEqual(['Height', 'Mass, kg'])
  })
})
