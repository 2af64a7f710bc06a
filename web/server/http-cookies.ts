import type { Problem, Result } from '@stone-tally/core'
import type { SignedIn } from './accounts'
import { refuse } from './http'

const statusOf = (problems: readonly Problem[], wrong: number) => (problems[0]?.message.startsWith('too many') ? 429 : wrong)

/** The answer to somebody who wants in: their cookies, or why not. */
export function answerIn(result: Result<SignedIn>, wrong: number): Response {
  if (!result.ok) return refuse(statusOf(result.problems, wrong), result.problems)
  const headers = new Headers({ 'cache-control': 'no-store' })
  for (const cookie of result.value.cookies) headers.append('set-cookie', cookie)
  return Response.json({ ok: true }, { headers })
}
