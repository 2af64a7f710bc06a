import { type Kysely, sql } from 'kysely'

/** The latest moment each device has recorded of on a wall, by the clock of the house: what is said to be older and comes later was kept back. */
export async function up(db: Kysely<never>) {
  await sql`
    CREATE TABLE device_clock (
      session_id text NOT NULL REFERENCES session (id) ON DELETE CASCADE,
      wall_id uuid NOT NULL REFERENCES wall (id),
      newest timestamptz NOT NULL,
      PRIMARY KEY (session_id, wall_id)
    )`.execute(db)
  await sql`GRANT SELECT, INSERT, UPDATE ON device_clock TO tally_app`.execute(db)
}
