import { type Kysely, sql } from 'kysely'

/**
 * Checkpoints of the whole installation: every wall by id, company, name and length, signed and linked one to the next, so that a wall that is gone
 * with all of its record is missed by name.
 */
export async function up(db: Kysely<never>) {
  await sql`
    CREATE TABLE house_mark (
      number integer PRIMARY KEY CHECK (number > 0),
      day text NOT NULL,
      walls text NOT NULL,
      hash text NOT NULL,
      key text NOT NULL,
      signature text NOT NULL,
      made_at timestamptz NOT NULL DEFAULT now()
    )`.execute(db)
  // The small picture of a photo is in no sum of the record: it was held against the photo once, and this says so.
  await sql`
    CREATE TABLE thumb_mark (
      photo uuid NOT NULL REFERENCES photo (id) ON DELETE CASCADE,
      mark text NOT NULL,
      PRIMARY KEY (photo, mark)
    )`.execute(db)
  await sql`GRANT SELECT, INSERT ON thumb_mark TO tally_app`.execute(db)
  await sql`CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON house_mark FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()`.execute(
    db,
  )
  await sql`GRANT SELECT, INSERT ON house_mark TO tally_app`.execute(db)
}
