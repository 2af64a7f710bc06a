import { signIn } from '@/server/accounts'
import { BODY, bodyOf, foreign, guarded, refuse } from '@/server/http'
import { answerIn } from '@/server/http-cookies'

export const POST = guarded(async (request: Request) => {
  const refused = foreign(request)
  if (refused) return refused
  const body = await bodyOf(request, BODY.words)
  if (!body.ok) return refuse(400, body.problems)
  return answerIn(await signIn(body.value, request.headers), 401)
})
