import { AheadPage } from '@/features/build/ahead'
import { requirePerson } from '@/server/page'
import { scatterFor } from '@/server/scatter'

export const metadata = { title: 'Ahead' }

export default async function Page() {
  const person = await requirePerson()
  return <AheadPage scatter={await scatterFor(person.companyId)} />
}
