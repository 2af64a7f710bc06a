import { Join } from '@/features/sign-in/join'

export default function Page() {
  return <Join />
}
