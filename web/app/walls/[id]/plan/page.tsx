import { notFound } from 'next/navigation'
import { PlanForm } from '@/features/plan/plan/plan-form'
import { peopleOf } from '@/server/accounts'
import { catalogueOf } from '@/server/catalogue'
import { requireWall } from '@/server/page'
import { levelsFor } from '@/server/rules'
import { revisionsOf } from '@/server/walls'

export const metadata = { title: 'Plan' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { person, wall } = await requireWall((await params).id)
  const last = (await revisionsOf(wall.id)).pop()
  if (!last) notFound()
  const { id, name, role } = person
  const { company, site } = await levelsFor(person.companyId, wall.site)
  return (
    <PlanForm
      me={{ id, name, role }}
      catalogue={await catalogueOf(person.companyId)}
      // A wall stands where it was made, whatever its site is called since.
      levels={{ company, sites: { [last.plan.site]: site } }}
      wall={{ id: wall.id, name: wall.name, revision: last.number, plan: last.plan, madeUp: wall.madeUp, away: wall.away !== undefined }}
      people={(await peopleOf(person.companyId)).map((p) => ({ name: p.name, role: p.role }))}
    />
  )
}
