import { fail, ok, type Result } from '@stone-tally/core'
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible'
import { database } from './database'

/**
 * How many tries are let through, per address and network in so many seconds. An attacker is slowed from wherever they come; whoever signs in
 * from a place they have signed in from before has a count of their own, which no attacker can use up for them.
 */
const LIMITS = {
  /** One e-mail from one network. */
  pair: { points: 8, duration: 300 },
  /** One e-mail from a place it is known from. */
  known: { points: 8, duration: 300 },
  /** All of a network: many addresses tried with few passwords each. */
  network: { points: 60, duration: 300 },
  /** Once it is used up: so many more, and of each address the first alone. A new device of a shared line gets in beside whoever guesses there. */
  crowd: { points: 600, duration: 300 },
  first: { points: 2, duration: 300 },
  /** One e-mail from everywhere it is not known from. */
  address: { points: 60, duration: 3600 },
  /** The set-up code of an installation. */
  setup: { points: 8, duration: 300 },
  /** Links looked at and used from one network: nobody guesses 256 bits, and a whole crew joins over one line in one morning. */
  link: { points: 400, duration: 300 },
  /** Letters to people outside, by who has them sent, in a day. */
  letter: { points: 40, duration: 86_400 },
  /** Questions to passkeys from one network; what comes back is proof, so this only keeps the table small. */
  passkey: { points: 1200, duration: 300 },
} as const
type Count = keyof typeof LIMITS

interface Limit {
  readonly points: number
  /** s */
  readonly duration: number
}
const made = new Map<string, { of: unknown; limiter: RateLimiterPostgres }>()
function limiter(count: Count): RateLimiterPostgres
function limiter(count: string, limit: Limit): RateLimiterPostgres
function limiter(count: string, limit: Limit = LIMITS[count as Count]): RateLimiterPostgres {
  const { pool } = database()
  const before = made.get(count)
  if (before?.of === pool) return before.limiter
  const limiter = new RateLimiterPostgres({
    storeClient: pool,
    storeType: 'pool',
    tableName: 'sign_in_throttle',
    tableCreated: true,
    clearExpiredByTimeout: false,
    keyPrefix: count,
    ...limit,
  })
  made.set(count, { of: pool, limiter })
  return limiter
}

/**
 * Takes a number from a count of any name; it holds over all processes.
 *
 * @returns how long to wait where it is used up, ms
 */
export async function takenFrom(count: string, key: string, limit: Limit, number: number): Promise<number | undefined> {
  try {
    await limiter(count, limit).consume(key.slice(0, 200), number)
    return undefined
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error
    return error.msBeforeNext
  }
}

/** How long to wait where a count is used up, ms; nothing is taken. */
export async function waitFor(count: string, key: string, limit: Limit): Promise<number | undefined> {
  const now = await limiter(count, limit).get(key.slice(0, 200))
  return now && now.consumedPoints >= limit.points ? now.msBeforeNext : undefined
}

/**
 * Counts a try.
 *
 * @param field - whose field says so
 * @returns how long to wait, once there were too many
 */
export async function tried(count: Count, key: string, field: string, what = 'from here'): Promise<Result<true>> {
  try {
    await limiter(count).consume(key.slice(0, 200))
    return ok(true)
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error
    return fail(field, `too many tries ${what}; wait ${Math.ceil(error.msBeforeNext / 60_000)} min and try again`)
  }
}

/** It was the right one: its tries are forgotten. */
export const forgetTries = async (count: Count, key: string): Promise<void> => void (await limiter(count).delete(key.slice(0, 200)))

/**
 * Counts a try to sign in, by e-mail and network, and by place where the e-mail is known from there.
 *
 * @param place - undefined where nobody with this e-mail has signed in from there before
 */
export async function triedSignIn(email: string, network: string, place: string | undefined): Promise<Result<true>> {
  if (place !== undefined) return tried('known', `${email} ${place}`, 'email', 'for this address from this device')
  const counts: readonly (readonly [Count, string])[] = [
    ['pair', `${email} ${network}`],
    ['network', network],
    ['address', email],
  ]
  for (const [count, key] of counts) {
    const one = await tried(count, key, 'email', count === 'network' ? 'from this network' : 'for this address')
    if (one.ok) continue
    // Asked of an address nobody has it is the same: nothing is learned from it.
    const beside = count === 'network' && (await tried('first', `${email} ${network}`, 'email')).ok && (await tried('crowd', network, 'email')).ok
    if (!beside) return one
  }
  return ok(true)
}

/**
 * Signed in: what was tried from there is forgotten, what was tried from elsewhere is not. A whole crew that signs in over one line in the morning
 * uses nothing up: only wrong tries stay counted.
 */
export async function signedInAgain(email: string, network: string, place: string | undefined): Promise<void> {
  if (place !== undefined) return forgetTries('known', `${email} ${place}`)
  await forgetTries('pair', `${email} ${network}`)
  await limiter('network').reward(network.slice(0, 200))
  await limiter('address').reward(email.slice(0, 200))
}
