import { randomUUID } from 'node:crypto'
import { isIP } from 'node:net'
import {
  type AuthenticationResponseJSON,
  generateAuthenticationOptions,
  generateRegistrationOptions,
  type RegistrationResponseJSON,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
} from '@simplewebauthn/server'
import { fail, ok, type Result } from '@stone-tally/core'
import { beginSession, type SignedIn } from './accounts'
import { wordOf } from './bodies'
import { database } from './database'
import { isStill } from './is-still'
import { networkOf } from './network'
import { logged } from './security-log'
import type { Person } from './sessions'
import { tried } from './throttle'

/** How long a question to a passkey stands, ms. */
const ASKED = 5 * 60_000
/** Passkeys of one person. */
const MOST = 20

/** The house as a passkey knows it: the name it is served as. An address of numbers has none. */
function house(headers: Headers): Result<{ id: string; origin: string }> {
  const origin = headers.get('origin') ?? ''
  let name = ''
  try {
    name = new URL(origin).hostname
  } catch {
    return fail('', 'this request did not come from a page of this application')
  }
  if (isIP(name.replace(/[[\]]/g, '')) !== 0)
    return fail('', 'passkeys need a name, not an address of numbers; open Stone Tally by its name, on this machine as localhost')
  return ok({ id: name, origin })
}

/** A question is kept until it is answered, once; by any process. */
async function ask(challenge: string, of: string): Promise<void> {
  const { db } = database()
  await db.deleteFrom('verification').where('expiresAt', '<', new Date()).execute()
  await db
    .insertInto('verification')
    .values({ id: randomUUID(), identifier: `passkey ${of}`, value: challenge, expiresAt: new Date(Date.now() + ASKED) })
    .execute()
}
/** Was this asked, of whom it is answered by, and not answered yet? */
async function wasAsked(challenge: string, of: string): Promise<boolean> {
  const row = await database()
    .db.deleteFrom('verification')
    .where('value', '=', challenge)
    .where('identifier', '=', `passkey ${of}`)
    .where('expiresAt', '>', new Date())
    .returning('id')
    .executeTakeFirst()
  return row !== undefined
}

/** Passkeys of a person, by name. */
export async function passkeysOf(person: string): Promise<{ id: string; name: string; madeAt: string; usedAt: string | undefined }[]> {
  const rows = await database()
    .db.selectFrom('passkey')
    .select(['id', 'name', 'made_at', 'used_at'])
    .where('person', '=', person)
    .orderBy('made_at')
    .execute()
  return rows.map((r) => ({ id: r.id, name: r.name, madeAt: r.made_at.toISOString(), usedAt: r.used_at?.toISOString() }))
}

/** What a browser needs to make a passkey for this person. @param current - their password: another way in is given to nobody but them */
export async function passkeyWanted(person: Person, current: string, headers: Headers): Promise<Result<object>> {
  const rp = house(headers)
  if (!rp.ok) return rp
  const still = await isStill(person, current)
  if (!still.ok) return still
  const have = await database().db.selectFrom('passkey').select(['id', 'transports']).where('person', '=', person.id).execute()
  if (have.length >= MOST) return fail('', `${MOST} passkeys are here already; take one out first`)
  const options = await generateRegistrationOptions({
    rpName: 'Stone Tally',
    rpID: rp.value.id,
    userName: person.email,
    userDisplayName: person.name,
    userID: new TextEncoder().encode(person.id),
    attestationType: 'none',
    excludeCredentials: have.map((h) => ({ id: h.id })),
    authenticatorSelection: { residentKey: 'required', userVerification: 'required' },
  })
  await ask(options.challenge, person.id)
  return ok(options)
}

const challengeOf = (response: { response?: unknown } | null): string => {
  try {
    const data = JSON.parse(Buffer.from(wordOf(response?.response, 'clientDataJSON'), 'base64url').toString('utf8'))
    return typeof data?.challenge === 'string' ? data.challenge : ''
  } catch {
    return ''
  }
}
const REFUSED = 'the passkey did not answer what was asked; try again'

