import { Outside } from '@/features/prove/outside/outside'

export const metadata = { title: 'Please look' }

export default function Page() {
  return <Outside />
}
