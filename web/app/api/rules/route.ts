import { optionalText, record } from '@stone-tally/core'
import { asking, BODY, bodyIn, guarded, refuse, whatever } from '@/server/http'
import { putRules, type RuleLevel, rulesAt } from '@/server/rules'

const levelOf = (site: unknown): RuleLevel => (typeof site === 'string' && site !== '' ? { level: 'site', site } : { level: 'company' })

/** The rules of the company, or of `?site=NAME`, as an open file: what they change of what ships, and why. */
export const GET = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const at = levelOf(new URL(request.url).searchParams.get('site'))
  const { rules } = await rulesAt(person.companyId, at)
  return new Response(`${JSON.stringify(rules, null, 2)}\n`, {
    headers: { 'content-type': 'application/json; charset=utf-8', 'content-disposition': `attachment; filename="rules-${at.level}.tally.json"` },
  })
})

/** Changes them: `{ rules, base, reason, site? }`, made from change `base`; 409 where another was made since. */
export const PUT = guarded(async (request: Request) => {
  const person = await asking(request)
  if (person instanceof Response) return person
  const body = await bodyIn(request, BODY.entries, record({ rules: whatever(), base: whatever(), reason: whatever(), site: optionalText(200) }))
  if (body instanceof Response) return body
  const { rules, base, reason, site } = body
  if (site !== undefined && typeof site !== 'string') return refuse(400, [{ field: 'site', message: 'must be text' }])
  const made = await putRules(person, levelOf(site), rules, base, reason)
  if (made.ok) return Response.json(made.value)
  const field = made.problems[0]?.field
  return refuse(field === 'base' ? 409 : field === 'role' ? 403 : 422, made.problems)
})
