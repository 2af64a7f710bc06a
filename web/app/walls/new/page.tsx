import { resolveRules } from '@stone-tally/core'
import { Planner } from '@/features/plan/new/planner'
import { catalogueOf } from '@/server/catalogue'
import { requirePerson } from '@/server/page'
import { templatesOf } from '@/server/planning'
import { levelsOf } from '@/server/rules'
import { wallsOf } from '@/server/walls'

export const metadata = { title: 'New wall' }

export default async function Page({ searchParams }: { searchParams: Promise<{ way?: string | string[] }> }) {
  const { id, name, role, companyId } = await requirePerson()
  const [levels, catalogue, walls, templates] = await Promise.all([
    levelsOf(companyId),
    catalogueOf(companyId),
    wallsOf(companyId),
    templatesOf(companyId),
  ])
  const { way } = await searchParams
  const book = resolveRules({ company: levels.company })
  return (
    <Planner
      me={{ id, name, role }}
      catalogue={catalogue}
      book={book.ok ? book.value : undefined}
      levels={levels}
      walls={walls.map((w) => ({ id: w.id, name: w.name, site: w.site }))}
      templates={templates.map(({ name, by, plan, why }) => ({ name, by, plan, why }))}
      asked={typeof way === 'string' ? way : undefined}
      site={walls[walls.length - 1]?.site ?? ''}
    />
  )
}
