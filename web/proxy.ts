import { randomBytes } from 'node:crypto'
import { type NextRequest, NextResponse } from 'next/server'
import { isSecure } from './server/network'

/**
 * What a page may load and do: scripts and styles of ours alone, told from anybody else's by a number that is another for every answer. Styles
 * that stand at an element are set by the drawings; they load and run nothing.
 */
const policy = (nonce: string) =>
  [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'`,
    `style-src-elem 'self' 'nonce-${nonce}'`,
    "style-src-attr 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "manifest-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ')

/** Two years, over TLS alone. */
const HSTS = 'max-age=63072000'

export function proxy(request: NextRequest) {
  const nonce = randomBytes(18).toString('base64')
  const headers = new Headers(request.headers)
  headers.set('content-security-policy', policy(nonce))
  headers.set('x-nonce', nonce)
  const response = NextResponse.next({ request: { headers } })
  response.headers.set('content-security-policy', policy(nonce))
  if (isSecure(request.headers)) response.headers.set('strict-transport-security', HSTS)
  return response
}

export const config = {
  // Pages alone: what is no page carries the headers of next.config, and entries are recorded without this on their way.
  matcher: ['/((?!api/|_next/static|_next/image|sw.js|manifest.webmanifest|icon).*)'],
}
