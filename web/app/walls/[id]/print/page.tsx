import { PrintRecord } from '@/features/prove/record/print'
import { requireWall } from '@/server/page'
import { chainOf } from '@/server/record-store'
import { revisionsOf } from '@/server/walls'

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { person, wall } = await requireWall((await params).id)
  const plans = (await revisionsOf(wall.id)).map((r) => r.plan)
  const { entries, head } = await chainOf(wall.id)
  return (
    <PrintRecord
      name={wall.name}
      plans={plans}
      entries={entries}
      head={head}
      printed={new Date().toISOString()}
      me={{ id: person.id, name: person.name, role: person.role }}
    />
  )
}
