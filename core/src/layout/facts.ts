import { exposedHeight } from '../plan'
import type { WallFacts } from '../rules'
import type { Layout } from './layout'

/** The ground in front counts as falling away from this slope on, m down per m out. */
const FALLS = 0.1

/**
 * What is known of a wall when a school of practice is recommended.
 *
 * @example choiceDef('adhesive')?.recommend?.(wallFacts(layout))
 */
export function wallFacts({ plan, building, steps, courses }: Pick<Layout, 'plan' | 'building' | 'steps' | 'courses'>): WallFacts {
  const { holds = [] } = plan
  const { foundation, drain } = building
  const unit = building.course(1)
  const outlet = Math.min(...(drain?.outlets ?? []).map((o) => o.invert))
  const lowest = Math.min(...steps.map((s) => s.elevation))
  return {
    height: exposedHeight(plan),
    unit: { height: unit.height, length: unit.length, mass: unit.mass, profile: unit.form, hollow: unit.hollow },
    courses: new Set(courses.map((c) => c.course)).size,
    pad: foundation.kind,
    drains: outlet < lowest - foundation.thickness + 1e-6,
    frost: plan.frost,
    slope: holds.includes('slope'),
    load: holds.includes('load') || holds.includes('structure') || holds.includes('tier'),
    engineered: plan.engineer !== undefined && plan.engineer !== '',
    weakToe: (plan.front?.slope ?? 0) > FALLS || plan.front?.erodible === true,
  }
}
