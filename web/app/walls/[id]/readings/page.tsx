import { ImportReadings } from '@/features/prove/record/import-readings'

export const metadata = { title: 'Readings' }

export default function Page() {
  return <ImportReadings />
}
