import { notFound } from 'next/navigation'
import { PolePage } from '@/features/pole/pole-page'
import { requireWall } from '@/server/page'
import { revisionsOf } from '@/server/walls'

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { person, wall } = await requireWall((await params).id)
  const last = (await revisionsOf(wall.id)).pop()
  if (!last) notFound()
  const { id, name, role } = person
  return <PolePage me={{ id, name, role }} wall={wall.id} name={wall.name} plan={last.plan} revision={last.number} />
}
