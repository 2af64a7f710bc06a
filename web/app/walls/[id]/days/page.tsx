import { DaysPage } from '@/features/build/days'

export const metadata = { title: 'Days' }

export default function Page() {
  return <DaysPage />
}
