import { UNIT_SYSTEMS } from '@stone-tally/core'
import { ANY_FIELDS, BODY, bodyIn, foreign, guarded, refuse } from '@/server/http'
import { decideOutside, outsideShown } from '@/server/outside'

const STATUS: Readonly<Record<string, number>> = { token: 404, device: 403 }
const status = (problems: readonly { field: string; message: string }[]) => STATUS[problems[0]?.field ?? ''] ?? 422

/** What a link to somebody outside opens: `{token, units}`. The token comes in the body: addresses are written down in too many places. */
export const PUT = guarded(async (request: Request) => {
  const refused = foreign(request)
  if (refused) return refused
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  const { token, units } = body
  const shown = await outsideShown(token, UNIT_SYSTEMS.find((u) => u === units) ?? 'metric', request.headers)
  return shown.ok ? Response.json(shown.value, { headers: { 'cache-control': 'no-store' } }) : refuse(status(shown.problems), shown.problems)
})

/** Decides: `{token, name, licence, decision, reason}`. */
export const POST = guarded(async (request: Request) => {
  const refused = foreign(request)
  if (refused) return refused
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  const done = await decideOutside(body, request.headers)
  return done.ok ? Response.json(done.value, { status: 201 }) : refuse(status(done.problems), done.problems)
})
