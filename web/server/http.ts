import type { Problem } from '@stone-tally/core'
import { log } from './log'
import { SignInBusy } from './passwords'
import { type Asked, asked, endedSession, type Person } from './sessions'
import type { WallRow } from './wall-row'

export { BODY, bodyOf } from './bodies'

export const refuse = (status: number, problems: readonly Problem[] | string) =>
  Response.json({ problems: typeof problems === 'string' ? [{ field: '', message: problems }] : problems }, { status })

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
  return foreign(request) ?? (await asked(request.headers)) ?? signedOut(request)
}

/** The same with the wall it is about. */
export async function askingAbout(request: Request, wallId: string): Promise<(Asked & { wall: WallRow }) | Response> {
  const refused = foreign(request)
  if (refused) return refused
  const who = await asked(request.headers, wallId)
  if (!who) return signedOut(request)
  return who.wall ? { ...who, wall: who.wall } : refuse(404, 'there is no such wall')
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
      if (error instanceof SignInBusy) return refuse(503, error.message)
      log.error({ err: error })
      if (notKept(error)) return refuse(422, 'holds a value that cannot be kept: a number out of range, or a name that is taken or unknown')
      return refuse(503, 'the record could not be reached just now; try again')
    }
  }
