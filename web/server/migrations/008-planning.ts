import { type Kysely, sql } from 'kysely'

/**
 * Walls put away and brought back, walls that were made up to try, templates of a company, and what a person has seen already. Nothing is ever
 * taken out of these: what was put away last counts, and a template that is not wanted any more is its next number without a plan.
 */
export async function up(db: Kysely<never>) {
  await sql`ALTER TABLE wall ADD COLUMN made_up boolean NOT NULL DEFAULT false`.execute(db)
  await sql`
    CREATE TABLE wall_shelf (
      wall_id uuid NOT NULL REFERENCES wall (id),
      number integer NOT NULL CHECK (number > 0),
      stands text NOT NULL CHECK (stands IN ('away', 'back', 'thrown')),
      why text NOT NULL,
      changed_by text NOT NULL,
      changed_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (wall_id, number)
    )`.execute(db)
  await sql`
    CREATE TABLE template (
      company_id uuid NOT NULL REFERENCES company (id),
      name text NOT NULL,
      number integer NOT NULL CHECK (number > 0),
      plan text,
      changed_by text NOT NULL,
      changed_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (company_id, name, number)
    )`.execute(db)
  await sql`
    CREATE TABLE seen (
      person_id text NOT NULL,
      what text NOT NULL,
      seen_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (person_id, what)
    )`.execute(db)
  for (const table of ['wall_shelf', 'template', 'seen']) {
    await sql`CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON ${sql.table(table)} FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()`.execute(
      db,
    )
    await sql`GRANT SELECT, INSERT ON ${sql.table(table)} TO tally_app`.execute(db)
  }
}
