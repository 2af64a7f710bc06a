import { calculatorOf } from '@stone-tally/core'
import { notFound } from 'next/navigation'
import { BenchPage } from '@/features/bench'
import { requirePerson } from '@/server/page'

export async function generateMetadata({ params }: { params: Promise<{ name: string }> }) {
  return { title: calculatorOf((await params).name)?.title ?? 'Bench' }
}

export default async function Page({ params }: { params: Promise<{ name: string }> }) {
  const { id, name, role } = await requirePerson()
  const calculator = (await params).name
  if (!calculatorOf(calculator)) notFound()
  return <BenchPage key={calculator} me={{ id, name, role }} calculator={calculator} />
}
