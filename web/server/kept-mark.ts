import { createHmac, timingSafeEqual } from 'node:crypto'

/**
 * The mark of something that is worked out from a record and kept beside it, so that whoever changes it where it lies changes nothing that is shown:
 * made by the secret of the installation, of what it says, of the state of the sources, and of the link it stands at.
 *
 * @returns the empty text where the sources have no name or the installation no secret: nothing is kept then
 * @example keptMark(body, wall, `${head.seq}`, head.hash)
 */
export function keptMark(body: string, ...at: readonly string[]): string {
  const [build, secret] = [process.env.BUILT_FROM ?? '', process.env.AUTH_SECRET ?? '']
  if (build === '' || secret === '') return ''
  return createHmac('sha256', secret)
    .update(['kept', build, ...at, body].map((p) => `${p.length}:${p}`).join('\n'))
    .digest('base64url')
}

/** Does what is kept bear its mark? */
export function bearsMark(mark: string, body: string, ...at: readonly string[]): boolean {
  const [own, given] = [Buffer.from(keptMark(body, ...at)), Buffer.from(mark)]
  return own.length > 0 && own.length === given.length && timingSafeEqual(own, given)
}
