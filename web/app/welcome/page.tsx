import { redirect } from 'next/navigation'
import { Welcome } from '@/features/sign-in/welcome'
import { hasPeople } from '@/server/accounts'

export const dynamic = 'force-dynamic'
export const metadata = { title: 'Set up' }

export default async function Page() {
  if (await hasPeople()) redirect('/sign-in')
  return <Welcome />
}
