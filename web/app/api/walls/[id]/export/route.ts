import { writePlanFile, writeRecordFile } from '@stone-tally/core'
import { askingAbout, guarded } from '@/server/http'
import { chainOf } from '@/server/record-store'
import { revisionsOf } from '@/server/walls'

/** The wall as a file: everything, or with `?what=plan` the plan in force alone. */
export const GET = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const revisions = await revisionsOf(who.wall.id)
  const planOnly = new URL(request.url).searchParams.get('what') === 'plan'
  const last = revisions[revisions.length - 1]
  const name =
    who.wall.name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'wall'
  const headers = {
    'content-type': 'application/json; charset=utf-8',
    'content-disposition': `attachment; filename="${name}${planOnly ? '-plan' : ''}.tally.json"`,
  }
  if (planOnly && last) return new Response(writePlanFile(last.plan), { headers })
  const { entries, head } = await chainOf(who.wall.id)
  const file = { wall: who.wall.id, revisions: revisions.map(({ number, issuedAt, stored }) => ({ number, issuedAt, plan: stored })), entries, head }
  return new Response(writeRecordFile(file, new Date().toISOString()), { headers })
})
