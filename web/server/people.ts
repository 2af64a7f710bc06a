import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { choice, fail, ok, optionalChoice, optionalText, type Problem, type Result, ROLES, type Role, read, record, text } from '@stone-tally/core'
import { sql } from 'kysely'
import { accountOf, beginSession, insertPerson, mayNotAdd, type SignedIn } from './accounts'
import { database } from './database'
import { isStill } from './is-still'
import { networkOf } from './network'
import { passkeysOf } from './passkeys'
import { hashed, wrongPassword } from './passwords'
import { logged } from './security-log'
import { type Person, signOutEverywhere, tellStreams } from './sessions'
import { tried } from './throttle'

/** How long a link can be used, hours: an invitation waits for somebody who is not there yet, a new password does not. */
export const LINK_HOURS = { invite: 7 * 24, reset: 24 }
const fingerprint = (token: string) => createHash('sha256').update(token).digest('hex')
const shape = /^[\w-]{43}$/

type Tx = Parameters<typeof insertPerson>[0]

async function makeLink(
  row: { company_id: string; what: 'invite' | 'reset'; person: string | null; name: string; role: string; made_by: string; maker: string | null },
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
  const link = await makeLink({
    company_id: person.companyId,
    what: 'invite',
    person: null,
    name: name.trim(),
    role,
    made_by: person.name,
    maker: person.id,
  })
  await logged('invitation made', request, person, `${role} ${name}`.trim())
  return ok(link)
}

/** Company of an operator's command: it, and an invitation for whoever is to look after it. */
export async function companyByOperator(name: string, role: 'foreman' | 'office', madeBy: string): Promise<Link & { readonly companyId: string }> {
  const { db } = database()
  const { id } = await db.insertInto('company').values({ name }).returning('id').executeTakeFirstOrThrow()
  const link = await makeLink({ company_id: id, what: 'invite', person: null, name: '', role, made_by: madeBy, maker: null })
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
  // The newest only: an older one may be in a mail that somebody else reads.
  await database()
    .db.transaction()
    .execute((tx) => noResets(tx, o.id))
  const link = await makeLink({
    company_id: person.companyId,
    what: 'reset',
    person: o.id,
    name: o.name,
    role: o.role,
    made_by: person.name,
    maker: person.id,
  })
  await logged('reset link made', request, person, o.name)
  return ok(link)
}

/** Takes back every link by which somebody could set a new password: a newer one was made, or the password is another. */
async function noResets(tx: Tx, id: string): Promise<void> {
  await tx.deleteFrom('one_time_link').where('person', '=', id).where('what', '=', 'reset').where('used_at', 'is', null).execute()
}

/** An invitation that waits, as the office sees it: never what opens it. */
export interface Waiting {
  readonly id: string
  readonly name: string
  readonly role: string
  readonly by: string
  readonly endsAt: string
}

/** Invitations into a company that still let somebody in, newest first. */
export async function invitationsOf(companyId: string, now = Date.now()): Promise<Waiting[]> {
  const rows = await database()
    .db.selectFrom('one_time_link')
    .select(['id', 'name', 'role', 'made_by', 'maker', 'ends_at'])
    .where('company_id', '=', companyId)
    .where('what', '=', 'invite')
    .where('used_at', 'is', null)
    .where('ends_at', '>', new Date(now))
    .orderBy('made_at', 'desc')
    .execute()
  const list: Waiting[] = []
  for (const r of rows) {
    if (await stillMay(r.maker, companyId, 'invite', r.role))
      list.push({ id: r.id, name: r.name, role: r.role, by: r.made_by, endsAt: r.ends_at.toISOString() })
  }
  return list
}

/** Takes an invitation back; whoever has its link finds it over. */
export async function withdraw(person: Person, id: string, request: Request): Promise<Result<true>> {
  const { db } = database()
  const row = /^[0-9a-f-]{36}$/.test(id)
    ? await db
        .selectFrom('one_time_link')
        .select(['name', 'role'])
        .where('id', '=', id)
        .where('company_id', '=', person.companyId)
        .where('what', '=', 'invite')
        .where('used_at', 'is', null)
        .executeTakeFirst()
    : undefined
  if (!row) return fail('id', 'is no invitation of your company that still waits')
  const why = await mayNotAdd(person, row.role)
  if (why) return fail('id', why)
  await db.deleteFrom('one_time_link').where('id', '=', id).where('used_at', 'is', null).execute()
  await logged('invitation withdrawn', request, person, `${row.role} ${row.name}`.trim())
  return ok(true)
}

