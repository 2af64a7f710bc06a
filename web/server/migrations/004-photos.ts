import { type Kysely, sql } from 'kysely'

/** Photos beside the record: added, never changed. Their SHA-256 stands in the entry that shows them. */
export async function up(db: Kysely<never>) {
  await sql`
    CREATE TABLE photo (
      id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
      wall_id uuid NOT NULL REFERENCES wall (id),
      sha256 text NOT NULL,
      name text NOT NULL,
      type text NOT NULL,
      width integer NOT NULL,
      height integer NOT NULL,
      content bytea NOT NULL,
      thumb bytea NOT NULL,
      meta jsonb NOT NULL,
      added_by text NOT NULL,
      added_at timestamptz NOT NULL DEFAULT now(),
      UNIQUE (wall_id, sha256)
    )`.execute(db)
  // Pictures are compressed already.
  await sql`ALTER TABLE photo ALTER COLUMN content SET STORAGE EXTERNAL`.execute(db)
  await sql`CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON photo FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()`.execute(db)
  await sql`GRANT SELECT, INSERT ON photo TO tally_app`.execute(db)
}
