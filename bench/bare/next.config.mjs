/** @type {import('next').NextConfig} */
export default {
  turbopack: { root: process.env.BARE_ROOT },
  serverExternalPackages: ['pg'],
  compiler: { styledComponents: true },
  poweredByHeader: false,
  devIndicators: false,
  typescript: { ignoreBuildErrors: true },
}
