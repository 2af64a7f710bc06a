import { RecordPage } from '@/features/prove/record/record-page'

export const metadata = { title: 'Record' }

export default function Page() {
  return <RecordPage />
}
