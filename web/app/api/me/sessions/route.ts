import { askingWith, guarded, refuse } from '@/server/http'
import { logged } from '@/server/security-log'
import { endSession, sessionsOf, signOutEverywhere } from '@/server/sessions'

/** Where one is signed in. */
export const GET = guarded(async (request: Request) => {
  const who = await askingWith(request)
  if (who instanceof Response) return who
  const list = (await sessionsOf(who.person.id)).map((s) => ({ ...s, here: s.id === who.session.id }))
  return Response.json({ list }, { headers: { 'cache-control': 'no-store' } })
})

/** Ends one of them (`?id=`), or all but this one. */
export const DELETE = guarded(async (request: Request) => {
  const who = await askingWith(request)
  if (who instanceof Response) return who
  const { person, session } = who
  const id = new URL(request.url).searchParams.get('id')
  if (id !== null && !(await endSession(person.companyId, person.id, id, person.name))) return refuse(404, 'there is no such session of yours')
  if (id === null) await signOutEverywhere(person.companyId, person.id, person.name, session.id)
  await logged('sessions ended', request, person, id === null ? 'all but this one' : 'one')
  return Response.json({ ok: true })
})
