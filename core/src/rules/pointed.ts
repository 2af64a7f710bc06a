import type { RuleBook } from './book'
import { type InspectionPoint, POINTS, shippedPoint } from './points'

/** A plan that may carry the rules it is built by. */
interface Pointed {
  readonly book?: RuleBook | undefined
}
const effective = new WeakMap<RuleBook, ReadonlyMap<string, InspectionPoint>>()
function pointsOf(book: RuleBook): ReadonlyMap<string, InspectionPoint> {
  let found = effective.get(book)
  if (!found) {
    const why = new Map(book.set.map((s) => [s.rule, s.why]))
    const shipped = book.points.flatMap((p): InspectionPoint[] => {
      const own = shippedPoint(p.point)
      return own ? [{ ...own, kind: p.kind, roles: p.roles, own: p.own, reason: why.get(`point.${p.point}`) ?? own.reason }] : []
    })
    const added = book.added.map(
      (p): InspectionPoint => ({ id: p.id, title: p.title, kind: p.kind, roles: p.roles, own: p.own, reason: p.why, at: p.at }),
    )
    found = new Map([...shipped, ...added].map((p) => [p.id, p]))
    effective.set(book, found)
  }
  return found
}

/** A point as the rules of a plan have it. @example pointOf(plan, 'subgrade')?.kind // 'hold' */
export const pointOf = (plan: Pointed, id: string): InspectionPoint | undefined => (plan.book ? pointsOf(plan.book).get(id) : shippedPoint(id))
/** Every point of a plan's rules: the shipped ones in their order, then those added. @example pointsBy(plan).length */
export const pointsBy = (plan: Pointed): InspectionPoint[] => (plan.book ? [...pointsOf(plan.book).values()] : [...POINTS])
