import { SetOut } from '@/features/set-out/set-out'
import { requireWall } from '@/server/page'
import { revisionsOf } from '@/server/walls'

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { person, wall } = await requireWall((await params).id)
  const { id, name, role } = person
  return <SetOut me={{ id, name, role }} wall={wall.id} name={wall.name} revisions={await revisionsOf(wall.id)} />
}
