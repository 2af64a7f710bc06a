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

const made = new Map<Count, { of: unknown; limiter: RateLimiterPostgres }>()
function limiter(count: Count): RateLimiterPostgres {
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
    ...LIMITS[count],
  })
  made.set(count, { of: pool, limiter })
  return limiter
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
    if (!one.ok) return one
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
