import { createHash, createHmac, randomUUID, timingSafeEqual } from 'node:crypto'
import { fail, type InferType, ok, optionalChoice, type Result, ROLES, type Role, read, record, text } from '@stone-tally/core'
import { betterAuth } from 'better-auth'
import { sql, type Transaction } from 'kysely'
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible'
import { type Database, database } from './database'
import type { WallRow } from './wall-row'

/** A signed-in person. */
export interface Person {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly role: Role
  readonly companyId: string
}

/** Options of the accounts library; its tables are made by our own migrations, which a test compares with these. */
export const accountOptions = () => ({
  database: { db: database().db, type: 'postgres' as const },
  secret: process.env.AUTH_SECRET ?? '',
  baseURL: 'http://127.0.0.1',
  telemetry: { enabled: false },
  logger: { level: 'error' as const },
  emailAndPassword: { enabled: true, autoSignIn: false, minPasswordLength: 10, maxPasswordLength: 128 },
  session: { expiresIn: 60 * 60 * 24 * 14, updateAge: 60 * 60 * 24 },
  user: {
    additionalFields: {
      role: { type: 'string' as const, required: true, input: true },
      companyId: { type: 'string' as const, required: true, input: true },
    },
  },
})

const make = () => betterAuth(accountOptions())
let made: ReturnType<typeof make> | undefined
/** The accounts library. Its own HTTP handler is not exposed: every way in is a route of ours. */
export function auth(): ReturnType<typeof make> {
  if ((process.env.AUTH_SECRET ?? '').length < 32) throw new Error('AUTH_SECRET must be at least 32 characters; bin/start makes one')
  made ??= make()
  return made
}

/** Eight wrong passwords for one address in five minutes, then a pause; kept in PostgreSQL so it holds for every process. */
const THROTTLE = { points: 8, duration: 300 }
let limiter: RateLimiterPostgres | undefined
const throttle = () => {
  limiter ??= new RateLimiterPostgres({
    storeClient: database().pool,
    storeType: 'pool',
    tableName: 'sign_in_throttle',
    tableCreated: true,
    clearExpiredByTimeout: false,
    ...THROTTLE,
  })
  return limiter
}

const credentials = record({ email: text(200), password: text(200) })

/**
 * Signs in; the answer carries the session cookie.
 *
 * @returns the library's response, or why not: wrong, or too many tries
 */
export async function signIn(value: unknown, headers: Headers): Promise<Result<Response>> {
  const input = read(credentials, value)
  if (!input.ok) return input
  const email = input.value.email.trim().toLowerCase()
  try {
    await throttle().consume(email)
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error
    return fail('email', `too many tries for this address; wait ${Math.ceil(error.msBeforeNext / 60_000)} min and try again`)
  }
  const response = await auth().api.signInEmail({ body: { email, password: input.value.password }, headers, asResponse: true })
  if (!response.ok) return fail('password', 'e-mail or password is wrong')
  await throttle().delete(email)
  return ok(response)
}

let cookieName: Promise<string> | undefined

/** The session token of a request whose signature is ours, or undefined. */
async function tokenOf(headers: Headers): Promise<string | undefined> {
  cookieName ??= auth().$context.then((c) => c.authCookies.sessionToken.name)
  const name = `${await cookieName}=`
  const part = headers
    .get('cookie')
    ?.split(/;\s*/)
    .find((c) => c.startsWith(name))
  if (!part) return undefined
  let value: string
  try {
    value = decodeURIComponent(part.slice(name.length))
  } catch {
    return undefined
  }
  const dot = value.lastIndexOf('.')
  const token = value.slice(0, dot)
  const given = Buffer.from(value.slice(dot + 1), 'base64')
  const made = createHmac('sha256', process.env.AUTH_SECRET ?? '')
    .update(token)
    .digest()
  return dot > 0 && given.length === made.length && timingSafeEqual(given, made) ? token : undefined
}

interface Shelf {
  readonly madeUp: boolean | null
  readonly stands: string | null
  readonly why: string | null
  readonly by: string | null
  readonly at: Date | null
}
/** A person, and the wall asked for when it is their company's. */
export interface Asked {
  readonly person: Person
  readonly wall: WallRow | undefined
}

const WALL_ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/

/**
 * Who is behind a request, and with `wallId` whether the wall is theirs. One question to the database, asked every time, so that
 * a revoked session ends at once; the library's own look-up takes several, which every recorded entry would pay for.
 *
 * @returns undefined without a session: no cookie, forged, expired or revoked
 */
