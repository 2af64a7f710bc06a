import { createHmac, randomUUID, timingSafeEqual } from 'node:crypto'
import { fail, type InferType, ok, optionalChoice, type Result, ROLES, read, record, text } from '@stone-tally/core'
import { betterAuth } from 'better-auth'
import { sql, type Transaction } from 'kysely'
import { type Database, database } from './database'
import { networkOf } from './network'
import { asLong, hashed, isPassword, PASSWORD, wrongPassword } from './passwords'
import { logged } from './security-log'
import { cookiesFor, isKnownPlace, type Person, placeOf } from './sessions'
import { forgetTries, signedInAgain, tried, triedSignIn } from './throttle'

export { type Asked, asked, endedSession, type Person, personOf, signOutEverywhere } from './sessions'

/** Options of the accounts library; its tables are made by our own migrations, which a test compares with these. */
export const accountOptions = () => ({
  database: { db: database().db, type: 'postgres' as const },
  secret: process.env.AUTH_SECRET ?? '',
  baseURL: 'http://127.0.0.1',
  telemetry: { enabled: false },
  logger: { level: 'error' as const },
  emailAndPassword: {
    enabled: true,
    autoSignIn: false,
    minPasswordLength: PASSWORD.min,
    maxPasswordLength: PASSWORD.max,
    password: { hash: hashed, verify: isPassword },
  },
  // How long a session holds is a company's rule, looked at whenever it is used; this is only the end of all of them.
  session: { expiresIn: 60 * 60 * 24 * 365, updateAge: 60 * 60 * 24 * 365 },
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

/** Somebody who is in: their cookies go out with the answer. */
export interface SignedIn {
  readonly person: string
  readonly cookies: readonly string[]
}

/**
 * Begins a session of a person who has shown who they are.
 *
 * @param how - what they showed, for the security log
 */
export async function beginSession(headers: Headers, person: Pick<Person, 'id' | 'name' | 'companyId'>, how: string): Promise<SignedIn> {
  const context = await auth().$context
  const session = await context.internalAdapter.createSession(person.id, false, {
    ipAddress: networkOf(headers),
    userAgent: (headers.get('user-agent') ?? '').slice(0, 300),
  })
  if (!session) throw new Error('a session could not be begun')
  await logged('sign-in', headers, person, how)
  return { person: person.id, cookies: await cookiesFor(headers, session.token, person.id) }
}

const credentials = record({ email: text(200), password: text(200) })

/**
 * Signs in with a password.
 *
 * @returns cookies of the session, or why not: wrong, or too many tries
 */
export async function signIn(value: unknown, headers: Headers): Promise<Result<SignedIn>> {
  const input = read(credentials, value)
  if (!input.ok) return input
  const email = input.value.email.trim().toLowerCase()
  const [place, network] = [placeOf(headers), networkOf(headers)]
  const known = (await isKnownPlace(email, place)) ? place : undefined
  const allowed = await triedSignIn(email, network, known)
  if (!allowed.ok) {
    await logged('sign-in refused', headers, undefined, `too many tries for ${email}`)
    return allowed
  }
  const person = await database()
    .db.selectFrom('user')
    .innerJoin('account', 'account.userId', 'user.id')
    .select(['user.id', 'user.name', 'user.companyId', 'account.password'])
    .where('account.providerId', '=', 'credential')
    .where('user.email', '=', email)
    .where('user.removed_at', 'is', null)
    .executeTakeFirst()
  const hash = person?.password
  if (!hash) await asLong(input.value.password)
  if (!person || !hash || !(await isPassword({ hash, password: input.value.password }))) {
    await logged('sign-in refused', headers, person, `wrong password for ${email}`)
    return fail('password', 'e-mail or password is wrong')
  }
  await signedInAgain(email, network, known)
  return ok(await beginSession(headers, person, 'password'))
}

const personSchema = record({
  name: text(80),
  email: text(200).email('must be an e-mail address'),
  password: text(200),
  role: text(20).oneOf([...ROLES], `must be one of ${ROLES.join(', ')}`),
})

type NewPerson = InferType<typeof personSchema>
export interface Account extends Omit<NewPerson, 'password'> {
  readonly hash: string
}

/**
 * A person with their password hashed, which takes its time: done before any transaction is begun.
 *
 * @param company - its name, which is no password
 */
export async function accountOf(value: unknown, company = ''): Promise<Result<Account>> {
  const input = read(personSchema, value)
  if (!input.ok) return input
  const { password, ...rest } = input.value
  const email = rest.email.trim().toLowerCase()
  const wrong = wrongPassword(password, [rest.name, email, company])
  if (wrong) return { ok: false, problems: [wrong] }
  return ok({ ...rest, email, hash: await hashed(password) })
}

/** Person and password in the caller's transaction; nothing where the address has an account. */
export async function insertPerson(tx: Transaction<Database>, companyId: string, { name, email, role, hash }: Account): Promise<string | undefined> {
  const id = randomUUID()
  const made = await tx
    .insertInto('user')
    .values({ id, name, email, emailVerified: false, image: null, role, companyId, removed_at: null })
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
    .where('removed_at', 'is', null)
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
  const allowed = await tried('setup', 'set-up', 'code')
  if (!allowed.ok) return allowed
  const taken = () => fail('company', 'this installation has a company; ask its office for an account')
  if (!isSetupCode(code)) return fail('code', 'is not the set-up code that was printed when the application was started')
  if (await hasPeople()) return taken()
  const account = await accountOf({ ...who, role }, company)
  if (!account.ok) return account
  return database()
    .db.transaction()
    .execute(async (tx): Promise<Result<{ companyId: string }>> => {
      const { id } = await tx.insertInto('company').values({ name: company }).returning('id').executeTakeFirstOrThrow()
      // The one row of this table: of two that found a company at once, the second meets it and nothing of its own stays.
      await sql`INSERT INTO founded (company_id) VALUES (${id}::uuid)`.execute(tx)
      const person = await insertPerson(tx, id, account.value)
      if (person === undefined) throw Object.assign(new Error('taken'), { code: '23505' })
      await forgetTries('setup', 'set-up')
      return ok({ companyId: id })
    })
    .catch((error: { code?: string }) => {
      if (error.code === '23505') return taken()
      throw error
    })
}

/** Has anybody an account? A company without a person, left by an earlier version, counts as none. */
export const hasPeople = async () => (await database().db.selectFrom('user').select('id').limit(1).executeTakeFirst()) !== undefined

/** People of a company with how many devices they are signed in on; those who were removed are none. */
export const peopleOf = (companyId: string) =>
  database()
    .db.selectFrom('user')
    .leftJoin('session', (j) => j.onRef('session.userId', '=', 'user.id').on('session.expiresAt', '>', new Date()))
    .select((e) => ['user.id', 'user.name', 'user.email', 'user.role', e.fn.count<string>('session.id').as('devices')])
    .where('user.companyId', '=', companyId)
    .where('user.removed_at', 'is', null)
    .groupBy(['user.id', 'user.name', 'user.email', 'user.role'])
    .orderBy('user.name')
    .execute()
