import { CrewPage } from '@/features/build/crew/crew-page'

export const metadata = { title: 'Crew sheet' }

export default function Page() {
  return <CrewPage />
}
