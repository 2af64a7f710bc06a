import { ImportReadings } from '@/features/record/import-readings'

export default function Page() {
  return <ImportReadings />
}
