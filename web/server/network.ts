/** Header that our own front writes the address of the connection into; what a client sends under this name is thrown away there. */
export const PEER = 'x-tally-peer'

/** Is what stands before us trusted to say who asks, and how? */
const behindProxy = () => process.env.TRUST_PROXY === '1'

/** The address a request came from. Behind a proxy of ours it is the last one in the list: whatever stands before it a client may have written. */
export function addressOf(headers: Headers): string {
  const peer = headers.get(PEER) ?? ''
  if (!behindProxy()) return peer
  return headers.get('x-forwarded-for')?.split(',').pop()?.trim() || peer
}

/**
 * The network a request came from, by which tries are counted: an address of IPv4, the first 64 bits of one of IPv6, since whoever has one of
 * those has them all.
 *
 * @example networkOf(headers) // '2001:db8:0:1::/64'
 */
export function networkOf(headers: Headers): string {
  const address = addressOf(headers).replace(/^::ffff:(?=\d+\.)/, '')
  if (!address.includes(':')) return address
  const [before = '', after] = address.split('%')[0]?.split('::') ?? []
  const left = before === '' ? [] : before.split(':')
  const right = after === undefined || after === '' ? [] : after.split(':')
  const all = after === undefined ? left : [...left, ...Array.from({ length: Math.max(0, 8 - left.length - right.length) }, () => '0'), ...right]
  return `${all
    .slice(0, 4)
    .map((p) => Number.parseInt(p || '0', 16).toString(16))
    .join(':')}::/64`
}

/** Did it come over TLS? A process of its own speaks none: the proxy says so, where it is trusted. */
export const isSecure = (headers: Headers): boolean => behindProxy() && headers.get('x-forwarded-proto')?.split(',').pop()?.trim() === 'https'
