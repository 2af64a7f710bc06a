import { ANY_FIELDS, BODY, bodyIn, foreign, guarded, refuse, wordOf } from '@/server/http'
import { answerIn } from '@/server/http-cookies'
import { networkOf } from '@/server/network'
import { passkeysOf } from '@/server/passkeys'
import { linkFor, takeLink } from '@/server/people'
import { tried } from '@/server/throttle'

/** What a link is for. The token comes in the body: addresses are written down in too many places. */
export const PUT = guarded(async (request: Request) => {
  const refused = foreign(request)
  if (refused) return refused
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  const allowed = await tried('link', networkOf(request.headers), 'token')
  if (!allowed.ok) return refuse(429, allowed.problems)
  const link = await linkFor(wordOf(body, 'token'))
  if (!link) return refuse(404, 'this link was used, or its time is over; ask for another')
  const { what, name, role, company, made_by, person } = link
  // Who sets a new password hears which ways in there are besides, by the names they gave them.
  const passkeys = what === 'reset' && person !== null ? (await passkeysOf(person)).map((k) => ({ name: k.name, madeAt: k.madeAt })) : []
  return Response.json({ what, name, role, company, by: made_by, passkeys })
})

/** Uses it. */
export const POST = guarded(async (request: Request) => {
  const refused = foreign(request)
  if (refused) return refused
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  return answerIn(await takeLink(body, request.headers), 422)
})
