'use client'

import { useServerInsertedHTML } from 'next/navigation'
import { type ReactNode, useState } from 'react'
import { ServerStyleSheet, StyleSheetManager } from 'styled-components'

/** Puts the styles into the server's HTML, so that nothing flashes unstyled. */
export function StyleRegistry({ nonce, children }: { nonce: string | undefined; children: ReactNode }) {
  const [sheet] = useState(() => new ServerStyleSheet(nonce === undefined ? {} : { nonce }))
  useServerInsertedHTML(() => {
    const styles = sheet.getStyleElement()
    sheet.instance.clearTag()
    return styles
  })
  if (typeof window !== 'undefined') return children
  return <StyleSheetManager sheet={sheet.instance}>{children}</StyleSheetManager>
}
