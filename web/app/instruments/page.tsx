import { InstrumentsPage } from '@/features/instruments'
import { requirePerson } from '@/server/page'

export const metadata = { title: 'Instruments' }

export default async function Page() {
  const person = await requirePerson()
  return <InstrumentsPage me={{ id: person.id, name: person.name, role: person.role }} />
}
