import { notFound } from 'next/navigation'
import { UnitsOf } from '@/features/units'
import { requireWall } from '@/server/page'
import { revisionsOf } from '@/server/walls'

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { person, wall } = await requireWall((await params).id)
  const last = (await revisionsOf(wall.id)).pop()
  if (!last) notFound()
  const { id, name, role } = person
  return <UnitsOf me={{ id, name, role }} wall={wall.id} name={wall.name} plan={last.plan} />
}
