import { type Kysely, sql } from 'kysely'

/**
 * What makes the house one that is trusted: checkpoints of every record, what looking at the records found, who looked at what was found, which
 * revision a device was given, invitations and one-time links, passkeys, places a person signs in from, and a log of all that concerns security.
 * Only what serves a moment is ever changed or taken out: links that were used, counters of passkeys, places that are forgotten.
 */
export async function up(db: Kysely<never>) {
  await sql`
    CREATE TABLE checkpoint (
      wall_id uuid NOT NULL REFERENCES wall (id),
      seq integer NOT NULL CHECK (seq > 0),
      day text NOT NULL,
      hash text NOT NULL,
      key text NOT NULL,
      signature text NOT NULL,
      made_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (wall_id, seq)
    )`.execute(db)
  await sql`
    CREATE TABLE house_check (
      number integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
      began_at timestamptz NOT NULL,
      ended_at timestamptz NOT NULL DEFAULT now(),
      walls integer NOT NULL,
      entries integer NOT NULL,
      photos integer NOT NULL,
      faults integer NOT NULL
    )`.execute(db)
  await sql`
    CREATE TABLE record_fault (
      wall_id uuid NOT NULL REFERENCES wall (id),
      number integer NOT NULL CHECK (number > 0),
      seq integer NOT NULL,
      fault text NOT NULL,
      message text NOT NULL,
      found_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (wall_id, number)
    )`.execute(db)
  await sql`
    CREATE TABLE fault_look (
      wall_id uuid NOT NULL REFERENCES wall (id),
      number integer NOT NULL,
      person text NOT NULL,
      name text NOT NULL,
      role text NOT NULL,
      words text NOT NULL,
      looked_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (wall_id, number),
      FOREIGN KEY (wall_id, number) REFERENCES record_fault (wall_id, number)
    )`.execute(db)
  await sql`
    CREATE TABLE security_log (
      number bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
      at timestamptz NOT NULL DEFAULT now(),
      company_id uuid,
      what text NOT NULL,
      person text,
      name text,
      network text NOT NULL,
      detail text NOT NULL
    )`.execute(db)
  await sql`CREATE INDEX security_log_company ON security_log (company_id, number DESC)`.execute(db)
  await sql`
    CREATE TABLE session_rule (
      company_id uuid NOT NULL REFERENCES company (id),
      number integer NOT NULL CHECK (number > 0),
      idle_days integer NOT NULL CHECK (idle_days BETWEEN 1 AND 90),
      most_days integer NOT NULL CHECK (most_days BETWEEN 1 AND 365),
      changed_by text NOT NULL,
      changed_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (company_id, number)
    )`.execute(db)
  for (const table of ['checkpoint', 'house_check', 'record_fault', 'fault_look', 'security_log', 'session_rule']) {
    await sql`CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON ${sql.table(table)} FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()`.execute(
      db,
    )
    await sql`GRANT SELECT, INSERT ON ${sql.table(table)} TO tally_app`.execute(db)
  }

  await sql`
    CREATE TABLE plan_given (
      session_id text NOT NULL REFERENCES session (id) ON DELETE CASCADE,
      wall_id uuid NOT NULL REFERENCES wall (id),
      revision integer NOT NULL CHECK (revision > 0),
      since timestamptz NOT NULL,
      PRIMARY KEY (session_id, wall_id, revision)
    )`.execute(db)
  await sql`GRANT SELECT, INSERT, UPDATE ON plan_given TO tally_app`.execute(db)

  await sql`
    CREATE TABLE one_time_link (
      token_hash text PRIMARY KEY,
      company_id uuid NOT NULL REFERENCES company (id),
      what text NOT NULL CHECK (what IN ('invite', 'reset')),
      person text,
      name text NOT NULL,
      role text NOT NULL,
      made_by text NOT NULL,
      made_at timestamptz NOT NULL DEFAULT now(),
      ends_at timestamptz NOT NULL,
      used_at timestamptz
    )`.execute(db)
  await sql`GRANT SELECT, INSERT, DELETE ON one_time_link TO tally_app`.execute(db)
  await sql`GRANT UPDATE (used_at) ON one_time_link TO tally_app`.execute(db)

  await sql`
    CREATE TABLE passkey (
      id text PRIMARY KEY,
      person text NOT NULL REFERENCES "user" (id) ON DELETE CASCADE,
      public_key bytea NOT NULL,
      counter bigint NOT NULL,
      transports text NOT NULL,
      name text NOT NULL,
      made_at timestamptz NOT NULL DEFAULT now(),
      used_at timestamptz
    )`.execute(db)
  await sql`CREATE INDEX passkey_person ON passkey (person)`.execute(db)
  await sql`GRANT SELECT, INSERT, DELETE ON passkey TO tally_app`.execute(db)
  await sql`GRANT UPDATE (counter, used_at) ON passkey TO tally_app`.execute(db)

  await sql`
    CREATE TABLE known_place (
      person text NOT NULL REFERENCES "user" (id) ON DELETE CASCADE,
      place text NOT NULL,
      seen_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (person, place)
    )`.execute(db)
  await sql`GRANT SELECT, INSERT, UPDATE, DELETE ON known_place TO tally_app`.execute(db)

  await sql`ALTER TABLE "user" ADD COLUMN removed_at timestamptz`.execute(db)
  await sql`CREATE INDEX sign_in_throttle_expire ON sign_in_throttle (expire)`.execute(db)
}
