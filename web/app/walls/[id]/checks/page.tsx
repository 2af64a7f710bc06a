import { ChecksPage } from '@/features/prove/checks'

export default function Page() {
  return <ChecksPage />
}
