import { writePlanFile } from '@stone-tally/core'
import { recordFile } from '@/server/export'
import { askingAbout, guarded, tooOften } from '@/server/http'
import { logged } from '@/server/security-log'
import { streamed } from '@/server/streams'
import { revisionsOf } from '@/server/walls'

/** The wall as a file: everything, with `?photos=none` without the pictures, or with `?what=plan` the plan in force alone. */
export const GET = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const often = tooOften('heavy', who.session.id)
  if (often) return often
  const query = new URL(request.url).searchParams
  const planOnly = query.get('what') === 'plan'
  const name =
    who.wall.name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'wall'
  const headers = {
    'content-type': 'application/json; charset=utf-8',
    'content-disposition': `attachment; filename="${name}${planOnly ? '-plan' : ''}.tally.json"`,
    'cache-control': 'no-store',
  }
  if (planOnly) {
    const last = (await revisionsOf(who.wall.id)).pop()
    return last ? new Response(writePlanFile(last.plan), { headers }) : new Response(null, { status: 404 })
  }
  await logged('export', request, who.person, who.wall.name)
  return streamed(recordFile(who.wall, query.get('photos') === 'none' ? 'left out' : 'all', new Date().toISOString()), headers)
})
