import { GroundPlace } from '@/features/house/pages'

export const metadata = { title: 'Dig and pad' }

export default function Page() {
  return <GroundPlace />
}
