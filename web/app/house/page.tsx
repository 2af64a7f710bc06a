import { House } from '@/features/people/house'
import { installationKey } from '@/server/checkpoints'
import { healthOf } from '@/server/health'
import { missingWalls } from '@/server/house-marks'
import { requirePerson } from '@/server/page'

export const metadata = { title: 'The house' }

export default async function Page() {
  const person = await requirePerson()
  const parts = await healthOf()
  // Of another company nothing is named.
  const up = parts.every((p) => p.part !== 'database' || p.is === 'well')
  const missing = up ? (await missingWalls()).filter((m) => m.company === person.companyId || m.company === '') : []
  return (
    <House
      me={{ id: person.id, name: person.name, role: person.role }}
      parts={parts}
      signs={installationKey()}
      missing={missing.map(({ id, name, says }) => ({ id, name, says }))}
    />
  )
}
