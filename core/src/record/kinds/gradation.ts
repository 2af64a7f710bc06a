import { fail, ok } from '../../base/result'
import { choice, type InferType, list, quantity, record, text } from '../../base/schema'
import { ROLES } from '../../rules'
import { defineKind } from './kind'

/** Sieve curve of the soil behind or of the drainage stone: size mm, passing per cent. */
export const gradationData = record({
  of: choice(['soil', 'stone'] as const),
  source: text(120),
  points: list(record({ size: quantity({ min: 0.0005, max: 500, unit: 'mm' }), passing: quantity({ min: 0, max: 100, unit: '%' }) }), 2, 40),
})
export type GradationData = InferType<typeof gradationData>

export const gradation = defineKind({
  kind: 'gradation',
  roles: ROLES,
  schema: gradationData,
  check(entry) {
    const sorted = [...entry.data.points].sort((a, b) => a.size - b.size)
    for (let i = 1; i < sorted.length; i++) {
      const [a, b] = [sorted[i - 1], sorted[i]] as [(typeof sorted)[number], (typeof sorted)[number]]
      const field = `data.points[${entry.data.points.indexOf(b)}]`
      if (a.size === b.size) return fail(`${field}.size`, `${b.size} mm is there twice`)
      if (b.passing < a.passing) return fail(`${field}.passing`, `less passes ${b.size} mm than ${a.size} mm`)
    }
    return ok(true)
  },
  line: (e) => `Gradation of the ${e.data.of} from ${e.data.source}: ${e.data.points.map((p) => `${p.passing} % < ${p.size} mm`).join(', ')}`,
})
