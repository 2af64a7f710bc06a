import { Board } from '@/features/board/board'

export default async function Page({ searchParams }: { searchParams: Promise<{ step?: string; station?: string }> }) {
  const { step, station } = await searchParams
  const from = Number(station ?? Number.NaN)
  // Another step asked for while one is here is another Board; the record behind it stays.
  return <Board key={`${step} ${station}`} {...(step ? { open: step } : {})} {...(Number.isFinite(from) ? { from } : {})} />
}
