import '@fontsource-variable/archivo/index.css'
import '@fontsource/barlow-condensed/500.css'
import '@fontsource/barlow-condensed/600.css'
import type { Metadata, Viewport } from 'next'
import type { ReactNode } from 'react'
import { Courier } from '@/features/device/courier'
import { preferences } from '@/server/page'
import { PreferencesProvider } from '@/ui/preferences'
import { StyleRegistry } from '@/ui/registry'
import { GlobalStyle } from '@/ui/theme'
import { Version } from '@/ui/version'

export const metadata: Metadata = { title: 'Stone Tally', description: 'Plan and record a retaining wall, course by course' }
export const viewport: Viewport = { width: 'device-width', initialScale: 1, themeColor: '#fbfaf6' }

export default async function RootLayout({ children }: { children: ReactNode }) {
  const { units, theme } = await preferences()
  return (
    <html lang="en" data-theme={theme}>
      <body>
        <StyleRegistry>
          <GlobalStyle />
          <PreferencesProvider units={units} theme={theme}>
            <Version />
            <Courier />
            {children}
          </PreferencesProvider>
        </StyleRegistry>
      </body>
    </html>
  )
}
