import { resolveRules } from '@stone-tally/core'
import { PlanForm } from '@/features/plan/plan-form'
import { catalogueOf } from '@/server/catalogue'
import { requirePerson } from '@/server/page'
import { rulesAt } from '@/server/rules'

export default async function Page() {
  const { id, name, role, companyId } = await requirePerson()
  const book = resolveRules({ company: (await rulesAt(companyId, { level: 'company' })).rules })
  return <PlanForm me={{ id, name, role }} catalogue={await catalogueOf(companyId)} book={book.ok ? book.value : undefined} />
}
