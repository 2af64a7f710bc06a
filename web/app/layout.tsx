import '@fontsource-variable/archivo/index.css'
import '@fontsource/barlow-condensed/500.css'
import '@fontsource/barlow-condensed/600.css'
import type { Metadata, Viewport } from 'next'
import { headers } from 'next/headers'
import type { ReactNode } from 'react'
import { Courier } from '@/features/device/courier'
import { fonts } from '@/server/fonts'
import { preferences } from '@/server/page'
import { NonceContext } from '@/ui/nonce'
import { PreferencesProvider } from '@/ui/preferences'
import { StyleRegistry } from '@/ui/registry'
import { GlobalStyle } from '@/ui/theme'
import { Version } from '@/ui/version'

export const metadata: Metadata = {
  title: { default: 'Stone Tally', template: '%s · Stone Tally' },
  description: 'Plan and record a retaining wall, course by course',
}
export const viewport: Viewport = { width: 'device-width', initialScale: 1, themeColor: '#fbfaf6' }

export default async function RootLayout({ children }: { children: ReactNode }) {
  const { units, theme } = await preferences()
  const nonce = (await headers()).get('x-nonce') ?? undefined
  return (
    <html lang="en" data-theme={theme}>
      <head>
        {fonts().map((href) => (
          <link key={href} rel="preload" as="font" type="font/woff2" crossOrigin="anonymous" href={href} />
        ))}
      </head>
      <body>
        <StyleRegistry nonce={nonce}>
          <GlobalStyle />
          <NonceContext value={nonce}>
            <PreferencesProvider units={units} theme={theme}>
              <Version />
              <Courier />
              {children}
            </PreferencesProvider>
          </NonceContext>
        </StyleRegistry>
      </body>
    </html>
  )
}
