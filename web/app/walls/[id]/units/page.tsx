import { UnitsPlace } from '@/features/units'

export default function Page() {
  return <UnitsPlace />
}
