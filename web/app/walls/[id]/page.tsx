import { BoardPlace } from '@/features/house/pages'
import { nextSeen } from '@/server/glimpses'
import { requireWall } from '@/server/page'
import { hasSeen } from '@/server/planning'

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { person, wall } = await requireWall((await params).id)
  const [seen, walked] = await Promise.all([nextSeen(wall.id), hasSeen(person, 'walk')])
  return <BoardPlace seen={seen} walk={!walked} />
}
