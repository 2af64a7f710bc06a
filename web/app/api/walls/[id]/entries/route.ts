import { optionalText, record } from '@stone-tally/core'
import { aheadOf, knownOf, noteMade } from '@/server/given'
import { askingAbout, BODY, bodyIn, guarded, refuse, whatever } from '@/server/http'
import { sendLinks } from '@/server/outside'
import { entriesAfter, isLink, isSeq, recordEntries } from '@/server/record-store'
import { streamed } from '@/server/streams'

type Params = { params: Promise<{ id: string }> }
const BATCH_LIMIT = 1000

/** Records `{ entries: [...], person? }`, `person` being who made them; the answer has one outcome for each, in order. */
export const POST = guarded(async (request: Request, { params }: Params) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const body = await bodyIn(request, BODY.entries, record({ entries: whatever(), person: optionalText(80) }))
  if (body instanceof Response) return body
  const { entries, person } = body
  // Kept on a device by one person, sent while another is signed in there: never under the other's name.
  if (person !== undefined && person !== who.person.id)
    return refuse(403, 'another person is signed in; these entries wait for the one who made them')
  if (!Array.isArray(entries) || entries.length === 0) return refuse(422, [{ field: 'entries', message: 'needs at least one entry' }])
  if (entries.length > BATCH_LIMIT) return refuse(422, [{ field: 'entries', message: `takes at most ${BATCH_LIMIT} at once, not ${entries.length}` }])
  const ahead = aheadOf(request.headers)
  const given = { ahead, more: () => knownOf(who.session, who.wall.id) }
  const outcomes = await recordEntries(who.wall.id, who.person, entries, Date.now(), given)
  await sendLinks(request, who.person, who.wall, entries, outcomes)
  await noteMade(who.session.id, who.wall.id, entries, outcomes, { ahead })
  // Refused entries are outcomes too: a device must learn of each by name, whatever became of the others.
  return Response.json({ outcomes })
})

/**
 * Entries after a number as lines of JSON, streamed, so that a wall shows before its whole record has come; with `head` the last line
 * says where the record ends. With the `link` of that number it is said (409) where the device has another record than the house.
 */
export const GET = guarded(async (request: Request, { params }: Params) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const query = new URL(request.url).searchParams
  const after = Number(query.get('after') ?? 0)
  if (!isSeq(after)) return refuse(422, [{ field: 'after', message: 'must be a number of an entry' }])
  const wall = who.wall.id
  if (after > 0 && !(await isLink(wall, after, query.get('link') ?? undefined)))
    return refuse(409, [{ field: 'after', message: 'the record of this wall is another one here; ask for it from the beginning' }])
  async function* lines() {
    let last = { seq: after, hash: '' }
    for (;;) {
      const rows = await entriesAfter(wall, last.seq)
      if (rows.length > 0) yield rows.map((r) => `{"seq":${r.seq},"receivedAt":"${r.receivedAt}","entry":${r.body}}\n`).join('')
      last = rows[rows.length - 1] ?? last
      if (rows.length < 2000) break
    }
    if (query.has('head') && last.hash !== '') yield `{"head":{"seq":${last.seq},"hash":"${last.hash}"}}\n`
  }
  // The server zips text as it streams (a content-encoding of our own would be dropped by it).
  const headers = { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store', 'x-record': '1' }
  // A device may hang up at any moment; nothing is written to it then.
  return streamed(lines(), headers)
})
