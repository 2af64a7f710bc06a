'use client'

import { useServerInsertedHTML } from 'next/navigation'
import { type ReactNode, useState } from 'react'
import { ServerStyleSheet, StyleSheetManager } from 'styled-components'

/** Styles in the server's HTML, as the application does it. */
export function Styles({ children }: { children: ReactNode }) {
  const [sheet] = useState(() => new ServerStyleSheet())
  useServerInsertedHTML(() => sheet.getStyleElement())
  if (typeof window !== 'undefined') return children
  return <StyleSheetManager sheet={sheet.instance}>{children}</StyleSheetManager>
}
