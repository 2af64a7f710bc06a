import { SawPage } from '@/features/build/saw/saw-page'

export default function Page() {
  return <SawPage />
}
