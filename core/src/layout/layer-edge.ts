import type { Plan } from '../plan'
import { limitsOf, schoolBy, setByPlan, since } from '../rules'
import { buildingOf } from '../systems'

/** What is within reach of the face, and of a lip, m. */
const CLOSE = 0.025
/** Forms of units that grip a layer up to their face. */
const FLAT_FORMS: ReadonlySet<string> = new Set(['tongue-groove', 'pattern', 'landscape'])

/**
 * Where the front edge of a layer lies, m behind the face: as the drawing says, else as the school of the wall has it, which may leave it to the
 * unit. Before rule table 3 by the limits alone.
 *
 * @example layerEdge(plan, 2) // { least: 0.025, most: 0.05 }
 */
export function layerEdge(plan: Plan, course: number): { readonly least: number; readonly most: number } {
  const { gridFrontMin, gridFrontMax } = limitsOf(plan)
  const asRuled = { least: gridFrontMin.value, most: gridFrontMax.value }
  const own = plan.book?.set.some((s) => s.rule === 'limit.gridFrontMin' || s.rule === 'limit.gridFrontMax')
  if (!since(plan, 3) || own || setByPlan(plan, 'gridFrontMin') || setByPlan(plan, 'gridFrontMax')) return asRuled
  const { form, depth } = buildingOf(plan).course(Math.max(1, course))
  const school = schoolBy(plan, 'layer-edge')
  const by = school === 'by-unit' ? (form !== undefined && FLAT_FORMS.has(form) ? 'flush' : 'behind') : school
  if (by === 'flush') return { least: 0, most: CLOSE }
  // The lip hangs over the back of the unit below: the edge lies in front of it, hard against it.
  return by === 'lip' ? { least: Math.max(0, depth - 2 * CLOSE), most: depth } : asRuled
}
