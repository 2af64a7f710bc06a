import type { ReactNode } from 'react'
import { Styles } from './styles'

export const metadata = { title: 'Bare' }

/** A page of the same framework with nothing on it: what every place of a wall is weighed against. */
export default function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        <Styles>{children}</Styles>
      </body>
    </html>
  )
}
