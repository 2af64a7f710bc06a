import { comesOut, formatLength, layOut, type UnitSystem } from '@stone-tally/core'
import { useMemo } from 'react'
import { Button, Row } from '@/ui/controls'
import type { PlanForm } from './use-plan-form'

/** From here on another unit is worth a word, m: a hand. */
const OFF = 0.1
/** A longer wall is not laid out once more for every unit while somebody types, m. */
const LONG = 60

/** What the rows make of the height that was asked; units of the same system that come nearer are offered. */
export function ComesOutLine({ of }: { of: PlanForm }) {
  const { layout, units } = of
  // A layout stands for all that was typed when it was made.
  // biome-ignore lint/correctness/useExhaustiveDependencies: as above
  const made = useMemo(() => {
    if (!layout || of.problems.length > 0) return undefined
    const out = comesOut(layout)
    const off = out.shows[1] - out.asked
    const others =
      off < OFF || layout.plan.length > LONG ? [] : of.offered.filter((c) => c.system === layout.plan.system.id && c.unit.id !== of.draft.part.unit)
    const nearer = others.flatMap(({ unit }) => {
      const plan = of.planOf(of.withUnit(unit.id))
      const laid = plan.ok ? layOut(plan.value) : undefined
      const shows = laid?.ok ? comesOut(laid.value).shows[1] : undefined
      return shows !== undefined && Math.abs(shows - out.asked) < off - OFF / 2 ? [{ unit, shows }] : []
    })
    return { ...out, nearer: nearer.sort((a, b) => Math.abs(a.shows - out.asked) - Math.abs(b.shows - out.asked)).slice(0, 2) }
  }, [layout, of.problems.length])
  if (!made) return null
  const l = (m: number) => formatLength(m, units as UnitSystem, 2)
  const [least, most] = made.shows
  return (
    <div role="status">
      <p style={{ margin: 0 }}>
        Asked {l(made.asked)}, comes out <strong>{l(most)}</strong>
        {most - least > OFF ? ` at most, ${l(least)} at least` : ''}: {made.rows} {made.rows === 1 ? 'row' : 'rows'}
        {made.buried > 0 ? `, ${made.buried} of them below the ground in front` : ''}.
      </p>
      {made.nearer.length > 0 ? (
        <Row style={{ marginTop: 8 }}>
          {made.nearer.map(({ unit, shows }) => (
            <Button key={unit.id} onPress={() => of.put(of.withUnit(unit.id))}>
              {unit.name}: comes out {l(shows)}
            </Button>
          ))}
        </Row>
      ) : null}
    </div>
  )
}
