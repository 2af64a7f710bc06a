import { DevicePage } from '@/features/device'
import { requirePerson } from '@/server/page'

export const metadata = { title: 'This device' }

export default async function Page() {
  const { id, name, role } = await requirePerson()
  return <DevicePage me={{ id, name, role }} />
}
