import { People } from '@/features/people/people'
import { peopleOf } from '@/server/accounts'
import { requirePerson } from '@/server/page'

export default async function Page() {
  const person = await requirePerson()
  const people = await peopleOf(person.companyId)
  return <People me={{ id: person.id, name: person.name, role: person.role }} people={people} />
}
