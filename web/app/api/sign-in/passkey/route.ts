import { ANY_FIELDS, BODY, bodyIn, foreign, guarded, refuse } from '@/server/http'
import { answerIn } from '@/server/http-cookies'
import { passkeyAsked, signInByPasskey } from '@/server/passkeys'

/** What to ask the passkey; it changes nothing but that it was asked. */
export const PUT = guarded(async (request: Request) => {
  const refused = foreign(request)
  if (refused) return refused
  const options = await passkeyAsked(request.headers)
  return options.ok ? Response.json(options.value) : refuse(options.problems[0]?.message.startsWith('too many') ? 429 : 422, options.problems)
})

/** What it answered. */
export const POST = guarded(async (request: Request) => {
  const refused = foreign(request)
  if (refused) return refused
  const body = await bodyIn(request, BODY.words * 4, ANY_FIELDS)
  if (body instanceof Response) return body
  return answerIn(await signInByPasskey(body, request.headers), 401)
})
