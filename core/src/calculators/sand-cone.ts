import { type SandConeInput, sandCone, sandConeInput } from '../ground'
import { defineCalculator, num } from './calculator'

interface Output {
  volume: number
  wetDensity: number
  dryDensity: number
  relativeCompaction: number
}

export const sandConeCalculator = defineCalculator<SandConeInput, Output>({
  name: 'sand-cone',
  title: 'Sand cone',
  purpose: 'Density of a lift in place from the sand that fills the hole its soil came out of.',
  formula: 'volume = (before − after − cone) ÷ sand density; dry = wet ÷ (1 + moisture/100)',
  source: 'Sand-cone method.',
  schema: sandConeInput as never,
  example: { massBefore: 6.5, massAfter: 2.9, coneMass: 1.62, sandDensity: 1430, soilMass: 2.87, moisture: 8.4, maximumDryDensity: 2017 },
  labels: {
    massBefore: 'Jar and sand before, kg',
    massAfter: 'Jar and sand after, kg',
    coneMass: 'Sand in cone and plate, kg',
    sandDensity: 'Density of the sand, kg/m³',
    soilMass: 'Soil out of the hole, kg',
    moisture: 'Moisture, %',
    maximumDryDensity: 'Maximum dry density, kg/m³',
  },
  run: sandCone,
  working: (i, o) => [
    { what: 'Hole', how: `(${i.massBefore} − ${i.massAfter} − ${i.coneMass}) ÷ ${i.sandDensity}`, result: `${num(o.volume * 1000)} litres` },
    { what: 'Wet density', how: `${i.soilMass} ÷ ${num(o.volume, 6)}`, result: `${num(o.wetDensity, 1)} kg/m³` },
    { what: 'Dry density', how: `${num(o.wetDensity, 1)} ÷ (1 + ${i.moisture}/100)`, result: `${num(o.dryDensity, 1)} kg/m³` },
    { what: 'Relative compaction', how: `${num(o.dryDensity, 1)} ÷ ${i.maximumDryDensity}`, result: `${num(o.relativeCompaction, 2)} %` },
  ],
})
