import { MyPage } from '@/features/people/me'
import { requirePerson } from '@/server/page'

export const metadata = { title: 'Your sign-in' }

export default async function Page() {
  const person = await requirePerson()
  return <MyPage me={{ id: person.id, name: person.name, role: person.role }} email={person.email} />
}
