import { BoardPlace } from '@/features/house/pages'
import { nextSeen } from '@/server/glimpses'
import { requireWall } from '@/server/page'

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { wall } = await requireWall((await params).id)
  return <BoardPlace seen={await nextSeen(wall.id)} />
}
