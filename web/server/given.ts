import { type Entry, type FromDevice, type KnownRevision, observedAt } from '@stone-tally/core'
import { database } from './database'
import type { Outcome } from './record-store'

/**
 * A plan that was given out is certainly on the device after so long, ms: an answer may be cut off on its way, and whoever works without a signal by
 * the plan of before until they are back has done nothing wrong.
 */
const GRACE = 86_400_000

/** What this process has noted already, so that a page that is opened again writes nothing. */
const noted = new Map<string, number>()
const REMEMBERED = 5_000

async function note(session: string, wall: string, revision: number, since: number): Promise<void> {
  const key = `${session} ${wall} ${revision}`
  if ((noted.get(key) ?? Number.POSITIVE_INFINITY) <= since) return
  await database().pool.query({
    name: 'plan-given',
    text: `INSERT INTO plan_given (session_id, wall_id, revision, since) SELECT $1, $2::uuid, $3, $4 WHERE EXISTS (SELECT 1 FROM session WHERE id = $1)
      ON CONFLICT (session_id, wall_id, revision) DO UPDATE SET since = LEAST(plan_given.since, EXCLUDED.since)`,
    values: [session, wall, revision, new Date(since)],
  })
  noted.set(key, since)
  if (noted.size > REMEMBERED) noted.delete(noted.keys().next().value as string)
}

/** The house gave a device the plans of a wall up to a revision. One alone is nothing to go back from. */
export async function noteGiven(session: string, wall: string, revision: number, now = Date.now()): Promise<void> {
  if (revision > 1) await note(session, wall, revision, now + GRACE)
}

/** A device recorded under a revision, so it has had it since then at the latest; and of a moment, so it sent all it had of before. */
export async function noteMade(
  session: string,
  wall: string,
  values: readonly unknown[],
  outcomes: readonly Outcome[],
  { ahead, now = Date.now() }: { ahead?: number | undefined; now?: number } = {},
): Promise<void> {
  const newest = new Map<number, number>()
  let latest = Number.NEGATIVE_INFINITY
  for (const [i, v] of values.entries()) {
    const e = v as Entry
    if (!outcomes[i]?.ok) continue
    const at = observedAt(e, { revisions: [], ahead })
    latest = Math.max(latest, Math.min(at, now))
    if (e.revision > 1) newest.set(e.revision, Math.min(newest.get(e.revision) ?? Number.POSITIVE_INFINITY, at))
  }
  for (const [revision, since] of newest) await note(session, wall, revision, since)
  if (Number.isFinite(latest)) await noteMoment(session, wall, latest)
}

/** Moments this process has noted, and how much later one must be to be noted anew, ms: somebody who records every second writes once a minute. */
const moments = new Map<string, number>()
const LATER = 60_000

async function noteMoment(session: string, wall: string, at: number): Promise<void> {
  const key = `${session} ${wall}`
  if (at < (moments.get(key) ?? Number.NEGATIVE_INFINITY) + LATER) return
  await database().pool.query({
    name: 'device-clock',
    text: `INSERT INTO device_clock (session_id, wall_id, newest) SELECT $1, $2::uuid, $3 WHERE EXISTS (SELECT 1 FROM session WHERE id = $1)
      ON CONFLICT (session_id, wall_id) DO UPDATE SET newest = GREATEST(device_clock.newest, EXCLUDED.newest)`,
    values: [session, wall, new Date(at)],
  })
  moments.delete(key)
  moments.set(key, at)
  if (moments.size > REMEMBERED) moments.delete(moments.keys().next().value as string)
}

/** What the device that sends is known by: its plans, and the latest moment it has recorded of. */
export async function knownOf(session: { readonly id: string; readonly began: Date }, wall: string): Promise<FromDevice> {
  const { rows } = await database().pool.query<{ newest: Date }>('SELECT newest FROM device_clock WHERE session_id = $1 AND wall_id = $2::uuid', [
    session.id,
    wall,
  ])
  return { revisions: await knownRevisions(session, wall), newest: rows[0]?.newest.getTime() }
}

/** A header that says what the clock of the device shows as it sends, ms since 1970. */
export const CLOCK = 'x-clock'
/** A clock that is less off than this is right: what it takes to send is in it, ms. */
const RIGHT = 120_000

/**
 * How far the clock of the device is ahead of the house's, s; undefined where it does not say.
 *
 * @example aheadOf(new Headers({ 'x-clock': `${Date.now() + 7_200_000}` })) // 7200
 */
export function aheadOf(headers: Headers, now = Date.now()): number | undefined {
  const said = headers.get(CLOCK)
  const at = said === null ? Number.NaN : Number(said)
  if (!Number.isSafeInteger(at)) return undefined
  return Math.abs(at - now) < RIGHT ? 0 : Math.round((at - now) / 1000)
}

/**
 * The revisions this device is known to have, each since its own moment: what it recorded under, what it was given, and whatever was in force
 * before it signed in.
 */
export async function knownRevisions(session: { readonly id: string; readonly began: Date }, wall: string): Promise<readonly KnownRevision[]> {
  const { rows } = await database().pool.query<{ revision: number; since: Date }>(
    `SELECT revision, since FROM plan_given WHERE session_id = $1 AND wall_id = $2::uuid
     UNION ALL SELECT number, $3::timestamptz FROM revision WHERE wall_id = $2::uuid AND issued_at < $4`,
    [session.id, wall, new Date(session.began.getTime() + GRACE), session.began],
  )
  return rows.map((r) => ({ revision: r.revision, since: r.since.getTime() }))
}
