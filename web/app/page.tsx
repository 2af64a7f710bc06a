import { Yard } from '@/features/yard/yard'
import { requirePerson } from '@/server/page'
import { yardOf } from '@/server/yard'

export const metadata = { title: 'Yard · Stone Tally' }

export default async function Page() {
  const person = await requirePerson()
  return <Yard me={person} {...(await yardOf(person))} />
}