/** Has who made a link still the right it was made by? What the operator's command made asks nobody. */
async function stillMay(maker: string | null, companyId: string, what: 'invite' | 'reset', role: string): Promise<boolean> {
  if (maker === null) return true
  const by = await database()
    .db.selectFrom('user')
    .select(['id', 'name', 'email', 'role'])
    .where('id', '=', maker)
    .where('companyId', '=', companyId)
    .where('removed_at', 'is', null)
    .executeTakeFirst()
  if (!by) return false
  const person = { ...by, role: by.role as Role, companyId }
  if (what === 'invite') return (await mayNotAdd(person, role)) === undefined
  return person.role === 'office' || (await mayNotAdd(person, 'office')) === undefined
}

const last = 'is the last of the office; somebody else is made the office first'

/**
 * Changes the people of a company, one change at a time: of two who change each other at once the second finds what the first left.
 *
 * @param then - does it; gets the transaction and who is changed
 * @returns refused where who asks has lost the right meanwhile, or where nobody would look after the company
 */
async function changing<T>(
  person: Person,
  id: string,
  field: string,
  then: (tx: Tx, other: { name: string; role: string; email: string }) => Promise<T>,
  keepsOffice = false,
): Promise<Result<T>> {
  return database()
    .db.transaction()
    .execute(async (tx) => {
      // The application may not lock a row of companies it may not change: a lock by name, which ends with the transaction.
      await sql`SELECT pg_advisory_xact_lock(hashtextextended(${`people ${person.companyId}`}, 0))`.execute(tx)
      const people = await tx
        .selectFrom('user')
        .select(['id', 'name', 'email', 'role'])
        .where('companyId', '=', person.companyId)
        .where('removed_at', 'is', null)
        .execute()
      const me = people.find((p) => p.id === person.id)
      const other = people.find((p) => p.id === id)
      const offices = people.filter((p) => p.role === 'office')
      if (!other) return fail('id', 'is not a person of your company')
      if (!me || !(me.role === 'office' || (me.role === 'foreman' && offices.length === 0)))
        return fail('id', 'looking after people takes the office')
      if (other.role === 'office' && offices.length === 1 && !keepsOffice) return fail(field, last)
      return ok(await then(tx, other))
    })
}

/** Changes what a person may do. Their sessions end at once: no device goes on with what they could do before. */
export async function changeRole(person: Person, id: string, role: unknown, request: Request): Promise<Result<Role>> {
  const wanted = ROLES.find((r) => r === role)
  if (!wanted) return fail('role', `must be one of ${ROLES.join(', ')}`)
  const done = await changing(
    person,
    id,
    'role',
    async (tx, other) => {
      if (other.role !== wanted) await tx.updateTable('user').set({ role: wanted, updatedAt: new Date() }).where('id', '=', id).execute()
      return other
    },
    wanted === 'office',
  )
  if (!done.ok) return done
  const { name, role: was } = done.value
  if (was === wanted) return ok(wanted)
  await signOutEverywhere(person.companyId, id, person.name)
  await logged('role changed', request, person, `${name}: ${was} to ${wanted}`)
  return ok(wanted)
}

/**
 * Takes a person out of the company. What they recorded stays theirs; their sessions, passkeys and links end at once, those they made for
 * others too, and their address can be invited again.
 */
export async function removePerson(person: Person, id: string, request: Request): Promise<Result<true>> {
  if (id === person.id) return fail('id', 'nobody removes themselves; somebody else does')
  const done = await changing(person, id, 'id', async (tx, other) => {
    // The address is free for whoever has it next; the row stays, so that its id is never anybody else's.
    const gone = `${other.email} (removed ${randomUUID().slice(0, 8)})`
    await tx.updateTable('user').set({ removed_at: new Date(), email: gone }).where('id', '=', id).execute()
    await tx.deleteFrom('passkey').where('person', '=', id).execute()
    await tx
      .deleteFrom('one_time_link')
      .where((e) => e.or([e('person', '=', id), e.and([e('maker', '=', id), e('used_at', 'is', null)])]))
      .execute()
    await tx.updateTable('account').set({ password: null }).where('userId', '=', id).execute()
    return other
  })
  if (!done.ok) return done
  await signOutEverywhere(person.companyId, id, person.name)
  await tellStreams(id)
  await logged('person removed', request, person, `${done.value.name} (${done.value.role})`)
  return ok(true)
}

