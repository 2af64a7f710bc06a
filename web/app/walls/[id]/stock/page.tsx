import { StockPage } from '@/features/build/stock'

export const metadata = { title: 'Stock' }

export default function Page() {
  return <StockPage />
}
