import { CrewPage } from '@/features/build/crew/crew-page'

export default function Page() {
  return <CrewPage />
}
