import { GroundPlace } from '@/features/house/pages'

export default function Page() {
  return <GroundPlace />
}
