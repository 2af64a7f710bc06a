import { RuleBookPage } from '@/features/plan/rules'
import { requirePerson } from '@/server/page'
import { changesAt, keepersOf, type RuleLevel, rulesAt, sitesOf, wallsUnderOther } from '@/server/rules'

export const metadata = { title: 'Rule book' }

export default async function Page({ searchParams }: { searchParams: Promise<{ site?: string | string[] }> }) {
  const { id, name, role, companyId } = await requirePerson()
  const asked = (await searchParams).site
  const sites = await sitesOf(companyId)
  // Only a site the company has: another name would be a page of rules for nobody.
  const site = typeof asked === 'string' && sites.includes(asked) ? asked : undefined
  const at: RuleLevel = site === undefined ? { level: 'company' } : { level: 'site', site }
  const [company, own, history, walls] = await Promise.all([
    rulesAt(companyId, { level: 'company' }),
    rulesAt(companyId, at),
    changesAt(companyId, at),
    wallsUnderOther(companyId, at),
  ])
  return (
    <RuleBookPage
      me={{ id, name, role }}
      of={site === undefined ? { level: 'company' } : { level: 'site', site, company: company.rules }}
      sites={sites}
      own={own}
      history={history}
      walls={walls}
      keepers={keepersOf(company.rules)}
    />
  )
}
