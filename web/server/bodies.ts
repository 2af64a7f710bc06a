import { fail, ok, type Result } from '@stone-tally/core'

/** Largest bodies by what they carry, bytes. */
export const BODY = { words: 4 * 1024, entries: 8 * 1024 * 1024, file: 21 * 1024 * 1024 }

/** JSON nested deeper than this is nothing of ours. */
const DEPTH_LIMIT = 64

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

/**
 * One text field of a body; nothing where it is anything else. What somebody sends is never made into text: an object says itself what it reads as.
 *
 * @example wordOf({ token: { toString: 1 } }, 'token') // ''
 */
export function wordOf(body: unknown, name: string): string {
  const of = body !== null && typeof body === 'object' && Object.hasOwn(body, name) ? (body as Record<string, unknown>)[name] : undefined
  return typeof of === 'string' ? of : ''
}
