import { People } from '@/features/people/people'
import { peopleOf } from '@/server/accounts'
import { requirePerson } from '@/server/page'
import { sessionRuleOf } from '@/server/sessions'

export const metadata = { title: 'People' }

export default async function Page() {
  const person = await requirePerson()
  const [people, rule] = await Promise.all([peopleOf(person.companyId), sessionRuleOf(person.companyId)])
  return <People me={{ id: person.id, name: person.name, role: person.role }} people={people} rule={rule} />
}
