import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { choice, fail, ok, optionalText, type Problem, type Result, ROLES, type Role, read, record, text } from '@stone-tally/core'
import { sql } from 'kysely'
import { accountOf, beginSession, insertPerson, mayNotAdd, type SignedIn } from './accounts'
import { database } from './database'
import { networkOf } from './network'
import { hashed, isPassword, wrongPassword } from './passwords'
import { logged } from './security-log'
import { type Person, signOutEverywhere, tellStreams } from './sessions'
import { tried } from './throttle'

/** How long a link can be used, hours: an invitation waits for somebody who is not there yet, a new password does not. */
export const LINK_HOURS = { invite: 7 * 24, reset: 24 }
const fingerprint = (token: string) => createHash('sha256').update(token).digest('hex')
const shape = /^[\w-]{43}$/

async function makeLink(
  row: { company_id: string; what: 'invite' | 'reset'; person: string | null; name: string; role: string; made_by: string },
  now = Date.now(),
): Promise<{ token: string; endsAt: string }> {
  const token = randomBytes(32).toString('base64url')
  const ends_at = new Date(now + LINK_HOURS[row.what] * 3_600_000)
  await database()
    .db.insertInto('one_time_link')
    .values({ ...row, token_hash: fingerprint(token), ends_at, used_at: null })
    .execute()
  return { token, endsAt: ends_at.toISOString() }
}

/** A link that one person can use once. The token stands nowhere but in it. */
export interface Link {
  readonly token: string
  readonly endsAt: string
}

const inviteSchema = record({ name: optionalText(80), role: choice(ROLES) })

/**
 * An invitation into the company, in a role.
 *
 * @returns its link; refused where the person may not add somebody in this role
 */
export async function invite(person: Person, value: unknown, request: Request): Promise<Result<Link>> {
  const input = read(inviteSchema, value)
  if (!input.ok) return input
  const { name = '', role } = input.value
  const why = await mayNotAdd(person, role)
  if (why) return fail('role', why)
  const link = await makeLink({ company_id: person.companyId, what: 'invite', person: null, name: name.trim(), role, made_by: person.name })
  await logged('invitation made', request, person, `${role} ${name}`.trim())
  return ok(link)
}

/** Company of an operator's command: it, and an invitation for whoever is to look after it. */
export async function companyByOperator(name: string, role: 'foreman' | 'office', madeBy: string): Promise<Link & { readonly companyId: string }> {
  const { db } = database()
  const { id } = await db.insertInto('company').values({ name }).returning('id').executeTakeFirstOrThrow()
  const link = await makeLink({ company_id: id, what: 'invite', person: null, name: '', role, made_by: madeBy })
  await logged('company made', undefined, { companyId: id, name: madeBy }, name)
  return { ...link, companyId: id }
}

/** May this person change what another of the company may do? The office may; the foreman the people of the site, while there is no office. */
async function looksAfter(person: Person, id: string): Promise<Result<{ id: string; name: string; role: string; email: string }>> {
  const other = await database()
    .db.selectFrom('user')
    .select(['id', 'name', 'role', 'email'])
    .where('id', '=', id)
    .where('companyId', '=', person.companyId)
    .where('removed_at', 'is', null)
    .executeTakeFirst()
  if (!other) return fail('id', 'is not a person of your company')
  const why = person.role === 'office' ? undefined : await mayNotAdd(person, 'office')
  return why ? fail('id', 'looking after people takes the office') : ok(other)
}

/** A link by which somebody sets a new password, for whoever lost theirs. What they have stays signed in until it is used. */
export async function resetLink(person: Person, id: string, request: Request): Promise<Result<Link>> {
  const other = await looksAfter(person, id)
  if (!other.ok) return other
  const { value: o } = other
  const link = await makeLink({ company_id: person.companyId, what: 'reset', person: o.id, name: o.name, role: o.role, made_by: person.name })
  await logged('reset link made', request, person, o.name)
  return ok(link)
}

