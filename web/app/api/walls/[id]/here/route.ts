import { optionalText, read, record, text, yup } from '@stone-tally/core'
import { tellHere } from '@/server/here'
import { ANY_FIELDS, askingAbout, BODY, bodyIn, guarded, refuse } from '@/server/http'

const schema = record({
  page: text(40),
  section: optionalText(8),
  step: optionalText(80),
  typing: yup.boolean().required(),
  text: optionalText(40),
  gone: yup.boolean().optional(),
})

/** Says where one is on this wall, to who looks at it too. */
export const POST = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const body = await bodyIn(request, BODY.words, ANY_FIELDS)
  if (body instanceof Response) return body
  const said = read(schema, body)
  if (!said.ok) return refuse(422, said.problems)
  const { gone, ...here } = said.value
  await tellHere(who.wall.id, { ...here, person: who.person.id, name: who.person.name, ...(gone ? { gone: true as const } : {}) })
  return new Response(null, { status: 204 })
})
