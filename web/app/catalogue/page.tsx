import { Catalogue } from '@/features/catalogue/catalogue'
import { catalogueOf } from '@/server/catalogue'
import { requirePerson } from '@/server/page'

export const metadata = { title: 'Units' }

export default async function Page() {
  const { id, name, role, companyId } = await requirePerson()
  return <Catalogue me={{ id, name, role }} units={await catalogueOf(companyId)} />
}
