import { House } from '@/features/people/house'
import { installationKey } from '@/server/checkpoints'
import { healthOf } from '@/server/health'
import { requirePerson } from '@/server/page'

export const metadata = { title: 'The house' }

export default async function Page() {
  const person = await requirePerson()
  return <House me={{ id: person.id, name: person.name, role: person.role }} parts={await healthOf()} signs={installationKey()} />
}
