import { LayersPage } from '@/features/build/layers'

export const metadata = { title: 'Layers' }

export default function Page() {
  return <LayersPage />
}
