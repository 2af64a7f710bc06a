import { People } from '@/features/people/people'
import { peopleOf } from '@/server/accounts'
import { requirePerson } from '@/server/page'
import { invitationsOf } from '@/server/people'
import { sessionRuleOf } from '@/server/sessions'

export const metadata = { title: 'People' }

export default async function Page() {
  const person = await requirePerson()
  const adds = person.role === 'office' || person.role === 'foreman'
  const [people, rule, waiting] = await Promise.all([
    peopleOf(person.companyId),
    sessionRuleOf(person.companyId),
    adds ? invitationsOf(person.companyId) : [],
  ])
  return <People me={{ id: person.id, name: person.name, role: person.role }} people={people} rule={rule} waiting={waiting} />
}
