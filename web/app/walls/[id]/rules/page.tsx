import { notFound } from 'next/navigation'
import { RuleBookPage } from '@/features/plan/rules'
import { requireWall } from '@/server/page'
import { keepersOf, levelsFor } from '@/server/rules'
import { revisionsOf } from '@/server/walls'

export const metadata = { title: 'Rules' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { person, wall } = await requireWall((await params).id)
  const revisions = await revisionsOf(wall.id)
  const last = revisions[revisions.length - 1]
  if (!last) notFound()
  const levels = await levelsFor(person.companyId, wall.site)
  return (
    <RuleBookPage
      me={{ id: person.id, name: person.name, role: person.role }}
      of={{ level: 'wall', id: wall.id, name: wall.name, plan: last.plan, company: levels.company, site: levels.site }}
      revision={last.number}
      sites={[]}
      history={[]}
      walls={[]}
      keepers={keepersOf(levels.company)}
    />
  )
}
