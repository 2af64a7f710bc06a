import { ChecksPage } from '@/features/checks'

export default function Page() {
  return <ChecksPage />
}
