import { UnitsPlace } from '@/features/plan/units'

export default function Page() {
  return <UnitsPlace />
}
