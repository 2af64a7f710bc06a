import { SetOut } from '@/features/plan/set-out/set-out'
import { requireWall } from '@/server/page'
import { revisionsOf } from '@/server/walls'

export const metadata = { title: 'Set-out' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { wall } = await requireWall((await params).id)
  return <SetOut revisions={await revisionsOf(wall.id)} />
}
