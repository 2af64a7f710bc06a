/** Where the page and what answers for the house both see that the house was not told yet of a sign-out. */
const FLAGS = 'flags'
const OWED = '/owes-sign-out'
const flags = () => (typeof caches === 'undefined' ? undefined : caches.open(FLAGS))

/** Keeps in mind that the house has to be told. */
export async function oweSignOut(): Promise<void> {
  await (await flags())?.put(OWED, new Response('1'))
}

/**
 * Tells the house of a sign-out it could not be told of then, before it is asked for anything else.
 *
 * @returns is nothing owed any more?
 */
export async function settleSignOut(): Promise<boolean> {
  const kept = await flags()
  if (!(await kept?.match(OWED))) return true
  const answer = await fetch('/api/sign-out', { method: 'POST' }).catch(() => undefined)
  if (!answer?.headers.has('x-house')) return false
  await kept?.delete(OWED)
  return true
}
