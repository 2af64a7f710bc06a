import { redirect } from 'next/navigation'
import { SignIn } from '@/features/sign-in/sign-in'
import { hasCompany } from '@/server/accounts'
import { currentPerson } from '@/server/page'

export default async function Page() {
  if (await currentPerson()) redirect('/')
  if (!(await hasCompany())) redirect('/welcome')
  return <SignIn />
}