/** Keeps a passkey a browser made. @param name - as its owner calls it */
export async function passkeyMade(person: Person, value: unknown, request: Request): Promise<Result<{ id: string }>> {
  const rp = house(request.headers)
  if (!rp.ok) return rp
  const { name, response } = (value ?? {}) as { name?: unknown; response?: RegistrationResponseJSON }
  const called = (typeof name === 'string' ? name.trim() : '').slice(0, 60) || 'Passkey'
  const expectedChallenge = challengeOf(response ?? null)
  if (!response || !(await wasAsked(expectedChallenge, person.id))) return fail('', REFUSED)
  const made = await verifyRegistrationResponse({
    response,
    expectedChallenge,
    expectedOrigin: rp.value.origin,
    expectedRPID: rp.value.id,
    requireUserVerification: true,
  }).catch(() => undefined)
  if (!made?.verified) return fail('', REFUSED)
  const { credential } = made.registrationInfo
  const kept = await database()
    .db.insertInto('passkey')
    .values({
      id: credential.id,
      person: person.id,
      public_key: Buffer.from(credential.publicKey),
      counter: credential.counter,
      transports: JSON.stringify(credential.transports ?? []),
      name: called,
      used_at: null,
    })
    .onConflict((c) => c.doNothing())
    .returning('id')
    .executeTakeFirst()
  if (!kept) return fail('', 'this passkey is here already')
  await logged('passkey added', request, person, called)
  return ok({ id: credential.id })
}

/** Takes a passkey of one's own out. */
export async function removePasskey(person: Person, id: string, request: Request): Promise<boolean> {
  const gone = await database().db.deleteFrom('passkey').where('id', '=', id).where('person', '=', person.id).returning('name').executeTakeFirst()
  if (gone) await logged('passkey removed', request, person, gone.name)
  return gone !== undefined
}

/** What a browser needs to sign somebody in with whatever passkey they choose. */
export async function passkeyAsked(headers: Headers): Promise<Result<object>> {
  const rp = house(headers)
  if (!rp.ok) return rp
  const allowed = await tried('passkey', networkOf(headers), '')
  if (!allowed.ok) return allowed
  const options = await generateAuthenticationOptions({ rpID: rp.value.id, userVerification: 'required' })
  await ask(options.challenge, 'anybody')
  return ok(options)
}

/** Signs in whose passkey answered. */
export async function signInByPasskey(value: unknown, headers: Headers): Promise<Result<SignedIn>> {
  const rp = house(headers)
  if (!rp.ok) return rp
  const response = value as AuthenticationResponseJSON | null
  const expectedChallenge = challengeOf(response)
  const id = typeof response?.id === 'string' ? response.id.slice(0, 1400) : ''
  if (!response || !(await wasAsked(expectedChallenge, 'anybody'))) return fail('', REFUSED)
  const { db } = database()
  const key = await db
    .selectFrom('passkey')
    .innerJoin('user', 'user.id', 'passkey.person')
    .select(['passkey.id', 'passkey.public_key', 'passkey.counter', 'user.id as person', 'user.name', 'user.companyId'])
    .where('passkey.id', '=', id)
    .where('user.removed_at', 'is', null)
    .executeTakeFirst()
  if (!key) {
    await logged('sign-in refused', headers, undefined, 'a passkey nobody has')
    return fail('', 'this passkey is not known here; sign in with your password and add it')
  }
  const answer = await verifyAuthenticationResponse({
    response,
    expectedChallenge,
    expectedOrigin: rp.value.origin,
    expectedRPID: rp.value.id,
    requireUserVerification: true,
    credential: { id: key.id, publicKey: new Uint8Array(key.public_key), counter: Number(key.counter) },
  }).catch(() => undefined)
  const person = { id: key.person, name: key.name, companyId: key.companyId }
  if (!answer?.verified) {
    await logged('sign-in refused', headers, person, 'passkey')
    return fail('', REFUSED)
  }
  await db.updateTable('passkey').set({ counter: answer.authenticationInfo.newCounter, used_at: new Date() }).where('id', '=', key.id).execute()
  return ok(await beginSession(headers, person, 'passkey'))
}
