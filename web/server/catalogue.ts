import {
  type CatalogueUnit,
  canonical,
  fail,
  failAll,
  ok,
  type Problem,
  type Result,
  read,
  SYSTEMS,
  systemOf,
  type Unit,
  unitSchema,
} from '@stone-tally/core'
import type { Person } from './accounts'
import { database } from './database'
import { mayPlan } from './walls'

/** A unit as it stands in a company's catalogue. */
export interface Listed extends CatalogueUnit {
  /** Made or changed by this company. */
  readonly own: boolean
}

/** Units of a company: those that ship with the application, overridden by its own. */
export async function catalogueOf(companyId: string): Promise<Listed[]> {
  const rows = await database().db.selectFrom('catalogue_unit').selectAll().where('company_id', '=', companyId).orderBy('id').execute()
  const own = new Map(rows.map((r) => [r.id, r]))
  const shipped = SYSTEMS.flatMap((s) => s.units.map((unit) => ({ system: s.id, unit, own: false })))
  const ids = new Set(shipped.map((u) => u.unit.id))
  const listed = (r: (typeof rows)[number]): Listed => ({ system: r.system, unit: r.unit as Unit, own: true })
  return [
    ...shipped.flatMap((u) => {
      const r = own.get(u.unit.id)
      return r ? (r.left_out ? [] : [listed(r)]) : [u]
    }),
    ...rows.filter((r) => !ids.has(r.id) && !r.left_out).map(listed),
  ]
}

/** Puts units into the catalogue, all or none; walls keep the units they were planned with. */
export async function putUnits(person: Person, values: readonly { system: unknown; unit: unknown }[]): Promise<Result<number>> {
  if (!mayPlan(person)) return fail('role', 'the catalogue is kept by the foreman or the office')
  if (values.length === 0 || values.length > 500) return fail('units', 'give 1 to 500 units')
  const problems: Problem[] = []
  const good: CatalogueUnit[] = []
  for (const [i, v] of values.entries()) {
    const at = `units[${i}]`
    if (typeof v.system !== 'string' || !systemOf(v.system)) {
      problems.push({ field: `${at}.system`, message: 'is not a system of this application' })
      continue
    }
    const unit = read(unitSchema, v.unit, `${at}.unit`)
    if (unit.ok) good.push({ system: v.system, unit: unit.value })
    else problems.push(...unit.problems)
  }
  if (problems.length > 0) return failAll(problems)
  await database()
    .db.insertInto('catalogue_unit')
    .values(
      good.map((g) => ({
        company_id: person.companyId,
        id: g.unit.id,
        system: g.system,
        unit: canonical(g.unit),
        left_out: false,
        changed_by: person.name,
      })),
    )
    .onConflict((c) =>
      c.columns(['company_id', 'id']).doUpdateSet((e) => ({
        system: e.ref('excluded.system'),
        unit: e.ref('excluded.unit'),
        left_out: false,
        changed_at: new Date(),
        changed_by: e.ref('excluded.changed_by'),
      })),
    )
    .execute()
  return ok(good.length)
}

/** Takes a unit out of the catalogue. Nothing is deleted: putting it again brings it back. */
export async function leaveOut(person: Person, id: string): Promise<Result<true>> {
  if (!mayPlan(person)) return fail('role', 'the catalogue is kept by the foreman or the office')
  const listed = (await catalogueOf(person.companyId)).find((u) => u.unit.id === id)
  if (!listed) return fail('id', `"${id}" is not in the catalogue`)
  await database()
    .db.insertInto('catalogue_unit')
    .values({ company_id: person.companyId, id, system: listed.system, unit: canonical(listed.unit), left_out: true, changed_by: person.name })
    .onConflict((c) => c.columns(['company_id', 'id']).doUpdateSet({ left_out: true, changed_at: new Date(), changed_by: person.name }))
    .execute()
  return ok(true)
}
