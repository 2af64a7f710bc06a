import { RecordPage } from '@/features/record/record-page'

export default function Page() {
  return <RecordPage />
}
