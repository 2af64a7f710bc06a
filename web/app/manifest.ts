import type { MetadataRoute } from 'next'

/** How a device installs the application. */
export default function manifest(): MetadataRoute.Manifest {
  return {
    id: '/',
    name: 'Stone Tally',
    short_name: 'Stone Tally',
    description: 'Plan and record a retaining wall, course by course',
    start_url: '/',
    scope: '/',
    display: 'standalone',
    background_color: '#fbfaf6',
    theme_color: '#fbfaf6',
    icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
  }
}
