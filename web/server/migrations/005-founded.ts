import { type Kysely, sql } from 'kysely'

/** The company that was founded on the first page: one row at most, so that two at once cannot both be first. */
export async function up(db: Kysely<never>) {
  await sql`
    CREATE TABLE founded (
      one boolean PRIMARY KEY DEFAULT true CHECK (one),
      company_id uuid NOT NULL REFERENCES company (id) ON DELETE CASCADE
    )`.execute(db)
  await sql`GRANT SELECT, INSERT ON founded TO tally_app`.execute(db)
}
