import { LayersPage } from '@/features/layers'

export default function Page() {
  return <LayersPage />
}
