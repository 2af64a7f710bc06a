import { type Kysely, sql } from 'kysely'

/**
 * What devices need of the house: photos that arrive in pieces (let go once they are whole), sessions that were ended by the office, what
 * was taken off a device that was signed out (added, never changed), and how a wall looks at the end of its record.
 */
export async function up(db: Kysely<never>) {
  await sql`
    CREATE TABLE photo_piece (
      wall_id uuid NOT NULL REFERENCES wall (id),
      upload uuid NOT NULL,
      person text NOT NULL,
      at integer NOT NULL CHECK (at >= 0),
      bytes bytea NOT NULL,
      received_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (wall_id, person, upload, at)
    )`.execute(db)
  await sql`ALTER TABLE photo_piece ALTER COLUMN bytes SET STORAGE EXTERNAL`.execute(db)
  await sql`GRANT SELECT, INSERT, DELETE ON photo_piece TO tally_app`.execute(db)

  await sql`
    CREATE TABLE ended_session (
      token_hash text PRIMARY KEY,
      person text NOT NULL,
      company_id uuid NOT NULL REFERENCES company (id),
      ended_by text NOT NULL,
      ended_at timestamptz NOT NULL DEFAULT now()
    )`.execute(db)
  await sql`GRANT SELECT, INSERT ON ended_session TO tally_app`.execute(db)

  await sql`
    CREATE TABLE set_aside (
      wall_id uuid NOT NULL REFERENCES wall (id),
      id uuid NOT NULL,
      person text NOT NULL,
      body text NOT NULL,
      came_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (wall_id, id)
    )`.execute(db)
  await sql`CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON set_aside FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()`.execute(
    db,
  )
  await sql`GRANT SELECT, INSERT ON set_aside TO tally_app`.execute(db)

  // Made from the record at will and never trusted over it: this alone may be written over.
  await sql`
    CREATE TABLE glimpse (
      wall_id uuid PRIMARY KEY REFERENCES wall (id),
      seq integer NOT NULL,
      hash text NOT NULL,
      made_by text NOT NULL,
      body text NOT NULL
    )`.execute(db)
  await sql`GRANT SELECT, INSERT, UPDATE ON glimpse TO tally_app`.execute(db)
}
