import type { ReactNode } from 'react'
import { HiddenWall } from '@/features/yard/hidden-wall'
import { requireWall } from '@/server/page'
import { whyNotShown } from '@/server/walls'

/** Every page of a wall; where its plan cannot be laid out here, why, with its record to save. */
export default async function Layout({ children, params }: { children: ReactNode; params: Promise<{ id: string }> }) {
  const { person, wall } = await requireWall((await params).id)
  const why = await whyNotShown(wall.id)
  return why === undefined ? (
    children
  ) : (
    <HiddenWall me={{ id: person.id, name: person.name, role: person.role }} id={wall.id} name={wall.name} why={why} />
  )
}
