import { checkpointAll } from './checkpoints'
import { database } from './database'
import { markHouse, missingWalls } from './house-marks'
import { log } from './log'
import { dropOldPieces } from './photos'
import { isLogged, logged } from './security-log'
import { lastVerification, verifyHouse } from './verify'

/** Hour of the day, UTC, at which the house looks at itself. */
const HOUR = () => Number(process.env.NIGHT_HOUR ?? 2)
/** After a start, ms: whoever comes first is served first; and how long to wait for a turn while another process is at it. */
const AFTER_START = 20_000
const pause = () => Number(process.env.NIGHT_AFTER_START ?? AFTER_START)
/** What nobody needs any more is let go after so many days. */
const LINKS_KEPT = 30
const PLACES_KEPT = 400

/** What serves a moment and is over: counts of tries, links that ran out, places long unseen, sessions that ended. */
async function tidy() {
  const { db } = database()
  const ago = (days: number) => new Date(Date.now() - days * 86_400_000)
  await db.deleteFrom('sign_in_throttle').where('expire', '<', `${Date.now()}`).execute()
  await db.deleteFrom('one_time_link').where('ends_at', '<', ago(LINKS_KEPT)).execute()
  await db.deleteFrom('outside_link').where('ends_at', '<', ago(LINKS_KEPT)).execute()
  await db.deleteFrom('known_place').where('seen_at', '<', ago(PLACES_KEPT)).execute()
  await dropOldPieces()
  await db.deleteFrom('session').where('expiresAt', '<', new Date()).execute()
}

/**
 * Looks at every record, signs where each stands, and tidies up. What does not verify is kept with its wall, shown there, and written into the
 * log. Where another process of the house is at it, it waits until that one has done it; one that dies over it is followed.
 *
 * @param turn - how long to wait before it is tried again, ms
 */
export async function night({ turn = pause() }: { turn?: number } = {}): Promise<void> {
  const before = (await lastVerification())?.number
  let seen = await verifyHouse()
  while (!seen) {
    await new Promise((r) => setTimeout(r, turn).unref())
    if ((await lastVerification())?.number !== before) return log.info('the records were looked at by another process')
    seen = await verifyHouse()
  }
  // Once, where those see it whose wall it is; every night it stands with the wall.
  for (const f of seen.faults)
    if (f.isNew) await logged('record does not verify', undefined, { companyId: f.companyId }, `${f.name}: ${f.fault.message}`)
  for (const m of await missingWalls()) {
    const detail = `${m.name}: ${m.says}`
    if (!(await isLogged('wall missing', m.company, detail))) await logged('wall missing', undefined, { companyId: m.company || undefined }, detail)
  }
  const made = await checkpointAll()
  await markHouse()
  await tidy()
  log.info(
    { walls: seen.walls, entries: seen.entries, photos: seen.photos, faults: seen.faults.length, checkpoints: made },
    'the records were looked at',
  )
}

const shared = globalThis as { __tallyNight?: NodeJS.Timeout }

/** Does it soon, and every night from then on. Doing it twice changes nothing. */
export function everyNight(): void {
  if (shared.__tallyNight) return
  const go = async () => {
    await night().catch((error) => log.error({ err: error }, 'the records could not be looked at'))
    const next = new Date()
    next.setUTCHours(HOUR(), 0, 0, 0)
    if (next.getTime() <= Date.now() + 60_000) next.setUTCDate(next.getUTCDate() + 1)
    shared.__tallyNight = setTimeout(go, next.getTime() - Date.now()).unref()
  }
  shared.__tallyNight = setTimeout(go, pause()).unref()
}
