import { UnitsPlace } from '@/features/plan/units'

export const metadata = { title: 'Units' }

export default function Page() {
  return <UnitsPlace />
}
