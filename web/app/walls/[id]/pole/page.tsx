import { PolePage } from '@/features/pole/pole-page'

export default function Page() {
  return <PolePage />
}
