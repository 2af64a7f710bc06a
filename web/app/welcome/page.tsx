import { redirect } from 'next/navigation'
import { Welcome } from '@/features/sign-in/welcome'
import { hasCompany } from '@/server/accounts'

export const dynamic = 'force-dynamic'
export default async function Page() {
  if (await hasCompany()) redirect('/sign-in')
  return <Welcome />
}
