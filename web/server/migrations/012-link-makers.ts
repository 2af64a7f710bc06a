import { type Kysely, sql } from 'kysely'

/**
 * Who made a one-time link, by id: it dies with the right of who made it. Links of before are given to the one person of their company who has
 * that name; what an operator made has no maker. `id` names a link to be withdrawn, so that nothing that opens one is ever shown.
 */
export async function up(db: Kysely<never>) {
  await sql`ALTER TABLE one_time_link ADD COLUMN id uuid NOT NULL DEFAULT gen_random_uuid(), ADD COLUMN maker text`.execute(db)
  await sql`
    UPDATE one_time_link AS l SET maker = u.id FROM (
      SELECT min(id) AS id, name, "companyId" FROM "user" GROUP BY name, "companyId" HAVING count(*) = 1
    ) AS u WHERE u.name = l.made_by AND u."companyId" = l.company_id::text`.execute(db)
  // A name that several have tells nobody apart: such a link is asked for anew.
  await sql`
    DELETE FROM one_time_link AS l WHERE l.maker IS NULL AND l.used_at IS NULL AND EXISTS (
      SELECT 1 FROM "user" AS u WHERE u.name = l.made_by AND u."companyId" = l.company_id::text)`.execute(db)
  await sql`CREATE INDEX one_time_link_company ON one_time_link (company_id)`.execute(db)
}
