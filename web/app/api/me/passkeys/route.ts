import { ANY_FIELDS, asking, BODY, bodyIn, guarded, refuse, wordOf } from '@/server/http'
import { passkeyMade, passkeysOf, passkeyWanted, removePasskey } from '@/server/passkeys'

export const GET = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  return Response.json({ list: await passkeysOf(person.id) }, { headers: { 'cache-control': 'no-store' } })
})

/** What the browser needs to make one. */
export const PUT = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  const options = await passkeyWanted(person, wordOf(body, 'current'), request.headers)
  return options.ok ? Response.json(options.value) : refuse(422, options.problems)
})

/** Keeps the one it made. */
export const POST = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const body = await bodyIn(request, BODY.words * 4, ANY_FIELDS)
  if (body instanceof Response) return body
  const made = await passkeyMade(person, body, request)
  return made.ok ? Response.json(made.value, { status: 201 }) : refuse(422, made.problems)
})

export const DELETE = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const gone = await removePasskey(person, new URL(request.url).searchParams.get('id') ?? '', request)
  return gone ? Response.json({ ok: true }) : refuse(404, 'there is no such passkey of yours')
})
