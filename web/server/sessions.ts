import { createHash, createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import { fail, ok, quantity, type Result, type Role, read, record } from '@stone-tally/core'
import { database } from './database'
import { isSecure } from './network'
import type { WallRow } from './wall-row'

/** A signed-in person. */
export interface Person {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly role: Role
  readonly companyId: string
}

/** A person, their session, and the wall asked for when it is their company's. */
export interface Asked {
  readonly person: Person
  readonly wall: WallRow | undefined
  readonly session: { readonly id: string; readonly began: Date }
}

/**
 * Name of the cookie. Over TLS it bears the prefix by which a browser lets nobody but this very host set it; the other one is for a machine or a
 * trench without.
 */
const NAMES = { secure: '__Host-stone-tally', plain: 'better-auth.session_token' }
/** The place a person signs in from, which tells a device known before from any other. */
const PLACES = { secure: '__Host-place', plain: 'place' }
/** A cookie is kept by the browser for so long; how long a session holds is ours to say, s. */
const KEPT = 365 * 86_400

const secret = () => process.env.AUTH_SECRET ?? ''
const signature = (token: string) => createHmac('sha256', secret()).update(token).digest()
const fingerprint = (token: string) => createHash('sha256').update(token).digest('hex')

function cookie(headers: Headers, names: { secure: string; plain: string }): string | undefined {
  const name = `${isSecure(headers) ? names.secure : names.plain}=`
  const part = headers
    .get('cookie')
    ?.split(/;\s*/)
    .find((c) => c.startsWith(name))
  try {
    return part && decodeURIComponent(part.slice(name.length))
  } catch {
    return undefined
  }
}

/** A cookie to be set; over TLS it goes over nothing else. */
function setting(headers: Headers, names: { secure: string; plain: string }, value: string, seconds: number): string {
  const secure = isSecure(headers)
  return `${secure ? names.secure : names.plain}=${encodeURIComponent(value)}; Path=/; Max-Age=${seconds}; HttpOnly; SameSite=Lax${secure ? '; Secure' : ''}`
}

/** The session token of a request whose signature is ours, or undefined. */
export function tokenOf(headers: Headers): string | undefined {
  const value = cookie(headers, NAMES)
  if (value === undefined) return undefined
  const dot = value.lastIndexOf('.')
  const token = value.slice(0, dot)
  const given = Buffer.from(value.slice(dot + 1), 'base64')
  const made = signature(token)
  return dot > 0 && given.length === made.length && timingSafeEqual(given, made) ? token : undefined
}

/** The place this request comes from, if it has been given a name. */
export const placeOf = (headers: Headers): string | undefined => {
  const place = cookie(headers, PLACES)
  return place !== undefined && /^[\w-]{20,60}$/.test(place) ? fingerprint(place) : undefined
}

/** Is this a place the person has signed in from before? */
export async function isKnownPlace(email: string, place: string | undefined): Promise<boolean> {
  if (place === undefined) return false
  const row = await database()
    .db.selectFrom('known_place')
    .innerJoin('user', 'user.id', 'known_place.person')
    .select('known_place.person')
    .where('user.email', '=', email)
    .where('known_place.place', '=', place)
    .executeTakeFirst()
  return row !== undefined
}

/**
 * Cookies of a session that was begun, and the place noted for the next time.
 *
 * @param token - of the session
 */
export async function cookiesFor(headers: Headers, token: string, person: string): Promise<readonly string[]> {
  const given = cookie(headers, PLACES)
  const place = given !== undefined && /^[\w-]{20,60}$/.test(given) ? given : randomBytes(24).toString('base64url')
  await database()
    .db.insertInto('known_place')
    .values({ person, place: fingerprint(place), seen_at: new Date() })
    .onConflict((c) => c.columns(['person', 'place']).doUpdateSet({ seen_at: new Date() }))
    .execute()
  return [setting(headers, NAMES, `${token}.${signature(token).toString('base64')}`, KEPT), setting(headers, PLACES, place, KEPT)]
}

/** Takes the session's cookie off a browser. The place stays known. */
export const cookieGone = (headers: Headers): string => setting(headers, NAMES, '', 0)

const WALL_ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/
/** Days a session holds without being used, and in all, where a company has said nothing else. */
export const SESSION_DAYS = { idle: 14, most: 90 }
/** A session that is used is noted so often, ms. */
const NOTED = 10 * 60_000

interface Row extends Person {
  readonly wallId: string | null
  readonly wallName: string
  readonly site: string
  readonly madeUp: boolean | null
  readonly stands: string | null
  readonly why: string | null
  readonly by: string | null
  readonly at: Date | null
  readonly sessionId: string
  readonly began: Date
  readonly used: Date
}

/**
 * Who is behind a request, and with `wallId` whether the wall is theirs. One question to the database, asked every time, so that
 * a session that was ended, ran out, or whose person was removed ends at once.
 *
 * @returns undefined without a session: no cookie, forged, expired, idle for too long or ended
 */
export async function asked(headers: Headers, wallId?: string): Promise<Asked | undefined> {
  const token = tokenOf(headers)
  if (!token) return undefined
  const { rows } = await database().pool.query<Row>({
    name: 'asked',
    text: `SELECT u.id, u.name, u.email, u.role, u."companyId", w.id AS "wallId", w.name AS "wallName", w.site,
        w.made_up AS "madeUp", f.stands, f.why, f.changed_by AS by, f.changed_at AS at,
        s.id AS "sessionId", s."createdAt" AS began, s."updatedAt" AS used
      FROM session s JOIN "user" u ON u.id = s."userId"
      LEFT JOIN wall w ON w.id = $2::uuid AND w.company_id = u."companyId"::uuid
      LEFT JOIN LATERAL (SELECT * FROM wall_shelf x WHERE x.wall_id = w.id ORDER BY x.number DESC LIMIT 1) f ON true
      LEFT JOIN LATERAL (SELECT * FROM session_rule r WHERE r.company_id = u."companyId"::uuid ORDER BY r.number DESC LIMIT 1) r ON true
      WHERE s.token = $1 AND s."expiresAt" > now() AND u.removed_at IS NULL
        AND s."updatedAt" > now() - make_interval(days => COALESCE(r.idle_days, ${SESSION_DAYS.idle}))
        AND s."createdAt" > now() - make_interval(days => COALESCE(r.most_days, ${SESSION_DAYS.most}))`,
    values: [token, wallId !== undefined && WALL_ID.test(wallId) ? wallId : null],
  })
  const row = rows[0]
  if (!row) return undefined
  const { wallId: id, wallName, site, madeUp, stands, why, by, at, sessionId, began, used, ...person } = row
  if (Date.now() - used.getTime() > NOTED) {
    const noted = database().db.updateTable('session').set({ updatedAt: new Date() }).where('id', '=', sessionId).execute()
    noted.catch(() => undefined)
  }
  const session = { id: sessionId, began }
  // One that was thrown away is none.
  if (id === null || stands === 'thrown') return { person, wall: undefined, session }
  const away = stands === 'away' ? { away: { by: by ?? '', at: at?.toISOString() ?? '', why: why ?? '' } } : {}
  return { person, session, wall: { id, name: wallName, site, madeUp: madeUp ?? false, ...away } }
}

/** The person behind a request, or undefined. */
export const personOf = async (headers: Headers): Promise<Person | undefined> => (await asked(headers))?.person

/** Whose session it was that the office ended, where the request still carries its cookie. */
export async function endedSession(headers: Headers): Promise<{ person: string; companyId: string; device: string } | undefined> {
  const token = tokenOf(headers)
  if (!token) return undefined
  const row = await database()
    .db.selectFrom('ended_session')
    .select(['person', 'company_id'])
    .where('token_hash', '=', fingerprint(token))
    .executeTakeFirst()
  return row && { person: row.person, companyId: row.company_id, device: fingerprint(token) }
}

/** Open streams of a person look whether they may go on, in every process, at once. */
export const tellStreams = (person: string) => database().pool.query("SELECT pg_notify('tally_session', $1)", [person])

/**
 * Ends every session of a person of this company at once, open streams too. A device that carries one is known by it when it comes back: what
 * waits there is taken in and set aside, and its walls are taken off it.
 *
 * @param by - who ends them
 * @param but - a session that stays, by its id
 */
export async function signOutEverywhere(companyId: string, userId: string, by = '', but?: string): Promise<Result<number>> {
  const { db } = database()
  const person = await db.selectFrom('user').select('id').where('id', '=', userId).where('companyId', '=', companyId).executeTakeFirst()
  if (!person) return fail('id', 'is not a person of your company')
  return ok(await endSessions(companyId, userId, by, (s) => s.id !== but))
}

/** Ends one session of a person. @returns false where there is none of this id */
export async function endSession(companyId: string, userId: string, id: string, by: string): Promise<boolean> {
  return (await endSessions(companyId, userId, by, (s) => s.id === id)) > 0
}

async function endSessions(companyId: string, userId: string, by: string, which: (s: { id: string }) => boolean): Promise<number> {
  const { db } = database()
  const all = await db.selectFrom('session').select(['id', 'token']).where('userId', '=', userId).execute()
  const ending = all.filter(which)
  if (ending.length === 0) return 0
  await db
    .insertInto('ended_session')
    .values(ending.map((t) => ({ token_hash: fingerprint(t.token), person: userId, company_id: companyId, ended_by: by })))
    .onConflict((c) => c.doNothing())
    .execute()
  const gone = await db
    .deleteFrom('session')
    .where(
      'id',
      'in',
      ending.map((s) => s.id),
    )
    .executeTakeFirst()
  await tellStreams(userId)
  return Number(gone.numDeletedRows)
}

/** Signs this one session out. Nothing is given back: whoever signs out themselves keeps what is on their device. */
export async function signOut(headers: Headers): Promise<void> {
  const token = tokenOf(headers)
  if (!token) return
  const row = await database().db.deleteFrom('session').where('token', '=', token).returning('userId').executeTakeFirst()
  if (row) await tellStreams(row.userId)
}

/** Where a person is signed in. */
export interface SessionShown {
  readonly id: string
  readonly began: string
  readonly used: string
  /** What kind of device, in a word. */
  readonly device: string
  readonly network: string
}

/** What kind of device a user agent speaks of. @example deviceOf('… Mobile …') // 'Phone' */
export function deviceOf(agent: string): string {
  if (agent === '') return 'Unknown device'
  if (/Mobi/.test(agent)) return 'Phone'
  return /Tablet|Android|iPad/.test(agent) ? 'Tablet' : 'Computer'
}

/** Sessions of a person that hold now, the one used last first. */
export async function sessionsOf(person: string): Promise<SessionShown[]> {
  const rows = await database()
    .db.selectFrom('session')
    .select(['id', 'createdAt', 'updatedAt', 'userAgent', 'ipAddress'])
    .where('userId', '=', person)
    .where('expiresAt', '>', new Date())
    .orderBy('updatedAt', 'desc')
    .execute()
  return rows.map((r) => ({
    id: r.id,
    began: r.createdAt.toISOString(),
    used: r.updatedAt.toISOString(),
    device: deviceOf(r.userAgent ?? ''),
    network: r.ipAddress ?? '',
  }))
}

/** How long sessions of a company hold, days. */
export interface SessionRule {
  readonly idle: number
  readonly most: number
}

export async function sessionRuleOf(companyId: string): Promise<SessionRule> {
  const row = await database()
    .db.selectFrom('session_rule')
    .select(['idle_days', 'most_days'])
    .where('company_id', '=', companyId)
    .orderBy('number', 'desc')
    .limit(1)
    .executeTakeFirst()
  return row ? { idle: row.idle_days, most: row.most_days } : SESSION_DAYS
}

const ruleSchema = record({ idle: quantity({ min: 1, max: 90, whole: true }), most: quantity({ min: 1, max: 365, whole: true }) })

/** Changes how long sessions of a company hold. It counts at once, for those that hold now too. */
export async function setSessionRule(person: Person, value: unknown): Promise<Result<SessionRule>> {
  if (person.role !== 'office') return fail('role', 'how long people stay signed in is set by the office')
  const input = read(ruleSchema, value)
  if (!input.ok) return input
  if (input.value.idle > input.value.most)
    return fail('idle', `must be ${input.value.most} days or less: nobody stays signed in longer than that in all`)
  const { db } = database()
  const last = await db
    .selectFrom('session_rule')
    .select((e) => e.fn.max('number').as('number'))
    .where('company_id', '=', person.companyId)
    .executeTakeFirst()
  await db
    .insertInto('session_rule')
    .values({
      company_id: person.companyId,
      number: Number(last?.number ?? 0) + 1,
      idle_days: input.value.idle,
      most_days: input.value.most,
      changed_by: person.name,
    })
    .execute()
  return ok(input.value)
}
