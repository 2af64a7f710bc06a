import { PlanForm } from '@/features/plan/plan-form'
import { catalogueOf } from '@/server/catalogue'
import { requirePerson } from '@/server/page'

export default async function Page() {
  const { id, name, role, companyId } = await requirePerson()
  return <PlanForm me={{ id, name, role }} catalogue={await catalogueOf(companyId)} />
}