const last = 'is the last of the office; somebody else is made the office first'
/** Is there another who looks after the company besides this one? */
async function another(companyId: string, id: string): Promise<boolean> {
  const row = await database()
    .db.selectFrom('user')
    .select('id')
    .where('companyId', '=', companyId)
    .where('role', '=', 'office')
    .where('removed_at', 'is', null)
    .where('id', '<>', id)
    .limit(1)
    .executeTakeFirst()
  return row !== undefined
}

/** Changes what a person may do. Their sessions end at once: no device goes on with what they could do before. */
export async function changeRole(person: Person, id: string, role: unknown, request: Request): Promise<Result<Role>> {
  const wanted = ROLES.find((r) => r === role)
  if (!wanted) return fail('role', `must be one of ${ROLES.join(', ')}`)
  const other = await looksAfter(person, id)
  if (!other.ok) return other
  if (other.value.role === wanted) return ok(wanted)
  if (other.value.role === 'office' && !(await another(person.companyId, id))) return fail('role', last)
  await database().db.updateTable('user').set({ role: wanted, updatedAt: new Date() }).where('id', '=', id).execute()
  await signOutEverywhere(person.companyId, id, person.name)
  await logged('role changed', request, person, `${other.value.name}: ${other.value.role} to ${wanted}`)
  return ok(wanted)
}

/**
 * Takes a person out of the company. What they recorded stays theirs; their sessions, passkeys and links end at once, and their address can be
 * invited again.
 */
export async function removePerson(person: Person, id: string, request: Request): Promise<Result<true>> {
  if (id === person.id) return fail('id', 'nobody removes themselves; somebody else does')
  const other = await looksAfter(person, id)
  if (!other.ok) return other
  if (other.value.role === 'office' && !(await another(person.companyId, id))) return fail('id', last)
  const { db } = database()
  await signOutEverywhere(person.companyId, id, person.name)
  await db.transaction().execute(async (tx) => {
    // The address is free for whoever has it next; the row stays, so that its id is never anybody else's.
    const gone = `${other.value.email} (removed ${randomUUID().slice(0, 8)})`
    await tx.updateTable('user').set({ removed_at: new Date(), email: gone }).where('id', '=', id).execute()
    await tx.deleteFrom('passkey').where('person', '=', id).execute()
    await tx.deleteFrom('one_time_link').where('person', '=', id).execute()
    await tx.updateTable('account').set({ password: null }).where('userId', '=', id).execute()
  })
  await tellStreams(id)
  await logged('person removed', request, person, `${other.value.name} (${other.value.role})`)
  return ok(true)
}

/** What a link is for, before it is used; undefined where it was used, ran out or never was. */
export async function linkFor(token: string, now = Date.now()) {
  if (!shape.test(token)) return undefined
  const row = await database()
    .db.selectFrom('one_time_link as l')
    .innerJoin('company as c', 'c.id', 'l.company_id')
    .leftJoin('user as u', 'u.id', 'l.person')
    .select(['l.what', 'l.name', 'l.role', 'l.person', 'l.company_id', 'c.name as company', 'l.made_by', 'u.email'])
    .where('l.token_hash', '=', fingerprint(token))
    .where('l.used_at', 'is', null)
    .where('l.ends_at', '>', new Date(now))
    .executeTakeFirst()
  return row
}

const useSchema = record({ token: text(60), name: optionalText(80), email: optionalText(200), password: text(200) })
const OVER = 'this link was used, or its time is over; ask for another'

/** Uses a link: an account where it invites, a new password where it sets one. Either begins a session, and the link is used up. */
export async function takeLink(value: unknown, headers: Headers, now = Date.now()): Promise<Result<SignedIn>> {
  const allowed = await tried('link', networkOf(headers), 'token')
  if (!allowed.ok) return allowed
  const input = read(useSchema, value)
  if (!input.ok) return input
  const { token, name = '', email = '', password } = input.value
  const link = await linkFor(token, now)
  if (!link) return fail('token', OVER)
  return link.what === 'invite'
    ? join(link, token, { name: name.trim() || link.name, email, password }, headers)
    : setAnew(link, token, password, headers)
}

type Found = NonNullable<Awaited<ReturnType<typeof linkFor>>>
class Over extends Error {}

