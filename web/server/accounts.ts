import { createHmac, timingSafeEqual } from 'node:crypto'
import { fail, ok, type Result, ROLES, type Role, read, record, text } from '@stone-tally/core'
import { betterAuth } from 'better-auth'
import { sql } from 'kysely'
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible'
import { database } from './database'

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

/** A person, and the wall asked for when it is their company's. */
export interface Asked {
  readonly person: Person
  readonly wall: { readonly id: string; readonly name: string; readonly site: string } | undefined
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
  const { rows } = await database().pool.query<Person & { wallId: string | null; wallName: string; site: string }>({
    name: 'asked',
    text: `SELECT u.id, u.name, u.email, u.role, u."companyId", w.id AS "wallId", w.name AS "wallName", w.site
      FROM session s JOIN "user" u ON u.id = s."userId"
      LEFT JOIN wall w ON w.id = $2::uuid AND w.company_id = u."companyId"::uuid
      WHERE s.token = $1 AND s."expiresAt" > now()`,
    values: [token, wallId !== undefined && WALL_ID.test(wallId) ? wallId : null],
  })
  const row = rows[0]
  if (!row) return undefined
  const { wallId: id, wallName, site, ...person } = row
  return { person, wall: id === null ? undefined : { id, name: wallName, site } }
}

/** The person behind a request, or undefined. */
export const personOf = async (headers: Headers): Promise<Person | undefined> => (await asked(headers))?.person

const personSchema = record({
  name: text(80),
  email: text(200).email('must be an e-mail address'),
  password: text(128).min(10, 'must be at least 10 characters'),
  role: text(20).oneOf([...ROLES], `must be one of ${ROLES.join(', ')}`),
})

/** Adds a person to a company. */
export async function addPerson(companyId: string, value: unknown): Promise<Result<{ id: string }>> {
  const input = read(personSchema, value)
  if (!input.ok) return input
  const email = input.value.email.trim().toLowerCase()
  const { db } = database()
  const taken = await db.selectFrom('user').select('id').where('email', '=', email).executeTakeFirst()
  if (taken) return fail('email', `${email} has an account already`)
  const made = await auth().api.signUpEmail({
    body: { name: input.value.name, email, password: input.value.password, role: input.value.role, companyId },
  })
  return ok({ id: made.user.id })
}

const companySchema = record({ company: text(80), name: text(80), email: text(200), password: text(128) })

/** First company and its owner; only while there is none. */
export async function firstCompany(value: unknown): Promise<Result<{ companyId: string }>> {
  const input = read(companySchema, value)
  if (!input.ok) return input
  const { db } = database()
  return db.connection().execute(async (one) => {
    // Two people opening the first page at once must not make two first companies.
    await sql`SELECT pg_advisory_lock(7201)`.execute(one)
    try {
      if (await one.selectFrom('company').select('id').executeTakeFirst())
        return fail('company', 'this installation has a company; ask its office for an account')
      const who = { name: input.value.name, email: input.value.email, password: input.value.password, role: 'office' }
      const checked = read(personSchema, who)
      if (!checked.ok) return checked
      const { id } = await one.insertInto('company').values({ name: input.value.company }).returning('id').executeTakeFirstOrThrow()
      const added = await addPerson(id, who)
      return added.ok ? ok({ companyId: id }) : added
    } finally {
      await sql`SELECT pg_advisory_unlock(7201)`.execute(one)
    }
  })
}

/** Is there any company yet? */
export const hasCompany = async () => (await database().db.selectFrom('company').select('id').limit(1).executeTakeFirst()) !== undefined

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

/** Ends every session of a person of this company at once. */
export async function signOutEverywhere(companyId: string, userId: string): Promise<Result<number>> {
  const { db } = database()
  const person = await db.selectFrom('user').select('id').where('id', '=', userId).where('companyId', '=', companyId).executeTakeFirst()
  if (!person) return fail('id', 'is not a person of your company')
  const gone = await db.deleteFrom('session').where('userId', '=', userId).executeTakeFirst()
  return ok(Number(gone.numDeletedRows))
}
