import { Join } from '@/features/sign-in/join'

export const metadata = { title: 'Link' }

export default function Page() {
  return <Join />
}
