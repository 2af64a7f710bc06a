import { said } from '../base/said'
import { type TruckLoad, type TruckLoadsInput, truckLoads, truckLoadsInput } from '../bond'
import { defineCalculator } from './calculator'

export const truckLoadsCalculator = defineCalculator<TruckLoadsInput, { loads: TruckLoad[]; count: number }>({
  name: 'truck-loads',
  title: 'Truck loads',
  purpose: 'Units brought in the order in which they are set: which come together, on the fewest trucks.',
  formula: 'a truck takes the next units while their mass and number stay within what it carries',
  source: 'Consecutive runs filled first truck first are the fewest there can be.',
  schema: truckLoadsInput as never,
  example: { units: [800, 800, 400, 1100, 1100].map((mass) => ({ mass })), capacity: { mass: 2000, count: 3 } },
  labels: {
    units: 'Units in setting order',
    'units.mass': ['Mass', 'mass'],
    capacity: 'The truck',
    'capacity.mass': ['A truck carries', 'mass'],
    'capacity.count': 'Units on a truck',
  },
  run: truckLoads,
  working: (i, o) => [
    { what: 'All units', how: `${i.units.length} units`, result: said.mass(i.units.reduce((n, u) => n + u.mass, 0)) },
    ...o.loads.slice(0, 12).map((l, k) => ({
      what: `Truck ${k + 1}`,
      how: l.from === l.to ? `unit ${l.from + 1}` : `units ${l.from + 1} to ${l.to + 1}`,
      result: said.mass(l.mass),
    })),
    ...(o.loads.length > 12 ? [{ what: 'and so on', how: `${o.loads.length - 12} more`, result: `${o.count} trucks` }] : []),
  ],
})
