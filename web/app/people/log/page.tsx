import { notFound } from 'next/navigation'
import { SecurityLog } from '@/features/people/security-log'
import { requirePerson } from '@/server/page'
import { securityLogOf } from '@/server/security-log'

export const metadata = { title: 'Security log' }

export default async function Page() {
  const person = await requirePerson()
  // Who signed in when is for those who look after the company.
  if (person.role !== 'office' && person.role !== 'foreman') notFound()
  return <SecurityLog me={{ id: person.id, name: person.name, role: person.role }} lines={await securityLogOf(person.companyId)} />
}
