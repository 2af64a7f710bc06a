import { CrewPage } from '@/features/crew/crew-page'

export default function Page() {
  return <CrewPage />
}
