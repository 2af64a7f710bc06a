import { GroundPage } from '@/features/ground'
import { requireWall } from '@/server/page'
import { revisionsOf } from '@/server/walls'

export default async function Page({
  params,
  searchParams,
}: {
  params: Promise<{ id: string }>
  searchParams: Promise<{ finding?: string; tab?: string }>
}) {
  const { person, wall } = await requireWall((await params).id)
  const plans = (await revisionsOf(wall.id)).map((r) => r.plan)
  const { finding, tab } = await searchParams
  return (
    <GroundPage
      wall={wall.id}
      name={wall.name}
      plans={plans}
      me={{ id: person.id, name: person.name, role: person.role }}
      {...(finding ? { finding } : {})}
      {...(tab ? { tab } : {})}
    />
  )
}
