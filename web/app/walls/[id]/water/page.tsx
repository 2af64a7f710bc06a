import { WaterPage } from '@/features/build/water'

export default function Page() {
  return <WaterPage />
}
