import { alignmentOf, type EarlierPlan, SYSTEMS, type Unit, type Vertex } from '@stone-tally/core'
import { smallPlan } from './plans'

/** A unit of the catalogue by its id. */
export function unitNamed(id: string): Unit {
  const unit = SYSTEMS.flatMap((s) => s.units).find((u) => u.id === id)
  if (!unit) throw new Error(id)
  return unit
}

/** A wall along a line, its grades level unless given. */
export function planOn(vertices: readonly Vertex[], closed: boolean, change: Partial<EarlierPlan> = {}): EarlierPlan {
  const line = alignmentOf(vertices, closed)
  if (!line.ok) throw new Error(JSON.stringify(line.problems))
  const { length } = line.value
  return {
    ...smallPlan,
    unit: unitNamed('lug-200'),
    length,
    alignment: { vertices: vertices.map((v) => ({ easting: v.easting, northing: v.northing, bulge: v.bulge ?? 0 })), closed },
    grades: [
      { station: 0, toe: 10, top: 11.3 },
      { station: length, toe: 10, top: 11.3 },
    ],
    drain: { ...smallPlan.drain, outlets: [{ station: 0, invert: 9.6 }] },
    grid: [],
    sections: [{ id: 'A', from: 0, to: length }],
    ...change,
  }
}
export const at = (easting: number, northing: number, bulge = 0): Vertex => ({ easting, northing, bulge })
export const circle = (r: number) => [at(r, 0, 1), at(-r, 0, 1)]
