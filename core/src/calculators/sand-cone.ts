import { said } from '../base/said'
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
    massBefore: ['Jar and sand before', 'mass'],
    massAfter: ['Jar and sand after', 'mass'],
    coneMass: ['Sand in cone and plate', 'mass'],
    sandDensity: ['Density of the sand', 'density'],
    soilMass: ['Soil out of the hole', 'mass'],
    moisture: 'Moisture, %',
    maximumDryDensity: ['Maximum dry density', 'density'],
  },
  run: sandCone,
  working: (i, o) => [
    {
      what: 'Hole',
      how: `(${said.mass(i.massBefore)} − ${said.mass(i.massAfter)} − ${said.mass(i.coneMass)}) ÷ ${said.density(i.sandDensity)}`,
      result: said.volume(o.volume),
    },
    { what: 'Wet density', how: `${said.mass(i.soilMass)} ÷ ${said.volume(o.volume)}`, result: said.density(o.wetDensity) },
    { what: 'Dry density', how: `${said.density(o.wetDensity)} ÷ (1 + ${i.moisture}/100)`, result: said.density(o.dryDensity) },
    {
      what: 'Relative compaction',
      how: `${said.density(o.dryDensity)} ÷ ${said.density(i.maximumDryDensity)}`,
      result: `${num(o.relativeCompaction, 2)} %`,
    },
  ],
})
