import { type Kysely, sql } from 'kysely'

/**
 * Walls, plan revisions and the append-only record with its hash chain.
 *
 * The chain is made here, in the transaction that adds the entry, by code the application's role can run but not change.
 * That role owns none of these tables and holds no UPDATE or DELETE on them; a trigger refuses both to everyone else too.
 */
export async function up(db: Kysely<never>) {
  await sql`
    CREATE TABLE wall (
      id uuid PRIMARY KEY,
      company_id uuid NOT NULL REFERENCES company (id),
      name text NOT NULL,
      site text NOT NULL,
      created_at timestamptz NOT NULL DEFAULT now()
    )`.execute(db)
  await sql`CREATE INDEX wall_company ON wall (company_id)`.execute(db)
  await sql`
    CREATE TABLE revision (
      wall_id uuid NOT NULL REFERENCES wall (id),
      number integer NOT NULL CHECK (number > 0),
      plan jsonb NOT NULL,
      issued_at timestamptz NOT NULL DEFAULT now(),
      issued_by text NOT NULL,
      PRIMARY KEY (wall_id, number)
    )`.execute(db)
  await sql`
    CREATE TABLE chain_head (
      wall_id uuid PRIMARY KEY REFERENCES wall (id),
      seq integer NOT NULL,
      hash text NOT NULL
    )`.execute(db)
  await sql`
    CREATE TABLE entry (
      wall_id uuid NOT NULL REFERENCES wall (id),
      seq integer NOT NULL,
      id uuid NOT NULL,
      body text NOT NULL,
      received_at timestamptz(3) NOT NULL,
      hash text NOT NULL,
      PRIMARY KEY (wall_id, seq),
      UNIQUE (wall_id, id)
    )`.execute(db)

  await sql`
    CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
    BEGIN
      RAISE EXCEPTION 'the record is append-only: % on % is refused', TG_OP, TG_TABLE_NAME USING ERRCODE = '42501';
    END $$`.execute(db)
  for (const table of ['entry', 'revision']) {
    await sql`CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON ${sql.table(table)} FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()`.execute(
      db,
    )
  }

  // Every entry, whoever inserts it, gets its number, time and link from this trigger.
  await sql`
    CREATE FUNCTION link_entry() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
    DECLARE head chain_head%ROWTYPE;
    BEGIN
      SELECT * INTO STRICT head FROM chain_head WHERE wall_id = NEW.wall_id FOR UPDATE;
      NEW.seq := head.seq + 1;
      NEW.received_at := date_trunc('milliseconds', clock_timestamp());
      NEW.hash := encode(sha256(convert_to(
        head.hash || E'\n' || NEW.seq || E'\n'
        || to_char(NEW.received_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"') || E'\n' || NEW.body, 'UTF8')), 'hex');
      UPDATE chain_head SET seq = NEW.seq, hash = NEW.hash WHERE wall_id = NEW.wall_id;
      RETURN NEW;
    END $$`.execute(db)
  await sql`CREATE TRIGGER link BEFORE INSERT ON entry FOR EACH ROW EXECUTE FUNCTION link_entry()`.execute(db)

  await sql`
    CREATE FUNCTION start_chain() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
    BEGIN
      INSERT INTO chain_head (wall_id, seq, hash) VALUES (NEW.id, 0, NEW.id::text);
      RETURN NULL;
    END $$`.execute(db)
  await sql`CREATE TRIGGER start_chain AFTER INSERT ON wall FOR EACH ROW EXECUTE FUNCTION start_chain()`.execute(db)

  // Its plans are made while the table is small and kept for the connection's life: without the setting they would go on
  // reading the whole table when it has grown.
  // Adds a batch in one round trip. Entries already there come back as they are (sending twice is harmless);
  // when the record has moved past what the caller had seen, nothing is added and the caller looks again.
  await sql`
    CREATE FUNCTION append_entries(p_wall uuid, p_seen integer, p_ids uuid[], p_bodies text[])
    RETURNS TABLE (id uuid, seq integer, received_at timestamptz, hash text, body text)
    LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp SET enable_seqscan = off AS $$
    DECLARE current integer;
    BEGIN
      SELECT h.seq INTO STRICT current FROM chain_head h WHERE h.wall_id = p_wall FOR UPDATE;
      IF current > p_seen AND EXISTS (
        SELECT 1 FROM unnest(p_ids) i WHERE NOT EXISTS (SELECT 1 FROM entry e WHERE e.wall_id = p_wall AND e.id = i)
      ) THEN
        RETURN;
      END IF;
      INSERT INTO entry (wall_id, id, body)
        SELECT p_wall, t.i, t.b FROM unnest(p_ids, p_bodies) WITH ORDINALITY AS t (i, b, n)
        WHERE NOT EXISTS (SELECT 1 FROM entry e WHERE e.wall_id = p_wall AND e.id = t.i)
        ORDER BY t.n;
      PERFORM pg_notify('tally_entry', p_wall::text || ' ' || h.seq) FROM chain_head h WHERE h.wall_id = p_wall;
      RETURN QUERY SELECT e.id, e.seq, e.received_at::timestamptz, e.hash, e.body FROM entry e
        WHERE e.wall_id = p_wall AND e.id = ANY (p_ids) ORDER BY e.seq;
    END $$`.execute(db)
  await sql`REVOKE EXECUTE ON FUNCTION append_entries FROM PUBLIC`.execute(db)
  await sql`GRANT EXECUTE ON FUNCTION append_entries TO tally_app`.execute(db)
  await sql`GRANT SELECT, INSERT ON wall, revision, entry TO tally_app`.execute(db)
  await sql`GRANT SELECT ON chain_head TO tally_app`.execute(db)
}
