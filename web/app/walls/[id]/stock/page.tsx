import { StockPage } from '@/features/build/stock'

export default function Page() {
  return <StockPage />
}
