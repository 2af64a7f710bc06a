// A wall of which somebody typed name, length, height and a unit: everything else has an answer, and none of them is one its own cautions speak of.
import { type CatalogueUnit, issued, layOut, SYSTEMS, say, type UnitSystem } from '@stone-tally/core'
import fc from 'fast-check'
import { afterUnit } from '@/features/plan/plan/chosen'
import { emptyDraft, planRead } from '@/features/plan/plan/draft'
import { textOf, withHeight } from '@/features/plan/plan/standing'

const CATALOGUE: readonly CatalogueUnit[] = SYSTEMS.flatMap((s) => s.units.map((unit) => ({ system: s.id, unit })))
/** What no default can know or take away, each with who can. */
const NOBODY_KNOWS: Readonly<Record<string, string>> = {
  holds: 'what stands around it is asked',
  'front-unsaid': 'the ground in front is asked',
  frost: 'the frost depth of the place is asked',
  guard: 'whether people come to the edge is asked',
  'ask-first': 'the authority or a competent person',
  engineer: 'an engineer, for its height',
  mass: 'what a unit of that size weighs',
  lips: 'how lips are knocked off, whoever does it',
  adhesive: 'what adhesive does not do',
  inside: 'an engineer’s figures of the mats',
  cut: 'what is never cut of a mat',
  bars: 'an engineer’s steel',
  green: 'how long a green wall is propped',
  table: 'the machine that comes',
  'picks-unproved': 'the papers of machine and gear',
}
const starts = fc.record({
  unit: fc.nat(),
  length: fc.integer({ min: 300, max: 2200 }).map((cm) => cm / 100),
  height: fc.integer({ min: 6, max: 30 }).map((n) => n / 20),
  units: fc.constantFrom<UnitSystem>('metric', 'imperial'),
})

test.each(SYSTEMS.map((s) => s.id))('%s: 200 quick starts of 3 to 22 m warn of nothing that a default could avoid', (id) => {
  const own = CATALOGUE.filter((c) => c.system === id)
  fc.assert(
    fc.property(starts, ({ unit, length, height, units }) => {
      const begun = { ...emptyDraft(units), name: 'Terrace', site: 'Yard', length: textOf(length, units) }
      const chosen = { ...begun, ...afterUnit(begun, CATALOGUE, own[unit % own.length]?.unit.id ?? '', units) }
      const plan = planRead(withHeight(chosen, textOf(height, units), units), units, CATALOGUE)
      if (!plan.ok) throw new Error(JSON.stringify(plan.problems))
      const laid = layOut(issued(plan.value))
      if (!laid.ok) throw new Error(JSON.stringify(laid.problems))
      // Where a pattern is cut by the ends that were typed its joints come close: another length is offered beside the field.
      const ends = id === 'pattern' ? ['bond'] : []
      const said = laid.value.cautions.filter((c) => !(c.id in NOBODY_KNOWS) && !ends.includes(c.id)).map((c) => `${c.id}: ${say(c.message, units)}`)
      expect(said).toEqual([])
    }),
    { numRuns: 200, endOnFailure: true },
  )
})
