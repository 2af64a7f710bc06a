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
  poweredByHeader: false,
  devIndicators: false,
  // Types are checked by bin/test, once.
  typescript: { ignoreBuildErrors: true },
}
