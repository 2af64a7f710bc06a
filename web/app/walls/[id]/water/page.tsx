import { WaterPage } from '@/features/water'

export default function Page() {
  return <WaterPage />
}
