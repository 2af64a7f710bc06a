import { WaterPage } from '@/features/build/water'

export const metadata = { title: 'Water' }

export default function Page() {
  return <WaterPage />
}
