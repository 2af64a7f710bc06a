import { anything, type Problem, read, yup } from '@stone-tally/core'
import { bodyOf } from './bodies'
import { Busy } from './busy'
import { log } from './log'
import { type Asked, asked, endedSession, type Person } from './sessions'
import type { WallRow } from './wall-row'

export { BODY, wordOf } from './bodies'

/** So many fields at the top of a body at most; whatever reads it says which it knows. */
const FIELDS = 64
/** A field that is read later, by who knows it. */
export const whatever = () => anything().notRequired()
/** An object of any fields: what is in them is read by the function that is given it, by a schema of its own. */
export const ANY_FIELDS = yup.object().required('must be an object').nonNullable('must be an object') as unknown as yup.Schema<
  Readonly<Record<string, unknown>>
>

/**
 * The body of a request, read by its schema before anything touches it; or the refusal: 400 where it is no JSON, 422 where it is not what
 * is asked for.
 *
 * @param limit - bytes
 * @example const body = await bodyIn(request, BODY.words, record({ token: text(200) }))
 */
export async function bodyIn<S extends yup.ISchema<unknown>>(request: Request, limit: number, schema: S): Promise<yup.InferType<S> | Response> {
  const body = await bodyOf(request, limit)
  if (!body.ok) return refuse(400, body.problems)
  const { value } = body
  if (value === null || typeof value !== 'object' || Array.isArray(value)) return refuse(422, [{ field: 'body', message: 'must be an object' }])
  let fields = 0
  for (const _ in value) if (++fields > FIELDS) return refuse(422, [{ field: 'body', message: `has more than ${FIELDS} fields` }])
  const asked = read(schema as never, value)
  return asked.ok ? (asked.value as yup.InferType<S>) : refuse(422, asked.problems)
}

/** When to come again where nothing else is said, s: too busy, and too often. */
const AGAIN: Readonly<Record<number, number>> = { 503: 5, 429: 60 }
/** @param again - when to come again, s */
export const refuse = (status: number, problems: readonly Problem[] | string, again = AGAIN[status]) =>
  Response.json(
    { problems: typeof problems === 'string' ? [{ field: '', message: problems }] : problems },
    { status, ...(again === undefined ? {} : { headers: { 'retry-after': `${again}` } }) },
  )

/** Did this request come from a page of ours? Cookies alone do not tell. */
export function sameOrigin(request: Request): boolean {
  const origin = request.headers.get('origin')
  const host = request.headers.get('host')
  if (!origin || !host) return false
  try {
    return new URL(origin).host === host
  } catch {
    return false
  }
}

export const foreign = (request: Request) =>
  request.method !== 'GET' && !sameOrigin(request) ? refuse(403, 'this request did not come from a page of this application') : undefined

/**
 * How many requests of a session are answered in a minute, by what they take; counted by each process for itself. Somebody at work comes nowhere
 * near: a device that records every second, with its photos, is at a tenth of the first.
 */
const PER_MINUTE = { any: 3000, heavy: 30, people: 60 } as const
export type Route = keyof typeof PER_MINUTE
const counts = new Map<string, { minute: number; count: number }>()

/** The refusal of a request that came too often, or undefined. @param key - whose count it is, such as the id of a session */
export function tooOften(route: Route, key: string, now = Date.now()): Response | undefined {
  if (process.env.RATE_LIMITS === 'off') return undefined
  const minute = Math.floor(now / 60_000)
  const at = `${route} ${key}`
  const before = counts.get(at)
  const count = before?.minute === minute ? before.count + 1 : 1
  counts.set(at, { minute, count })
  if (counts.size > 20_000) for (const [k, c] of counts) if (c.minute !== minute) counts.delete(k)
  if (count <= PER_MINUTE[route]) return undefined
  return refuse(429, `this was asked for more than ${PER_MINUTE[route]} times in a minute; wait a moment and try again`)
}

/** `ended`: the office ended it, and the device gives back what it keeps. */
async function signedOut(request: Request): Promise<Response> {
  const message = 'you are signed out; sign in again, nothing you entered is lost'
  const ended = (await endedSession(request.headers)) !== undefined
  return Response.json({ problems: [{ field: '', message }], ...(ended ? { ended } : {}) }, { status: 401 })
}

/** Who asks; for a request that changes something also from the same origin. Or the refusal. */
export async function asking(request: Request): Promise<Person | Response> {
  const who = await askingWith(request)
  return who instanceof Response ? who : who.person
}

/** The same with the session. */
export async function askingWith(request: Request): Promise<Asked | Response> {
  const refused = foreign(request)
  if (refused) return refused
  const who = await asked(request.headers)
  return who ? (tooOften('any', who.session.id) ?? who) : signedOut(request)
}

/** The same with the wall it is about. */
export async function askingAbout(request: Request, wallId: string): Promise<(Asked & { wall: WallRow }) | Response> {
  const refused = foreign(request)
  if (refused) return refused
  const who = await asked(request.headers, wallId)
  if (!who) return signedOut(request)
  const often = tooOften('any', who.session.id)
  if (often) return often
  return who.wall ? { ...who, wall: who.wall } : refuse(404, 'there is no such wall')
}

/** The refusal of what is over a quota, with when to come again; undefined where it is another problem. @param problems - of a quota or not */
export function tooMuch(problems: readonly Problem[]): Response | undefined {
  if (problems[0]?.field !== 'quota') return undefined
  return refuse(429, problems, 3600)
}

/** What PostgreSQL calls data it cannot keep, or that breaks a rule of its tables. */
const notKept = (error: unknown) => /^2[23]/.test(String((error as { code?: unknown } | null)?.code ?? ''))

/** Wraps a handler so that what fails is said in plain words: a value that cannot be kept is refused, a database that is away comes back. */
export const guarded =
  <A extends unknown[]>(handler: (...args: A) => Promise<Response>) =>
  async (...args: A): Promise<Response> => {
    try {
      return await handler(...args)
    } catch (error) {
      if (error instanceof Busy) return refuse(503, error.message)
      // Somebody's odd value is refused like any other; it is nothing that whoever looks after the house has to see to.
      if (notKept(error)) {
        log.warn({ err: error }, 'a value that cannot be kept was refused')
        return refuse(422, 'holds a value that cannot be kept: a number out of range, a sign that is no letter, or a name that is taken or unknown')
      }
      log.error({ err: error })
      return refuse(503, 'the record could not be reached just now; try again')
    }
  }
