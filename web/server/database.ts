import { type ColumnType, type Generated, Kysely, PostgresDialect } from 'kysely'
import pg from 'pg'

/** The tables as the application sees them. */
export interface Database {
  company: { id: Generated<string>; name: string; created_at: Generated<Date> }
  user: {
    id: string
    name: string
    email: string
    emailVerified: boolean
    image: string | null
    createdAt: Generated<Date>
    updatedAt: Generated<Date>
    role: string
    companyId: string
    removed_at: Date | null
  }
  session: {
    id: string
    expiresAt: Date
    token: string
    createdAt: Generated<Date>
    updatedAt: Date
    ipAddress: string | null
    userAgent: string | null
    userId: string
  }
  account: { id: string; accountId: string; providerId: string; userId: string; password: string | null; updatedAt: Date }
  verification: { id: string; identifier: string; value: string; expiresAt: Date }
  wall: { id: string; company_id: string; name: string; site: string; created_at: Generated<Date>; made_up: Generated<boolean> }
  wall_shelf: { wall_id: string; number: number; stands: 'away' | 'back' | 'thrown'; why: string; changed_by: string; changed_at: Generated<Date> }
  template: { company_id: string; name: string; number: number; plan: string | null; changed_by: string; changed_at: Generated<Date> }
  seen: { person_id: string; what: string; seen_at: Generated<Date> }
  revision: { wall_id: string; number: number; plan: ColumnType<unknown, string, never>; issued_at: Generated<Date>; issued_by: string }
  catalogue_unit: {
    company_id: string
    id: string
    system: string
    unit: ColumnType<unknown, string, string>
    left_out: Generated<boolean>
    changed_at: Generated<Date>
    changed_by: string
  }
  photo: {
    id: Generated<string>
    wall_id: string
    sha256: string
    name: string
    type: string
    width: number
    height: number
    content: Buffer
    thumb: Buffer
    meta: ColumnType<unknown, string, never>
    added_by: string
    added_at: Generated<Date>
  }
  photo_piece: { wall_id: string; upload: string; person: string; at: number; bytes: Buffer; received_at: Generated<Date> }
  ended_session: { token_hash: string; person: string; company_id: string; ended_by: string; ended_at: Generated<Date> }
  glimpse: { wall_id: string; seq: number; hash: string; made_by: string; body: string }
  overview: { wall_id: string; seq: number; hash: string; made_by: string; made_at: Date; body: string }
  set_aside: { wall_id: string; id: string; person: string; body: string; came_at: Generated<Date> }
  rule_set: {
    company_id: string
    level: 'company' | 'site'
    site: string
    number: number
    rules: string
    reason: string
    changed_by: string
    changed_at: Generated<Date>
  }
  checkpoint: { wall_id: string; seq: number; day: string; hash: string; key: string; signature: string; made_at: Generated<Date> }
  thumb_mark: { photo: string; mark: string }
  house_mark: { number: number; day: string; walls: string; hash: string; key: string; signature: string; made_at: Generated<Date> }
  house_check: {
    number: Generated<number>
    began_at: Date
    ended_at: Generated<Date>
    walls: number
    entries: number
    photos: number
    faults: number
  }
  record_fault: { wall_id: string; number: number; seq: number; fault: string; message: string; found_at: Generated<Date> }
  fault_look: { wall_id: string; number: number; person: string; name: string; role: string; words: string; looked_at: Generated<Date> }
  security_log: {
    number: Generated<string>
    at: Generated<Date>
    company_id: string | null
    what: string
    person: string | null
    name: string | null
    network: string
    detail: string
  }
  session_rule: {
    company_id: string
    number: number
    idle_days: number
    most_days: number
    changed_by: string
    changed_at: Generated<Date>
  }
  plan_given: { session_id: string; wall_id: string; revision: number; since: Date }
  one_time_link: {
    id: Generated<string>
    token_hash: string
    company_id: string
    what: 'invite' | 'reset'
    person: string | null
    name: string
    role: string
    made_by: string
    /** Whose right it lives by; null where the operator's command made it. */
    maker: string | null
    made_at: Generated<Date>
    ends_at: Date
    used_at: Date | null
  }
  outside_link: {
    token_hash: string
    wall_id: string
    request: string
    decision: string
    made_by: string
    made_at: Generated<Date>
    ends_at: Date
  }
  passkey: {
    id: string
    person: string
    public_key: Buffer
    counter: string | number
    transports: string
    name: string
    made_at: Generated<Date>
    used_at: Date | null
  }
  sign_in_throttle: { key: string; points: number; expire: string | null }
  known_place: { person: string; place: string; seen_at: Generated<Date> }
  chain_head: { wall_id: string; seq: number; hash: string }
  entry: { wall_id: string; seq: Generated<number>; id: string; body: string; received_at: Generated<Date>; hash: Generated<string> }
}

/** How long anything may wait for the database, ms; migrations and loading as its owner are given the time they take. */
const PATIENCE = { connect: 4_000, statement: 20_000, lock: 5_000 }

/**
 * A pool and Kysely on it. An idle connection the server drops (it was restarted) is replaced, not a crash. Nothing waits for ever:
 * not for a connection, a lock, nor an answer.
 *
 * @param patient - for migrations and loading: statements take what they take
 */
export function connect(url: string, max = 10, patient = false) {
  const limits = patient
    ? {}
    : {
        connectionTimeoutMillis: PATIENCE.connect,
        statement_timeout: PATIENCE.statement,
        // A server that was stopped in its tracks cannot end a statement itself.
        query_timeout: PATIENCE.statement + 1_000,
        lock_timeout: PATIENCE.lock,
        idle_in_transaction_session_timeout: PATIENCE.statement,
      }
  const pool = new pg.Pool({ connectionString: url, max, keepAlive: true, ...limits })
  pool.on('error', () => {})
  // The pool listens to its idle connections only: one that is lost while it is lent out would end the process. Its query fails all the same.
  pool.on('connect', (client) => client.on('error', () => {}))
  return { pool, db: new Kysely<Database>({ dialect: new PostgresDialect({ pool }) }) }
}

interface Connected {
  url: string
  pool: pg.Pool
  db: Kysely<Database>
}
const shared = globalThis as { __tally?: Connected }

/** The process's one pool, on DATABASE_URL (the application's role). */
export function database(): Connected {
  const url = process.env.DATABASE_URL
  if (!url) throw new Error('DATABASE_URL is not set; start with bin/start')
  if (shared.__tally?.url !== url) shared.__tally = { url, ...connect(url) }
  return shared.__tally as Connected
}
