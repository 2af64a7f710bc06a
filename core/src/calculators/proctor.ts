import { said } from '../base/said'
import { type Curve, GRAINS, type ProctorInput, proctor, proctorInput, zeroAirVoids } from '../ground'
import { defineCalculator, num } from './calculator'

export const proctorCalculator = defineCalculator<ProctorInput, Curve>({
  name: 'proctor',
  title: 'Compaction curve',
  purpose: 'Optimum moisture and maximum dry density of a soil from its laboratory points.',
  formula: 'least-squares parabola through the points; its top is the optimum',
  source: 'Proctor 1933; zero air voids Gs·ρw / (1 + w·Gs/100).',
  schema: proctorInput as never,
  example: {
    points: [
      { moisture: 6, dryDensity: 1905 },
      { moisture: 8, dryDensity: 1990 },
      { moisture: 10, dryDensity: 2015 },
      { moisture: 12, dryDensity: 1960 },
    ],
  },
  labels: {
    points: 'Points',
    moisture: 'Moisture, %',
    dryDensity: ['Dry density', 'density'],
    gs: 'Specific gravity of grains (2.70 when left out)',
  },
  run: proctor,
  working: (i, o) => [
    { what: 'Points', how: `${i.points.length} points, none above the zero-air-voids line`, result: 'a curve with a top' },
    { what: 'Optimum moisture', how: 'top of the parabola', result: `${num(o.optimumMoisture)} %` },
    { what: 'Maximum dry density', how: 'height of the top', result: said.density(o.maximumDryDensity) },
    {
      what: 'Zero air voids there',
      how: `${i.gs ?? GRAINS} × ${said.density(1000)} ÷ (1 + ${num(o.optimumMoisture)}·${i.gs ?? GRAINS} ÷ 100)`,
      result: said.density(zeroAirVoids(o.optimumMoisture, i.gs ?? GRAINS)),
    },
  ],
})
