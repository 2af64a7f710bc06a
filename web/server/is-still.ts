import { fail, ok, type Result } from '@stone-tally/core'
import { database } from './database'
import { isPassword } from './passwords'
import type { Person } from './sessions'
import { tried } from './throttle'

/**
 * Is it still the person whose session this is, and not whoever holds their device? Asked before another way in is made. Wrong tries are
 * counted.
 *
 * @param current - their password, as typed now
 * @example await isStill(person, 'quarry-lantern') // { ok: true, value: true }
 */
export async function isStill(person: Pick<Person, 'id'>, current: string): Promise<Result<true>> {
  const allowed = await tried('known', `password ${person.id}`, 'current')
  if (!allowed.ok) return allowed
  const row = await database()
    .db.selectFrom('account')
    .select('password')
    .where('userId', '=', person.id)
    .where('providerId', '=', 'credential')
    .executeTakeFirst()
  if (!row?.password || !(await isPassword({ hash: row.password, password: current }))) return fail('current', 'is not your password')
  return ok(true)
}
