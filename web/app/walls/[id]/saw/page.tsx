import { SawPage } from '@/features/saw/saw-page'

export default function Page() {
  return <SawPage />
}
