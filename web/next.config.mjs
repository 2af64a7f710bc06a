import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = join(dirname(fileURLToPath(import.meta.url)), '..')

/** @type {import('next').NextConfig} */
export default {
  output: 'standalone',
  outputFileTracingRoot: root,
  turbopack: { root },
  transpilePackages: ['@stone-tally/core'],
  serverExternalPackages: ['pg', 'sharp', 'exifr'],
  compiler: { styledComponents: true },
  // A device tells the house from whatever else answers on its way there.
  headers: async () => [{ source: '/:path*', headers: [{ key: 'x-house', value: '1' }] }],
  poweredByHeader: false,
  devIndicators: false,
  // Types are checked by bin/test, once.
  typescript: { ignoreBuildErrors: true },
}
