import { auth } from '@/server/accounts'
import { guarded, refuse, sameOrigin } from '@/server/http'

export const POST = guarded(async (request: Request) => {
  if (!sameOrigin(request)) return refuse(403, 'this request did not come from a page of this application')
  return auth().api.signOut({ headers: request.headers, asResponse: true })
})
