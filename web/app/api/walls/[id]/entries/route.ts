import { Readable } from 'node:stream'
import { askingAbout, BODY, bodyOf, guarded, refuse } from '@/server/http'
import { entriesAfter, isSeq, recordEntries } from '@/server/record-store'

type Params = { params: Promise<{ id: string }> }
const BATCH_LIMIT = 1000

/** Records `{ entries: [...] }`; the answer has one outcome for each, in order. */
export const POST = guarded(async (request: Request, { params }: Params) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const body = await bodyOf(request, BODY.entries)
  if (!body.ok) return refuse(400, body.problems)
  const entries = (body.value as { entries?: unknown } | null)?.entries
  if (!Array.isArray(entries) || entries.length === 0) return refuse(422, [{ field: 'entries', message: 'needs at least one entry' }])
  if (entries.length > BATCH_LIMIT) return refuse(422, [{ field: 'entries', message: `takes at most ${BATCH_LIMIT} at once, not ${entries.length}` }])
  const outcomes = await recordEntries(who.wall.id, who.person, entries, Date.now())
  // Refused entries are outcomes too: a device must learn of each by name, whatever became of the others.
  return Response.json({ outcomes })
})

/** Entries after a number as lines of JSON, streamed, so that a wall shows before its whole record has come. */
export const GET = guarded(async (request: Request, { params }: Params) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const after = Number(new URL(request.url).searchParams.get('after') ?? 0)
  if (!isSeq(after)) return refuse(422, [{ field: 'after', message: 'must be a number of an entry' }])
  const wall = who.wall.id
  async function* lines() {
    let seq = after
    for (;;) {
      const rows = await entriesAfter(wall, seq)
      if (rows.length === 0) return
      yield rows.map((r) => `{"seq":${r.seq},"receivedAt":"${r.receivedAt}","entry":${r.body}}\n`).join('')
      seq = rows[rows.length - 1]?.seq ?? seq
      if (rows.length < 2000) return
    }
  }
  // The server zips text as it streams (a content-encoding of our own would be dropped by it).
  const headers = { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' }
  return new Response(Readable.toWeb(Readable.from(lines())) as ReadableStream, { headers })
})
