import { type Kysely, sql } from 'kysely'

/**
 * Links by which somebody without an account decides on one hold point. Who was asked, and where the link went, stands in the record; here is
 * only what opens it. `decision` is the id the answer will have: a link that was used is one whose answer is in the record.
 */
export async function up(db: Kysely<never>) {
  await sql`
    CREATE TABLE outside_link (
      token_hash text PRIMARY KEY,
      wall_id uuid NOT NULL REFERENCES wall (id),
      request uuid NOT NULL,
      decision uuid NOT NULL,
      made_by text NOT NULL,
      made_at timestamptz NOT NULL DEFAULT now(),
      ends_at timestamptz NOT NULL
    )`.execute(db)
  await sql`CREATE UNIQUE INDEX outside_link_request ON outside_link (wall_id, request)`.execute(db)
  await sql`GRANT SELECT, INSERT, DELETE ON outside_link TO tally_app`.execute(db)
}
