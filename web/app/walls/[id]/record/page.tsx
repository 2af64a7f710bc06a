import { RecordPage } from '@/features/prove/record/record-page'

export default function Page() {
  return <RecordPage />
}
