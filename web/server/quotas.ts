import { fail, ok, PHOTO_LIMIT, type Result } from '@stone-tally/core'
import { sql } from 'kysely'
import { database } from './database'
import { takenFrom, waitFor } from './throttle'

/** Whose share something is taken from. */
export interface Sharer {
  /** The session it comes in with, or the fingerprint of one that was ended. */
  readonly device: string
  readonly person: string
  readonly wall: string
  readonly company: string
}
type Share = keyof Sharer

/**
 * How much of it in a day, counted in the database so that it holds over all processes and starts. Each is many times what a crew does in its
 * hardest day; the wider ones only bound what all together take, so that nobody uses up what is another's.
 */
export const QUOTAS = {
  /** Entries that a signed-out device gives back. */
  'set-aside': { name: 'entries given back', device: 1500, person: 3000, wall: 15_000, company: 30_000 },
  /** Photos. */
  photo: { name: 'photos', device: 800, person: 1600, wall: 8000, company: 16_000 },
} as const satisfies Record<string, { readonly name: string } & Readonly<Record<Share, number>>>
const SHARES: readonly (readonly [Share, string])[] = [
  ['device', 'from one device'],
  ['person', 'from one person'],
  ['wall', 'for one wall'],
  ['company', 'of one company'],
]
/** A day, s. */
const DAY = 86_400

type Kind = keyof typeof QUOTAS
const limitOf = (what: Kind, share: Share) => ({ points: QUOTAS[what][share], duration: DAY })
const usedUp = (what: Kind, share: Share, words: string, wait: number): Result<never> =>
  fail(
    'quota',
    `today’s ${QUOTAS[what][share].toLocaleString('en')} ${QUOTAS[what].name} ${words} are used up; what waits stays on the device and goes in ${Math.max(1, Math.ceil(wait / 3_600_000))} h`,
  )

/**
 * Takes a number of things from everybody's share they belong to.
 *
 * @returns of the first share that is used up: how much it is, and when it begins anew; field `quota`
 * @example await within('photo', { device, person, wall, company })
 */
export async function within(what: Kind, who: Sharer, count = 1): Promise<Result<true>> {
  if (process.env.RATE_LIMITS === 'off') return ok(true)
  for (const [share, words] of SHARES) {
    const wait = await takenFrom(`${what} ${share}`, who[share], limitOf(what, share), count)
    if (wait !== undefined) return usedUp(what, share, words, wait)
  }
  return ok(true)
}

/** Is there anything left of everybody's share? Nothing is taken: what fails half-way and is sent again costs nobody anything. */
export async function leftOf(what: Kind, who: Sharer): Promise<Result<true>> {
  if (process.env.RATE_LIMITS === 'off') return ok(true)
  for (const [share, words] of SHARES) {
    const wait = await waitFor(`${what} ${share}`, who[share], limitOf(what, share))
    if (wait !== undefined) return usedUp(what, share, words, wait)
  }
  return ok(true)
}

/** Bytes of photos that came in part and may lie here unfinished: of a person, and of a company. */
export const UNFINISHED = { person: 2 * PHOTO_LIMIT, company: 40 * PHOTO_LIMIT }

/**
 * Makes room for another piece of a person's photo: what they left unfinished longest is let go first, and is sent anew from its beginning should
 * its device come back. Nobody else's is touched.
 *
 * @returns where all of the company together left too much: field `quota`
 */
export async function roomForPiece(wall: string, person: string, upload: string, bytes: number): Promise<Result<true>> {
  const { db } = database()
  const lying = await db
    .selectFrom('photo_piece')
    .select(['upload', sql<string>`sum(length(bytes))`.as('bytes'), sql<Date>`max(received_at)`.as('at')])
    .where('person', '=', person)
    .groupBy('upload')
    .orderBy('at')
    .execute()
  let own = lying.reduce((sum, l) => sum + Number(l.bytes), bytes)
  for (const l of lying) {
    if (own <= UNFINISHED.person) break
    if (l.upload === upload) continue
    await db.deleteFrom('photo_piece').where('person', '=', person).where('upload', '=', l.upload).execute()
    own -= Number(l.bytes)
  }
  const all = await db
    .selectFrom('photo_piece')
    .innerJoin('wall', 'wall.id', 'photo_piece.wall_id')
    .where('wall.company_id', '=', (w) => w.selectFrom('wall').select('company_id').where('id', '=', wall))
    .select(sql<string>`coalesce(sum(length(bytes)), 0)`.as('bytes'))
    .executeTakeFirst()
  return Number(all?.bytes ?? 0) + bytes <= UNFINISHED.company
    ? ok(true)
    : fail(
        'quota',
        'so many photos of your company came in half that no more is begun; those that are finished make room, the others end by themselves',
      )
}
