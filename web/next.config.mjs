import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = join(dirname(fileURLToPath(import.meta.url)), '..')

/** On every answer, pages, scripts and files alike. */
const HEADERS = [
  // A device tells the house from whatever else answers on its way there.
  ['x-house', '1'],
  // Nobody puts a page of ours into theirs, sends its forms elsewhere, or has it load a plug-in.
  ['content-security-policy', "frame-ancestors 'none'; base-uri 'self'; form-action 'self'; object-src 'none'"],
  ['x-frame-options', 'DENY'],
  ['x-content-type-options', 'nosniff'],
  // Addresses of walls are nobody else's.
  ['referrer-policy', 'same-origin'],
  ['cross-origin-opener-policy', 'same-origin'],
  ['cross-origin-resource-policy', 'same-origin'],
  // The camera is for photos; nothing else is asked of a device.
  ['permissions-policy', 'camera=(self), microphone=(), geolocation=(), payment=(), usb=(), serial=()'],
].map(([key, value]) => ({ key, value }))

/** @type {import('next').NextConfig} */
export default {
  output: 'standalone',
  outputFileTracingRoot: root,
  turbopack: { root },
  transpilePackages: ['@stone-tally/core'],
  serverExternalPackages: ['pg', 'sharp', 'exifr'],
  compiler: { styledComponents: true },
  headers: async () => [{ source: '/:path*', headers: HEADERS }],
  poweredByHeader: false,
  devIndicators: false,
  // Types are checked by bin/test, once.
  typescript: { ignoreBuildErrors: true },
}
