import { SawPage } from '@/features/build/saw/saw-page'

export const metadata = { title: 'Saw day' }

export default function Page() {
  return <SawPage />
}
