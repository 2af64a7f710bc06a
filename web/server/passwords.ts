import { randomBytes, timingSafeEqual } from 'node:crypto'
import { Worker } from 'node:worker_threads'
import type { Problem } from '@stone-tally/core'
import { ZxcvbnFactory } from '@zxcvbn-ts/core'
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common'
import { Busy } from './busy'

/** Shortest and longest password of a new one. */
export const PASSWORD = { min: 12, max: 128 }
/** Guesses a password has to stand, as the list of common ones rates it: 3 of 4, a hundred million at least. */
const ENOUGH = 3
/** Signs that are rated; the rest only makes it better. */
const RATED = 64

let rating: ZxcvbnFactory | undefined
/**
 * What is wrong with a new password; undefined where it will do. Short ones and common ones are refused, common with a number or a year behind
 * them too, and what everybody knows of the person.
 *
 * @param known - name, e-mail, company
 * @example wrongPassword('password1234', []) // { field: 'password', message: 'is among those that are tried first …' }
 */
export function wrongPassword(password: string, known: readonly string[], field = 'password'): Problem | undefined {
  if (password.length < PASSWORD.min)
    return { field, message: `must be at least ${PASSWORD.min} characters; four words that do not belong together are easy to keep` }
  if (password.length > PASSWORD.max) return { field, message: `must be at most ${PASSWORD.max} characters` }
  rating ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs })
  const words = known.flatMap((k) => [k, ...k.split(/[^\p{L}\p{N}]+/u)]).filter((k) => k.length > 2)
  if (rating.check(password.slice(0, RATED), words).score >= ENOUGH) return undefined
  return { field, message: 'is among those that are tried first, or made of what others know of you; take four words that do not belong together' }
}

/**
 * The memory-hard function, in a thread of its own: on the pool the process uses for everything else a flood of sign-ins would slow whoever
 * records. Parameters and form are those the accounts library has always used, so every password kept is still good.
 */
const CODE = `
const { parentPort } = require('node:worker_threads')
const { scryptSync } = require('node:crypto')
parentPort.on('message', ({ id, password, salt }) => {
  const key = scryptSync(password.normalize('NFKC'), salt, 64, { N: 16384, r: 16, p: 1, maxmem: 128 * 16384 * 16 * 2 })
  parentPort.postMessage({ id, key: key.toString('hex') })
})
`
/** So many at most wait for it; whoever comes then is told to come again. */
const MOST_WAITING = 64

/** More people sign in at once than there is room for. */
export class SignInBusy extends Busy {}

interface Thread {
  readonly worker: Worker
  readonly waiting: Map<number, { done(key: string): void; failed(error: Error): void }>
}
const shared = globalThis as { __tallyHash?: Thread }
let count = 0

function thread(): Thread {
  if (shared.__tallyHash) return shared.__tallyHash
  const made: Thread = { worker: new Worker(CODE, { eval: true }), waiting: new Map() }
  const over = (error: Error) => {
    if (shared.__tallyHash === made) delete shared.__tallyHash
    for (const w of made.waiting.values()) w.failed(error)
    made.waiting.clear()
  }
  made.worker.on('message', ({ id, key }: { id: number; key: string }) => {
    made.waiting.get(id)?.done(key)
    made.waiting.delete(id)
    if (made.waiting.size === 0) made.worker.unref()
  })
  made.worker.on('error', over)
  made.worker.on('exit', () => over(new Error('the thread that hashes ended')))
  made.worker.unref()
  shared.__tallyHash = made
  return made
}

function keyOf(password: string, salt: string): Promise<string> {
  const { worker, waiting } = thread()
  if (waiting.size >= MOST_WAITING) return Promise.reject(new SignInBusy('too many people sign in at once; try again in a moment'))
  const id = ++count
  return new Promise((done, failed) => {
    waiting.set(id, { done, failed })
    worker.ref()
    worker.postMessage({ id, password, salt })
  })
}

/** A password as it is kept: salt and key in hex. */
export async function hashed(password: string): Promise<string> {
  const salt = randomBytes(16).toString('hex')
  return `${salt}:${await keyOf(password, salt)}`
}

/** Is this the password that was kept? */
export async function isPassword({ hash, password }: { hash: string; password: string }): Promise<boolean> {
  const [salt = '', key = ''] = hash.split(':')
  const [kept, given] = [Buffer.from(key, 'hex'), Buffer.from(await keyOf(password, salt), 'hex')]
  return kept.length === given.length && timingSafeEqual(kept, given)
}

/** Takes as long as looking at a password, for an address nobody has: what is not there must not answer faster. */
export const asLong = async (password: string): Promise<void> => void (await keyOf(password, '00'.repeat(16)))
