import { fail, ok, type Result } from '@stone-tally/core'

/** Largest bodies by what they carry, bytes. */
export const BODY = { words: 4 * 1024, entries: 4 * 1024 * 1024, file: 8 * 1024 * 1024 }

/**
 * What JSON of ours holds at most: how deep, how many objects and lists in all, fields of one object, items of one list. A plan of two kilometres
 * and a thousand entries stay under a tenth of it.
 */
export const SHAPE = { depth: 64, containers: 40_000, fields: 1_000, items: 100_000 }
/** Signs of text that are looked at before others get their turn; about two milliseconds. */
const STRETCH = 500_000

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

const turn = () => new Promise<void>((go) => setImmediate(go))

/**
 * What is wrong with the shape of JSON text: too deep, or too much of something. Counted on the text, nothing is built from it first; in stretches,
 * so that a long one holds nobody up.
 */
async function misshapen(content: string): Promise<string | undefined> {
  /** Of each that is open: is it an object, and how many items it has. */
  const open: { object: boolean; count: number }[] = []
  let containers = 0
  let rest = STRETCH
  for (let i = 0; i < content.length; i++) {
    if (i > rest) {
      rest = i + STRETCH
      await turn()
    }
    const c = content.charCodeAt(i)
    if (c === 34) {
      // To the end of the word at once; a quote behind an odd number of backslashes is a sign of it.
      for (;;) {
        i = content.indexOf('"', i + 1)
        if (i < 0) return undefined
        let back = i
        while (content.charCodeAt(back - 1) === 92) back--
        if ((i - back) % 2 === 0) break
        if (i > rest) {
          rest = i + STRETCH
          await turn()
        }
      }
    } else if (c === 91 || c === 123) {
      open.push({ object: c === 123, count: 1 })
      if (open.length > SHAPE.depth) return `is nested more than ${SHAPE.depth} deep`
      if (++containers > SHAPE.containers) return `holds more than ${SHAPE.containers.toLocaleString('en')} objects and lists`
    } else if (c === 93 || c === 125) open.pop()
    else if (c === 44) {
      const at = open[open.length - 1]
      if (!at) continue
      at.count++
      if (at.object && at.count > SHAPE.fields) return `has an object of more than ${SHAPE.fields.toLocaleString('en')} fields`
      if (at.count > SHAPE.items) return `has a list of more than ${SHAPE.items.toLocaleString('en')} items`
    }
  }
  return undefined
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
  if (content.length > STRETCH) await turn()
  const wrong = await misshapen(content)
  if (wrong) return fail('body', wrong)
  if (content.length > STRETCH) await turn()
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
