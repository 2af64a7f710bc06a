import { optionalText, readUnitsCsv, record, writeUnitsCsv } from '@stone-tally/core'
import { catalogueOf, leaveOut, putUnits } from '@/server/catalogue'
import { asking, BODY, bodyIn, guarded, refuse, whatever } from '@/server/http'

/** The catalogue as CSV. */
export const GET = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  return new Response(writeUnitsCsv(await catalogueOf(person.companyId)), {
    headers: { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="unit-catalogue.csv"' },
  })
})

/** Takes units in: `{ units: [{ system, unit }] }`, or `{ csv }` of which every line must be good. */
export const PUT = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const body = await bodyIn(request, BODY.entries, record({ units: whatever(), csv: optionalText(BODY.entries) }))
  if (body instanceof Response) return body
  const { units, csv } = body
  let list: unknown = units
  if (typeof csv === 'string') {
    const read = readUnitsCsv(csv)
    if (!read.ok) return refuse(422, read.problems)
    list = read.value.good
  }
  if (!Array.isArray(list)) return refuse(400, [{ field: 'units', message: 'is missing' }])
  const put = await putUnits(person, list as { system: unknown; unit: unknown }[])
  return put.ok ? Response.json({ count: put.value }) : refuse(422, put.problems)
})

export const DELETE = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const out = await leaveOut(person, new URL(request.url).searchParams.get('id') ?? '')
  return out.ok ? Response.json({}) : refuse(422, out.problems)
})