export async function asked(headers: Headers, wallId?: string): Promise<Asked | undefined> {
  const token = await tokenOf(headers)
  if (!token) return undefined
  const { rows } = await database().pool.query<Person & { wallId: string | null; wallName: string; site: string } & Shelf>({
    name: 'asked',
    text: `SELECT u.id, u.name, u.email, u.role, u."companyId", w.id AS "wallId", w.name AS "wallName", w.site,
        w.made_up AS "madeUp", f.stands, f.why, f.changed_by AS by, f.changed_at AS at
      FROM session s JOIN "user" u ON u.id = s."userId"
      LEFT JOIN wall w ON w.id = $2::uuid AND w.company_id = u."companyId"::uuid
      LEFT JOIN LATERAL (SELECT * FROM wall_shelf x WHERE x.wall_id = w.id ORDER BY x.number DESC LIMIT 1) f ON true
      WHERE s.token = $1 AND s."expiresAt" > now()`,
    values: [token, wallId !== undefined && WALL_ID.test(wallId) ? wallId : null],
  })
  const row = rows[0]
  if (!row) return undefined
  const { wallId: id, wallName, site, madeUp, stands, why, by, at, ...person } = row
  // One that was thrown away is none.
  if (id === null || stands === 'thrown') return { person, wall: undefined }
  const away = stands === 'away' ? { away: { by: by ?? '', at: at?.toISOString() ?? '', why: why ?? '' } } : {}
  return { person, wall: { id, name: wallName, site, madeUp: madeUp ?? false, ...away } }
}

/** The person behind a request, or undefined. */
export const personOf = async (headers: Headers): Promise<Person | undefined> => (await asked(headers))?.person

const personSchema = record({
  name: text(80),
  email: text(200).email('must be an e-mail address'),
  password: text(128).min(10, 'must be at least 10 characters'),
  role: text(20).oneOf([...ROLES], `must be one of ${ROLES.join(', ')}`),
})

type NewPerson = InferType<typeof personSchema>
interface Account extends Omit<NewPerson, 'password'> {
  readonly hash: string
}

/** A person with their password hashed, which takes its time: done before any transaction is begun. */
async function accountOf(value: unknown): Promise<Result<Account>> {
  const input = read(personSchema, value)
  if (!input.ok) return input
  const { password, email, ...rest } = input.value
  const hash = await (await auth().$context).password.hash(password)
  return ok({ ...rest, email: email.trim().toLowerCase(), hash })
}

/** Person and password in the caller's transaction; nothing where the address has an account. */
async function insertPerson(tx: Transaction<Database>, companyId: string, { name, email, role, hash }: Account): Promise<string | undefined> {
  const id = randomUUID()
  const made = await tx
    .insertInto('user')
    .values({ id, name, email, emailVerified: false, image: null, role, companyId })
    .onConflict((c) => c.column('email').doNothing())
    .returning('id')
    .executeTakeFirst()
  if (!made) return undefined
  await sql`INSERT INTO account (id, "accountId", "providerId", "userId", password, "updatedAt")
    VALUES (${randomUUID()}, ${id}, 'credential', ${id}, ${hash}, now())`.execute(tx)
  return id
}

/**
 * Why somebody may not add a person in a role; undefined where they may. The office adds anybody; a foreman the people of the site, and the
 * office too while there is none: whoever sets up a company alone can begin with everybody.
 */
export async function mayNotAdd(person: Person, role: unknown): Promise<string | undefined> {
  if (person.role === 'office') return undefined
  if (person.role !== 'foreman') return 'adding people takes the office or the foreman'
  if (role !== 'office') return undefined
  const office = await database()
    .db.selectFrom('user')
    .select('id')
    .where('companyId', '=', person.companyId)
    .where('role', '=', 'office')
    .limit(1)
    .executeTakeFirst()
  return office ? 'somebody for the office is added by the office' : undefined
}

/** Adds a person to a company, with their account or not at all. */
export async function addPerson(companyId: string, value: unknown): Promise<Result<{ id: string }>> {
  const account = await accountOf(value)
  if (!account.ok) return account
  const id = await database()
    .db.transaction()
    .execute((tx) => insertPerson(tx, companyId, account.value))
  return id === undefined ? fail('email', `${account.value.email} has an account already`) : ok({ id })
}

const companySchema = record({
  company: text(80),
  name: text(80),
  email: text(200),
  password: text(128),
  code: text(40),
  /** What the first person does: the foreman plans and records at once. The office where it is left out. */
  role: optionalChoice(['foreman', 'office'] as const),
})

