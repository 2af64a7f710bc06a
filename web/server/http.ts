import { fail, ok, type Problem, type Result } from '@stone-tally/core'
import { asked, type Person, personOf } from './accounts'
import type { WallRow } from './walls'

/** Largest bodies by what they carry, bytes. */
export const BODY = { words: 4 * 1024, entries: 8 * 1024 * 1024, file: 21 * 1024 * 1024 }

/** JSON nested deeper than this is nothing of ours. */
const DEPTH_LIMIT = 64

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

const sized = (bytes: number) => (bytes < 1048576 ? `${Math.round(bytes / 1024)} kB` : `${bytes / 1048576} MB`)

/**
 * The bytes of a body, given up while they come in as soon as they are more than the limit: what a client says of the length is
 * not believed, and what is too long is never kept.
 *
 * @param limit - bytes
 * @param tooLarge - says so in the words of what is sent, with as many bytes as are known of
 */
export async function bytesOf(
  request: Request,
  limit: number,
  tooLarge: (bytes: number) => Result<never> = () => fail('body', `is over the limit of ${sized(limit)}`),
): Promise<Result<Buffer>> {
  const reader = request.body?.getReader()
  const said = Number(request.headers.get('content-length') ?? 0)
  if (said > limit) {
    await reader?.cancel().catch(() => {})
    return tooLarge(said)
  }
  const chunks: Uint8Array[] = []
  let size = 0
  for (;;) {
    const part = await reader?.read()
    if (!part || part.done) break
    size += part.value.byteLength
    if (size > limit) {
      await reader?.cancel().catch(() => {})
      return tooLarge(size)
    }
    chunks.push(part.value)
  }
  return ok(Buffer.concat(chunks))
}

/** Is JSON text nested deeper than the limit? Counted on the text: nothing is built from it first. */
function tooDeep(content: string): boolean {
  let depth = 0
  let quoted = false
  for (let i = 0; i < content.length; i++) {
    const c = content.charCodeAt(i)
    if (quoted) {
      if (c === 92) i++
      else if (c === 34) quoted = false
    } else if (c === 34) quoted = true
    else if (c === 91 || c === 123) {
      if (++depth > DEPTH_LIMIT) return true
    } else if (c === 93 || c === 125) depth--
  }
  return false
}

/**
 * The body as JSON, refused when too large, too deep or broken.
 *
 * @param limit - bytes, by what the route takes
 */
export async function bodyOf(request: Request, limit: number): Promise<Result<unknown>> {
  const bytes = await bytesOf(request, limit)
  if (!bytes.ok) return bytes
  let content: string
  try {
    content = new TextDecoder('utf-8', { fatal: true }).decode(bytes.value)
  } catch {
    return fail('body', 'is not text in UTF-8')
  }
  if (tooDeep(content)) return fail('body', `is nested more than ${DEPTH_LIMIT} deep`)
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

/** What PostgreSQL calls data it cannot keep, or that breaks a rule of its tables. */
const notKept = (error: unknown) => /^2[23]/.test(String((error as { code?: unknown } | null)?.code ?? ''))

/** Wraps a handler so that what fails is said in plain words: a value that cannot be kept is refused, a database that is away comes back. */
export const guarded =
  <A extends unknown[]>(handler: (...args: A) => Promise<Response>) =>
  async (...args: A): Promise<Response> => {
    try {
      return await handler(...args)
    } catch (error) {
      console.error(error)
      if (notKept(error)) return refuse(422, 'holds a value that cannot be kept: a number out of range, or a name that is taken or unknown')
      return refuse(503, 'the record could not be reached just now; try again')
    }
  }
