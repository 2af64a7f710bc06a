import { type Kysely, sql } from 'kysely'

/** What a company and its sites change of the shipped rules: each change a whole set under the next number, with author and reason, kept for ever. */
export async function up(db: Kysely<never>) {
  await sql`
    CREATE TABLE rule_set (
      company_id uuid NOT NULL REFERENCES company (id),
      level text NOT NULL CHECK (level IN ('company', 'site')),
      site text NOT NULL CHECK ((level = 'company') = (site = '')),
      number integer NOT NULL CHECK (number > 0),
      rules text NOT NULL,
      reason text NOT NULL,
      changed_by text NOT NULL,
      changed_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (company_id, level, site, number)
    )`.execute(db)
  await sql`CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON rule_set FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()`.execute(
    db,
  )
  await sql`GRANT SELECT, INSERT ON rule_set TO tally_app`.execute(db)
}
