import { PolePage } from '@/features/plan/pole/pole-page'

export const metadata = { title: 'Story pole' }

export default function Page() {
  return <PolePage />
}
