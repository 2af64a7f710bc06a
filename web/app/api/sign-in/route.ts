import { signIn } from '@/server/accounts'
import { ANY_FIELDS, BODY, bodyIn, foreign, guarded } from '@/server/http'
import { answerIn } from '@/server/http-cookies'

export const POST = guarded(async (request: Request) => {
  const refused = foreign(request)
  if (refused) return refused
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  return answerIn(await signIn(body, request.headers), 401)
})
