import { Shell } from '@/features/house/shell'

/** What the device shows where the house does not answer; it is the same for everybody and holds nothing of anybody. */
export default function Page() {
  return <Shell />
}
