import { GroundPage } from '@/features/ground'

export default async function Page({ searchParams }: { searchParams: Promise<{ finding?: string; tab?: string }> }) {
  const { finding, tab } = await searchParams
  return <GroundPage {...(finding ? { finding } : {})} {...(tab ? { tab } : {})} />
}
