import { ChecksPage } from '@/features/prove/checks'

export const metadata = { title: 'Checks' }

export default function Page() {
  return <ChecksPage />
}
