import { existsSync, readFileSync, statSync } from 'node:fs'
import { statfs } from 'node:fs/promises'
import { momentWords } from '@stone-tally/core'
import pg from 'pg'
import { database } from './database'
import { missingWalls } from './house-marks'

/** Health answers within a second, whatever the database does. */
const PATIENCE = 700

interface Probe {
  url: string
  pool: pg.Pool
  asked: Promise<boolean> | undefined
}
const shared = globalThis as { __tallyProbe?: Probe }

/**
 * Can the application reach its database? Asked over a connection of its own, so that a busy pool does not make it look ill, and
 * one question at a time however many ask.
 */
export async function databaseAnswers(): Promise<boolean> {
  const url = process.env.DATABASE_URL ?? ''
  if (shared.__tallyProbe?.url !== url) {
    const limits = { connectionTimeoutMillis: PATIENCE, query_timeout: PATIENCE, statement_timeout: PATIENCE }
    const pool = new pg.Pool({ connectionString: url, max: 1, idleTimeoutMillis: 5_000, allowExitOnIdle: true, ...limits })
    pool.on('error', () => {})
    pool.on('connect', (client) => client.on('error', () => {}))
    shared.__tallyProbe = { url, pool, asked: undefined }
  }
  const probe = shared.__tallyProbe as Probe
  probe.asked ??= probe.pool
    .query('SELECT 1')
    .then(
      () => true,
      () => false,
    )
    .finally(() => {
      probe.asked = undefined
    })
  return within(probe.asked, false)
}

/** What came of it in time, or what is said where nothing did. */
async function within<T>(work: Promise<T>, late: T): Promise<T> {
  let clock: NodeJS.Timeout | undefined
  const over = new Promise<T>((resolve) => {
    clock = setTimeout(() => resolve(late), PATIENCE)
  })
  try {
    return await Promise.race([work, over])
  } finally {
    clearTimeout(clock)
  }
}

/** A part of the house: well, to be looked at soon, or ill; with what to do. */
export interface Part {
  readonly part: 'database' | 'disk' | 'backup' | 'records'
  readonly is: 'well' | 'watch' | 'ill'
  readonly says: string
}

const GB = 1024 ** 3
/** Free room below which somebody is told, and below which the database may stop, bytes. */
const ROOM = { watch: 5 * GB, ill: GB }
/** A backup older than this is none, hours. */
const BACKUP_HOURS = 26
/** Records that were not looked at for so long, hours. */
const LOOKED_HOURS = 26

async function disk(): Promise<Part> {
  const folder = process.env.DATA_FOLDER ?? ''
  if (folder === '' || !existsSync(folder))
    return { part: 'disk', is: 'watch', says: 'where the data lies is not known to the application (DATA_FOLDER)' }
  const { bavail, bsize } = await statfs(folder)
  const free = bavail * bsize
  const said = `${(free / GB).toFixed(1)} GB free`
  if (free < ROOM.ill) return { part: 'disk', is: 'ill', says: `${said}: the database stops when there is none. Make room now` }
  return free < ROOM.watch ? { part: 'disk', is: 'watch', says: `${said}: make room soon` } : { part: 'disk', is: 'well', says: said }
}

/** What `bin/tally backup` leaves behind in the data folder each time it ends well. */
export const BACKUP_MARK = 'last-backup.json'

function backup(now: number): Part {
  const file = `${process.env.DATA_FOLDER ?? ''}/${BACKUP_MARK}`
  if (!existsSync(file)) return { part: 'backup', is: 'watch', says: 'there was none yet; bin/tally backup makes one' }
  let to = ''
  try {
    to = String((JSON.parse(readFileSync(file, 'utf8')) as { to?: unknown }).to ?? '')
  } catch {
    // Its time says enough.
  }
  const hours = (now - statSync(file).mtimeMs) / 3_600_000
  const said = `the last one is ${hours < 1 ? 'less than an hour' : `${Math.round(hours)} hours`} old${to ? `, in ${to}` : ''}`
  return hours > BACKUP_HOURS
    ? { part: 'backup', is: 'ill', says: `${said}: a day's work would be lost with this machine` }
    : { part: 'backup', is: 'well', says: said }
}

async function records(now: number): Promise<Part> {
  const { db } = database()
  const missing = await missingWalls()
  if (missing.length > 0)
    return {
      part: 'records',
      is: 'ill',
      says: `${missing.length} wall${missing.length === 1 ? ' is' : 's are'} missing, or shorter than when the installation signed them last. Restore a backup`,
    }
  const last = await db.selectFrom('house_check').select(['ended_at', 'faults', 'walls']).orderBy('number', 'desc').limit(1).executeTakeFirst()
  if (!last) return { part: 'records', is: 'watch', says: 'they were not looked at yet; the house does it by night and soon after it was started' }
  const hours = (now - last.ended_at.getTime()) / 3_600_000
  const said = `${last.walls} looked at ${momentWords(last.ended_at.toISOString())}`
  if (last.faults > 0) return { part: 'records', is: 'ill', says: `${said}: ${last.faults} of them do not verify. Each says so on its wall` }
  return hours > LOOKED_HOURS
    ? { part: 'records', is: 'watch', says: `${said}, more than a day ago` }
    : { part: 'records', is: 'well', says: `${said}: all of them verify` }
}

/** What changes by the hour is not looked at anew for each who asks, ms. */
const FRESH = 5_000
const looked = new Map<string, { at: number; part: Promise<Part> }>()
function fresh(name: Part['part'], now: number, look: () => Promise<Part>): Promise<Part> {
  const before = looked.get(name)
  if (before && now - before.at < FRESH && now >= before.at) return before.part
  const part = look()
  looked.set(name, { at: now, part })
  // What could not be looked at is looked at the next time.
  part.catch(() => looked.delete(name))
  return part
}

/** How each part of the house is. Answers within a second and a half, whatever is ill. */
export async function healthOf(now = Date.now()): Promise<readonly Part[]> {
  const up = await databaseAnswers()
  const db: Part = up
    ? { part: 'database', is: 'well', says: 'answers' }
    : { part: 'database', is: 'ill', says: 'does not answer; nothing can be recorded here until it does. Devices keep what is recorded on them' }
  const unknown: Part = { part: 'records', is: 'watch', says: 'cannot be looked at while the database does not answer' }
  const late: Part = { part: 'disk', is: 'watch', says: 'could not be looked at' }
  return [
    db,
    await within(fresh('disk', now, disk), late).catch(() => late),
    backup(now),
    up
      ? await within(
          fresh('records', now, () => records(now)),
          unknown,
        ).catch(() => unknown)
      : unknown,
  ]
}
