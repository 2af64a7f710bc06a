import { fail, ok, type Problem, type Result } from '@stone-tally/core'
import { asked, type Person, personOf } from './accounts'
import type { WallRow } from './walls'

/** Largest request body, bytes: a file of 20 MB and a little. */
const BODY_LIMIT = 21 * 1024 * 1024

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

/** The body as JSON, refused when too large or broken. */
export async function bodyOf(request: Request): Promise<Result<unknown>> {
  const tooLarge = () => fail('body', `is over the limit of ${BODY_LIMIT / 1048576} MB`)
  if (Number(request.headers.get('content-length') ?? 0) > BODY_LIMIT) return tooLarge()
  const content = await request.text()
  if (content.length > BODY_LIMIT) return tooLarge()
  try {
    return ok(JSON.parse(content))
  } catch {
    return fail('body', 'is not complete JSON')
  }
}

const foreign = (request: Request) =>
  request.method !== 'GET' && !sameOrigin(request) ? refuse(403, 'this request did not come from a page of this application') : undefined
const signedOut = () => refuse(401, 'you are signed out; sign in again, nothing you entered is lost')

/** Who asks; for a request that changes something also from the same origin. Or the refusal. */
export async function asking(request: Request): Promise<Person | Response> {
  return foreign(request) ?? (await personOf(request.headers)) ?? signedOut()
}

/** The same with the wall it is about. */
export async function askingAbout(request: Request, wallId: string): Promise<{ person: Person; wall: WallRow } | Response> {
  const refused = foreign(request)
  if (refused) return refused
  const who = await asked(request.headers, wallId)
  if (!who) return signedOut()
  return who.wall ? { person: who.person, wall: who.wall } : refuse(404, 'there is no such wall')
}

/** Wraps a handler so that a database that is away is said in plain words. */
export const guarded =
  <A extends unknown[]>(handler: (...args: A) => Promise<Response>) =>
  async (...args: A): Promise<Response> => {
    try {
      return await handler(...args)
    } catch (error) {
      console.error(error)
      return refuse(503, 'the record could not be reached; nothing was lost, try again')
    }
  }
