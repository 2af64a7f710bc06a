import { DaysPage } from '@/features/build/days'

export default function Page() {
  return <DaysPage />
}
