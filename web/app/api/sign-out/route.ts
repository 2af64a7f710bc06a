import { foreign, guarded } from '@/server/http'
import { logged } from '@/server/security-log'
import { cookieGone, personOf, signOut } from '@/server/sessions'

export const POST = guarded(async (request: Request) => {
  const refused = foreign(request)
  if (refused) return refused
  const person = await personOf(request.headers)
  await signOut(request.headers)
  if (person) await logged('sign-out', request, person)
  return Response.json({ success: true }, { headers: { 'set-cookie': cookieGone(request.headers) } })
})
