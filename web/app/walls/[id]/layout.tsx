import type { ReactNode } from 'react'
import { Outlet } from '@/features/house/outlet'
import { FaultBar } from '@/features/wall/fault-bar'
import { WallProvider } from '@/features/wall/provider'
import { AwayBar } from '@/features/yard/away-bar'
import { HiddenWall } from '@/features/yard/hidden-wall'
import { noteGiven } from '@/server/given'
import { currentAsked, requireWall } from '@/server/page'
import { headOf } from '@/server/record-store'
import { saidFault } from '@/server/verify'
import { revisionsOf, whyNotShown } from '@/server/walls'

export async function generateMetadata({ params }: { params: Promise<{ id: string }> }) {
  const { name } = (await requireWall((await params).id)).wall
  return { title: { template: `${name} · %s · Stone Tally`, default: `${name} · Board · Stone Tally` } }
}

/** Every page of a wall; where its plan cannot be laid out here, why, with its record to save. */
export default async function Layout({ children, params }: { children: ReactNode; params: Promise<{ id: string }> }) {
  const { person, wall } = await requireWall((await params).id)
  const me = { id: person.id, name: person.name, role: person.role }
  const why = await whyNotShown(wall.id)
  if (why !== undefined) return <HiddenWall me={me} id={wall.id} name={wall.name} why={why} />
  const [revisions, head, fault] = await Promise.all([revisionsOf(wall.id), headOf(wall.id), saidFault(wall.id)])
  const plans = revisions.map((r) => r.plan)
  const asked = await currentAsked()
  if (asked) await noteGiven(asked.session.id, wall.id, plans.length)
  // Another revision, or another person, is another start.
  return (
    <WallProvider key={`${wall.id} ${plans.length} ${me.id}`} wall={wall.id} name={wall.name} me={me} plans={plans} head={head.seq}>
      {fault ? <FaultBar wall={wall.id} message={fault.message} looked={fault.looked} /> : null}
      {wall.away ? <AwayBar by={wall.away.by} at={wall.away.at} why={wall.away.why} /> : null}
      <Outlet wall={wall.id}>{children}</Outlet>
    </WallProvider>
  )
}
