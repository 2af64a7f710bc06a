import { type Kysely, sql } from 'kysely'

/** Units a company made or changed. A unit of the shipped catalogue is overridden by one with its id, and may be left out. */
export async function up(db: Kysely<never>) {
  await sql`
    CREATE TABLE catalogue_unit (
      company_id uuid NOT NULL REFERENCES company (id) ON DELETE CASCADE,
      id text NOT NULL,
      system text NOT NULL,
      unit jsonb NOT NULL,
      left_out boolean NOT NULL DEFAULT false,
      changed_at timestamptz NOT NULL DEFAULT now(),
      changed_by text NOT NULL,
      PRIMARY KEY (company_id, id)
    )`.execute(db)
  await sql`GRANT SELECT, INSERT, UPDATE ON catalogue_unit TO tally_app`.execute(db)
}
