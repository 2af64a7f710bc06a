import { LayersPage } from '@/features/build/layers'

export default function Page() {
  return <LayersPage />
}
