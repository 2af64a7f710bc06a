import { YardDays } from '@/features/yard/yard-days'
import { requirePerson } from '@/server/page'
import { daysOf, MOST_CREWS } from '@/server/programmes'

export const metadata = { title: 'Days of all walls' }

export default async function Page({ searchParams }: { searchParams: Promise<{ crews?: string }> }) {
  const person = await requirePerson()
  const asked = Number((await searchParams).crews ?? 2)
  const crews = Number.isInteger(asked) && asked >= 1 && asked <= MOST_CREWS ? asked : 2
  const today = new Date().toISOString().slice(0, 10)
  const { id, name, role } = person
  return <YardDays me={{ id, name, role }} crews={crews} today={today} {...(await daysOf(person, today, crews))} />
}
