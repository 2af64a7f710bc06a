import { follow } from '@/server/feed'
import { whoIsHere } from '@/server/here'
import { askingAbout, guarded, refuse } from '@/server/http'
import { isSeq } from '@/server/record-store'
import { eventStream } from '@/server/streams'

export const dynamic = 'force-dynamic'

/** Server-sent events: each new entry with its number as event id, so that a reconnect goes on where it was. */
export const GET = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const wall = who.wall.id
  const after = Number(request.headers.get('last-event-id') ?? new URL(request.url).searchParams.get('after') ?? 0)
  if (!isSeq(after)) return refuse(422, [{ field: 'after', message: 'must be the number of an entry' }])
  return eventStream(request, who.session.id, wall, (line) => {
    line.say('retry: 1000\n\n')
    const ends = [
      follow(wall, after, (events) => line.say(events)),
      whoIsHere(wall, (here) => line.say(`event: here\ndata: ${JSON.stringify(here)}\n\n`)),
    ]
    return () => {
      for (const end of ends) end()
    }
  })
})
