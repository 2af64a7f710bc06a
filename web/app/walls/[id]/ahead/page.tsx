import { AheadPage } from '@/features/ahead'
import { requireWall } from '@/server/page'
import { scatterFor } from '@/server/scatter'
import { revisionsOf } from '@/server/walls'

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { person, wall } = await requireWall((await params).id)
  const plans = (await revisionsOf(wall.id)).map((r) => r.plan)
  return (
    <AheadPage
      wall={wall.id}
      name={wall.name}
      plans={plans}
      me={{ id: person.id, name: person.name, role: person.role }}
      scatter={await scatterFor(person.companyId)}
    />
  )
}
