import { choice, optionalQuantity, optionalText, read, record } from '@stone-tally/core'
import { askingAbout, BODY, bodyIn, guarded, refuse, tooOften } from '@/server/http'
import { holdAgainst, proofOf, saidOf } from '@/server/proof'
import { logged } from '@/server/security-log'
import { lookAtFault, mayLook, verifyAndKeep } from '@/server/verify'

type Params = { params: Promise<{ id: string }> }

/** How the record of a wall stands to itself, and its code. */
export const GET = guarded(async (request: Request, { params }: Params) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const [proof, looks] = await Promise.all([proofOf(who.wall.id), mayLook(who.person)])
  return Response.json({ ...proof, mayLook: looks }, { headers: { 'cache-control': 'no-store' } })
})

const asked = record({
  do: choice(['verify', 'against', 'look'] as const),
  code: optionalText(600),
  number: optionalQuantity({ min: 1, max: 100_000, whole: true }),
  words: optionalText(400),
})

/** `{do: 'verify'}` looks at the record now, `{do: 'against', code}` holds a code against it, `{do: 'look', number, words}` answers a fault. */
export const POST = guarded(async (request: Request, { params }: Params) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const often = tooOften('heavy', who.session.id)
  if (often) return often
  const body = await bodyIn(request, BODY.words, asked)
  if (body instanceof Response) return body
  const input = read(asked, body)
  if (!input.ok) return refuse(422, input.problems)
  const { wall, person } = who
  if (input.value.do === 'verify') {
    const report = await verifyAndKeep(wall.id)
    if (report.isNew && !report.intact) await logged('record does not verify', request, person, `${wall.name}: ${report.message}`)
    return Response.json({ intact: report.intact, message: saidOf(report) })
  }
  if (input.value.do === 'against') {
    const held = await holdAgainst(wall.id, input.value.code ?? '', (message) =>
      logged('record does not verify', request, person, `${wall.name}: ${message}`),
    )
    return held.ok ? Response.json(held.value) : refuse(422, held.problems)
  }
  const { number, words = '' } = input.value
  if (!(await mayLook(person))) return refuse(403, 'looking at a record that does not verify takes the office or the inspector')
  if (number === undefined) return refuse(422, [{ field: 'number', message: 'is missing' }])
  if (words.trim().length < 10)
    return refuse(422, [{ field: 'words', message: 'say what you found and what is done about it, in at least ten characters' }])
  if (!(await lookAtFault(wall.id, number, person, words.trim())))
    return refuse(422, [{ field: 'number', message: 'was looked at by somebody already' }])
  await logged('fault looked at', request, person, `${wall.name}: ${words.trim()}`)
  return Response.json({ ok: true })
})