/** Marks a link as used, in the caller's transaction: of two that use it at once the second finds it used. */
async function spend(tx: Parameters<typeof insertPerson>[0], token: string) {
  const spent = await tx
    .updateTable('one_time_link')
    .set({ used_at: new Date() })
    .where('token_hash', '=', fingerprint(token))
    .where('used_at', 'is', null)
    .returning('token_hash')
    .executeTakeFirst()
  if (!spent) throw new Over(OVER)
}

async function join(link: Found, token: string, who: { name: string; email: string; password: string }, headers: Headers): Promise<Result<SignedIn>> {
  const account = await accountOf({ ...who, role: link.role }, link.company)
  if (!account.ok) return account
  try {
    const id = await database()
      .db.transaction()
      .execute(async (tx) => {
        const made = await insertPerson(tx, link.company_id, account.value)
        if (made !== undefined) await spend(tx, token)
        return made
      })
    if (id === undefined) return fail('email', `${account.value.email} has an account already; sign in with it`)
    const person = { id, name: account.value.name, companyId: link.company_id }
    await logged('invitation used', headers, person, `${link.role}, invited by ${link.made_by}`)
    return ok(await beginSession(headers, person, 'invitation'))
  } catch (error) {
    if (error instanceof Over) return fail('token', error.message)
    throw error
  }
}

async function setAnew(link: Found, token: string, password: string, headers: Headers): Promise<Result<SignedIn>> {
  const wrong = wrongPassword(password, [link.name, link.email ?? '', link.company])
  if (wrong) return { ok: false, problems: [wrong] }
  const id = link.person as string
  const hash = await hashed(password)
  try {
    await database()
      .db.transaction()
      .execute(async (tx) => {
        await spend(tx, token)
        await tx.updateTable('account').set({ password: hash, updatedAt: new Date() }).where('userId', '=', id).execute()
      })
  } catch (error) {
    if (error instanceof Over) return fail('token', error.message)
    throw error
  }
  // Whoever had the old one, or a device of theirs, is out.
  await signOutEverywhere(link.company_id, id, link.name)
  const person = { id, name: link.name, companyId: link.company_id }
  await logged('password changed', headers, person, 'by link')
  return ok(await beginSession(headers, person, 'link'))
}

const passwordSchema = record({ current: text(200), password: text(200) })

/**
 * Changes one's own password. Every other session of this person ends.
 *
 * @param session - the one that stays, by its id
 */
export async function changePassword(person: Person, session: string, value: unknown, request: Request): Promise<Result<true>> {
  const input = read(passwordSchema, value)
  if (!input.ok) return input
  const allowed = await tried('known', `password ${person.id}`, 'current')
  if (!allowed.ok) return allowed
  const { db } = database()
  const row = await db
    .selectFrom('account')
    .select('password')
    .where('userId', '=', person.id)
    .where('providerId', '=', 'credential')
    .executeTakeFirst()
  if (!row?.password || !(await isPassword({ hash: row.password, password: input.value.current }))) return fail('current', 'is not your password')
  const wrong = wrongPassword(input.value.password, [person.name, person.email])
  if (wrong) return { ok: false, problems: [wrong] }
  await db
    .updateTable('account')
    .set({ password: await hashed(input.value.password), updatedAt: new Date() })
    .where('userId', '=', person.id)
    .execute()
  await signOutEverywhere(person.companyId, person.id, person.name, session)
  await logged('password changed', request, person, '')
  return ok(true)
}

/** The refusal of an address that is somebody's of the company whose wall it is, or undefined: who looks from outside has none here. */
export async function ownAddress(wall: string, address: string): Promise<Problem | undefined> {
  const row = await database()
    .db.selectFrom('user')
    .innerJoin('wall', (j) => j.on(sql<boolean>`wall.company_id = "user"."companyId"::uuid`))
    .select('user.name')
    .where('wall.id', '=', wall)
    .where('user.email', '=', address.trim().toLowerCase())
    .executeTakeFirst()
  return (
    row && {
      field: 'data.address',
      message: `is the address of ${row.name}, of your own company; somebody from outside is asked at one of their own`,
    }
  )
}
