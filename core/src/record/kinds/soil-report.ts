import { said } from '../../base/said'
import { choice, type InferType, quantity, record, text } from '../../base/schema'
import { defineKind } from './kind'

/** Values of a soil report, entered once with their source: degrees, kN/m³, kPa. */
export const soilReportData = record({
  zone: choice(['retained', 'reinforced', 'foundation'] as const),
  phi: quantity({ min: 0, max: 50, unit: '°' }),
  gamma: quantity({ min: 8, max: 30, unit: 'kN/m³' }),
  c: quantity({ min: 0, max: 500, unit: 'kPa' }),
  source: text(160),
})
export type SoilReportData = InferType<typeof soilReportData>
export const soilReport = defineKind({
  kind: 'soil-report',
  roles: ['foreman', 'inspector', 'office'],
  schema: soilReportData,
  line: ({ data: d }) => `Soil report, ${d.zone} soil: ${d.phi}°, ${said.weight(d.gamma)}, ${said.pressure(d.c)} (${d.source})`,
})
