import { KeptPrint } from '@/features/house/kept-print'

export const metadata = { title: 'Print' }

/** The course record on paper, from the record the device follows: no entry is sent a second time to be printed. */
export default function Page() {
  return <KeptPrint />
}
