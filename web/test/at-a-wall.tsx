import type { ComponentProps, ReactNode } from 'react'
import { WallProvider } from '../features/wall'
import { PreferencesProvider } from '../ui/preferences'

/** Something that stands at a place of a wall, for a reader of some units by day. */
export const AtAWall = ({
  units,
  children,
  ...wall
}: Omit<ComponentProps<typeof WallProvider>, 'children'> & { units: 'metric' | 'imperial'; children?: ReactNode }) => (
  <PreferencesProvider units={units} theme="day">
    <WallProvider {...wall}>{children}</WallProvider>
  </PreferencesProvider>
)
