import { Outside } from '@/features/prove/outside/outside'

export const metadata = { title: 'Please look · Stone Tally' }

export default function Page() {
  return <Outside />
}