/** What a link is for, before it is used; undefined where it was used, withdrawn, ran out or never was, or whoever made it may no more. */
export async function linkFor(token: string, now = Date.now()) {
  if (!shape.test(token)) return undefined
  const row = await database()
    .db.selectFrom('one_time_link as l')
    .innerJoin('company as c', 'c.id', 'l.company_id')
    .leftJoin('user as u', 'u.id', 'l.person')
    .select(['l.what', 'l.name', 'l.role', 'l.person', 'l.company_id', 'c.name as company', 'l.made_by', 'l.maker', 'u.email'])
    .where('l.token_hash', '=', fingerprint(token))
    .where('l.used_at', 'is', null)
    .where('l.ends_at', '>', new Date(now))
    .executeTakeFirst()
  return row && (await stillMay(row.maker, row.company_id, row.what, row.role)) ? row : undefined
}

const useSchema = record({
  token: text(60),
  name: optionalText(80),
  email: optionalText(200),
  password: text(200),
  passkeys: optionalChoice(['keep', 'remove'] as const),
})
const OVER = 'this link was used, or its time is over; ask for another'

/** Uses a link: an account where it invites, a new password where it sets one. Either begins a session, and the link is used up. */
export async function takeLink(value: unknown, headers: Headers, now = Date.now()): Promise<Result<SignedIn>> {
  const allowed = await tried('link', networkOf(headers), 'token')
  if (!allowed.ok) return allowed
  const input = read(useSchema, value)
  if (!input.ok) return input
  const { token, name = '', email = '', password, passkeys } = input.value
  const link = await linkFor(token, now)
  if (!link) return fail('token', OVER)
  return link.what === 'invite'
    ? join(link, token, { name: name.trim() || link.name, email, password }, headers)
    : setAnew(link, token, { password, passkeys }, headers)
}

type Found = NonNullable<Awaited<ReturnType<typeof linkFor>>>
class Over extends Error {}

/** Marks a link as used, in the caller's transaction: of two that use it at once the second finds it used. */
async function spend(tx: Tx, token: string) {
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

async function setAnew(
  link: Found,
  token: string,
  { password, passkeys }: { password: string; passkeys: 'keep' | 'remove' | undefined },
  headers: Headers,
): Promise<Result<SignedIn>> {
  const wrong = wrongPassword(password, [link.name, link.email ?? '', link.company])
  if (wrong) return { ok: false, problems: [wrong] }
  const id = link.person as string
  // Whoever had the password may have left a way in of their own.
  if (passkeys === undefined && (await passkeysOf(id)).length > 0) return fail('passkeys', 'are there: say whether they stay or are taken out')
  const hash = await hashed(password)
  try {
    await database()
      .db.transaction()
      .execute(async (tx) => {
        await spend(tx, token)
        await noResets(tx, id)
        if (passkeys === 'remove') await tx.deleteFrom('passkey').where('person', '=', id).execute()
        await tx.updateTable('account').set({ password: hash, updatedAt: new Date() }).where('userId', '=', id).execute()
      })
  } catch (error) {
    if (error instanceof Over) return fail('token', error.message)
    throw error
  }
  // Whoever had the old one, or a device of theirs, is out.
  await signOutEverywhere(link.company_id, id, link.name)
  const person = { id, name: link.name, companyId: link.company_id }
  await logged('password changed', headers, person, passkeys === 'remove' ? 'by link, passkeys taken out' : 'by link')
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
  const known = await isStill(person, input.value.current)
  if (!known.ok) return known
  const wrong = wrongPassword(input.value.password, [person.name, person.email])
  if (wrong) return { ok: false, problems: [wrong] }
  const hash = await hashed(input.value.password)
  await database()
    .db.transaction()
    .execute(async (tx) => {
      await noResets(tx, person.id)
      await tx.updateTable('account').set({ password: hash, updatedAt: new Date() }).where('userId', '=', person.id).execute()
    })
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
