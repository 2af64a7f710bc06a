import { type Kysely, sql } from 'kysely'

/** How walls stand in the Yard. Made from the record at will and never trusted over it: it may be written over. */
export async function up(db: Kysely<never>) {
  await sql`
    CREATE TABLE overview (
      wall_id uuid PRIMARY KEY REFERENCES wall (id),
      seq integer NOT NULL,
      hash text NOT NULL,
      made_by text NOT NULL,
      made_at timestamptz NOT NULL,
      body text NOT NULL
    )`.execute(db)
  await sql`GRANT SELECT, INSERT, UPDATE ON overview TO tally_app`.execute(db)
}
