import { redirect } from 'next/navigation'
import { SignIn } from '@/features/sign-in/sign-in'
import { hasPeople } from '@/server/accounts'
import { currentPerson } from '@/server/page'

export const metadata = { title: 'Sign in' }

export default async function Page() {
  if (await currentPerson()) redirect('/')
  if (!(await hasPeople())) redirect('/welcome')
  return <SignIn />
}
