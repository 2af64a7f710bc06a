import { TradeWordsPage } from '@/features/house/trade-words'
import { requirePerson } from '@/server/page'

export const metadata = { title: 'Words of the trade' }

export default async function Page() {
  const { id, name, role } = await requirePerson()
  return <TradeWordsPage me={{ id, name, role }} />
}
