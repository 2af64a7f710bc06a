import { PolePage } from '@/features/plan/pole/pole-page'

export default function Page() {
  return <PolePage />
}
