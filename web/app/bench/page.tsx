import { redirect } from 'next/navigation'

export const metadata = { title: 'Bench' }

export default function Page() {
  redirect('/bench/rod')
}
