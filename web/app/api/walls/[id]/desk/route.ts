import { createHash } from 'node:crypto'
import { catalogueOf } from '@/server/catalogue'
import { noteGiven } from '@/server/given'
import { askingAbout, guarded } from '@/server/http'
import { keepersOf, levelsFor } from '@/server/rules'
import { scatterFor } from '@/server/scatter'
import { saidFault } from '@/server/verify'
import { revisionsOf } from '@/server/walls'

/**
 * What a device keeps of a wall besides its record, so that every place of it opens without a signal: its revisions, and what the
 * company knows. With the mark it has (`?have=`) a device is told (204) where nothing of it changed.
 */
export const GET = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const { person, wall } = who
  const [revisions, levels, catalogue, scatter, fault] = await Promise.all([
    revisionsOf(wall.id),
    levelsFor(person.companyId, wall.site),
    catalogueOf(person.companyId),
    scatterFor(person.companyId),
    saidFault(wall.id),
  ])
  await noteGiven(who.session.id, wall.id, revisions.length)
  const body = JSON.stringify({
    id: wall.id,
    name: wall.name,
    site: wall.site,
    revisions: revisions.map(({ number, issuedAt, issuedBy, plan }) => ({ number, issuedAt, issuedBy, plan })),
    levels,
    catalogue,
    scatter,
    keepers: keepersOf(levels.company),
    fault,
  })
  const mark = createHash('sha256').update(body).digest('hex').slice(0, 32)
  const headers = { 'content-type': 'application/json; charset=utf-8', 'cache-control': 'no-store', 'x-desk': mark }
  if (new URL(request.url).searchParams.get('have') === mark) return new Response(null, { status: 204, headers })
  return new Response(body, { headers })
})
