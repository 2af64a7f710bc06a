import { SawPage } from '@/features/saw/saw-page'
import { requireWall } from '@/server/page'
import { revisionsOf } from '@/server/walls'

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { person, wall } = await requireWall((await params).id)
  const plans = (await revisionsOf(wall.id)).map((r) => r.plan)
  const { id, name, role } = person
  return <SawPage me={{ id, name, role }} wall={wall.id} name={wall.name} plans={plans} />
}
