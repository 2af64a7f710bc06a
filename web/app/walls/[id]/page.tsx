import { Board } from '@/features/board/board'
import { requireWall } from '@/server/page'
import { revisionsOf } from '@/server/walls'

export default async function Page({ params, searchParams }: { params: Promise<{ id: string }>; searchParams: Promise<{ step?: string }> }) {
  const { person, wall } = await requireWall((await params).id)
  const plans = (await revisionsOf(wall.id)).map((r) => r.plan)
  const { step } = await searchParams
  return (
    <Board
      wall={wall.id}
      name={wall.name}
      plans={plans}
      me={{ id: person.id, name: person.name, role: person.role }}
      {...(step ? { open: step } : {})}
    />
  )
}