/** The set-up code that bin/start prints, so that not whoever finds the page first owns the installation. */
const isSetupCode = (given: string) => {
  const [a, b] = [given.trim().toLowerCase(), (process.env.SETUP_CODE ?? '').toLowerCase()].map((t) =>
    createHmac('sha256', 'set-up')
      .update(t as string)
      .digest(),
  )
  return (process.env.SETUP_CODE ?? '') !== '' && timingSafeEqual(a as Buffer, b as Buffer)
}

/**
 * First company and its owner, both or neither; only while nobody has an account.
 *
 * @returns why not: a wrong code, a field, or somebody was first
 */
export async function firstCompany(value: unknown): Promise<Result<{ companyId: string }>> {
  const input = read(companySchema, value)
  if (!input.ok) return input
  const { company, code, role = 'office', ...who } = input.value
  try {
    await throttle().consume('set-up')
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error
    return fail('code', `too many tries; wait ${Math.ceil(error.msBeforeNext / 60_000)} min and try again`)
  }
  const taken = () => fail('company', 'this installation has a company; ask its office for an account')
  if (!isSetupCode(code)) return fail('code', 'is not the set-up code that was printed when the application was started')
  if (await hasPeople()) return taken()
  const account = await accountOf({ ...who, role })
  if (!account.ok) return account
  return database()
    .db.transaction()
    .execute(async (tx): Promise<Result<{ companyId: string }>> => {
      const { id } = await tx.insertInto('company').values({ name: company }).returning('id').executeTakeFirstOrThrow()
      // The one row of this table: of two that found a company at once, the second meets it and nothing of its own stays.
      await sql`INSERT INTO founded (company_id) VALUES (${id}::uuid)`.execute(tx)
      const person = await insertPerson(tx, id, account.value)
      if (person === undefined) throw Object.assign(new Error('taken'), { code: '23505' })
      await sql`DELETE FROM sign_in_throttle WHERE key LIKE '%:set-up'`.execute(tx)
      return ok({ companyId: id })
    })
    .catch((error: { code?: string }) => {
      if (error.code === '23505') return taken()
      throw error
    })
}

/** Has anybody an account? A company without a person, left by an earlier version, counts as none. */
export const hasPeople = async () => (await database().db.selectFrom('user').select('id').limit(1).executeTakeFirst()) !== undefined

/** People of a company with how many devices they are signed in on. */
export const peopleOf = (companyId: string) =>
  database()
    .db.selectFrom('user')
    .leftJoin('session', (j) => j.onRef('session.userId', '=', 'user.id').on('session.expiresAt', '>', new Date()))
    .select((e) => ['user.id', 'user.name', 'user.email', 'user.role', e.fn.count<string>('session.id').as('devices')])
    .where('user.companyId', '=', companyId)
    .groupBy(['user.id', 'user.name', 'user.email', 'user.role'])
    .orderBy('user.name')
    .execute()

const fingerprint = (token: string) => createHash('sha256').update(token).digest('hex')

/** Whose session it was that the office ended, where the request still carries its cookie. */
export async function endedSession(headers: Headers): Promise<{ person: string; companyId: string } | undefined> {
  const token = await tokenOf(headers)
  if (!token) return undefined
  const row = await database()
    .db.selectFrom('ended_session')
    .select(['person', 'company_id'])
    .where('token_hash', '=', fingerprint(token))
    .executeTakeFirst()
  return row && { person: row.person, companyId: row.company_id }
}

/**
 * Ends every session of a person of this company at once. A device that carries one is known by it when it comes back: what waits there
 * is taken in and set aside, and its walls are taken off it.
 *
 * @param by - who ends them
 */
export async function signOutEverywhere(companyId: string, userId: string, by = ''): Promise<Result<number>> {
  const { db } = database()
  const person = await db.selectFrom('user').select('id').where('id', '=', userId).where('companyId', '=', companyId).executeTakeFirst()
  if (!person) return fail('id', 'is not a person of your company')
  const tokens = await db.selectFrom('session').select('token').where('userId', '=', userId).execute()
  if (tokens.length > 0)
    await db
      .insertInto('ended_session')
      .values(tokens.map((t) => ({ token_hash: fingerprint(t.token), person: userId, company_id: companyId, ended_by: by })))
      .onConflict((c) => c.doNothing())
      .execute()
  const gone = await db.deleteFrom('session').where('userId', '=', userId).executeTakeFirst()
  return ok(Number(gone.numDeletedRows))
}
