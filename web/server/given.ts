import type { Entry, KnownRevision } from '@stone-tally/core'
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

/** A device recorded under a revision, so it has had it since then at the latest. */
export async function noteMade(session: string, wall: string, values: readonly unknown[], outcomes: readonly Outcome[]): Promise<void> {
  const newest = new Map<number, number>()
  for (const [i, v] of values.entries()) {
    const e = v as Entry
    if (!outcomes[i]?.ok || e.revision < 2) continue
    newest.set(e.revision, Math.min(newest.get(e.revision) ?? Number.POSITIVE_INFINITY, Date.parse(e.at) - (e.clock ?? 0) * 1000))
  }
  for (const [revision, since] of newest) await note(session, wall, revision, since)
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
