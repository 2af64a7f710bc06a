import { resolveRules } from '@stone-tally/core'
import { PlanForm } from '@/features/plan/plan/plan-form'
import { catalogueOf } from '@/server/catalogue'
import { requirePerson } from '@/server/page'
import { levelsOf } from '@/server/rules'

export default async function Page() {
  const { id, name, role, companyId } = await requirePerson()
  const levels = await levelsOf(companyId)
  const book = resolveRules({ company: levels.company })
  return <PlanForm me={{ id, name, role }} catalogue={await catalogueOf(companyId)} book={book.ok ? book.value : undefined} levels={levels} />
}
