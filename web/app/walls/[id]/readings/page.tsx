import { ImportReadings } from '@/features/prove/record/import-readings'

export default function Page() {
  return <ImportReadings />
}
