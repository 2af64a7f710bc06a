import pg from 'pg'

/** @param seq - number of the newest entry, where it is known */
type Listener = (seq: number | undefined) => void

interface Hub {
  readonly walls: Map<string, Set<Listener>>
  client: pg.Client | undefined
  /** The one that is connecting. */
  starting: pg.Client | undefined
}
const only: Hub = { walls: new Map(), client: undefined, starting: undefined }
const hub = () => only

function listen() {
  const h = hub()
  if (h.client || h.starting || h.walls.size === 0) return
  // A server that is just coming up may take a connection and never answer on it.
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL, keepAlive: true, connectionTimeoutMillis: 5000 })
  h.starting = client
  let over = false
  // Error and end both come when a connection is lost; only the first counts, and only for this client.
  const again = () => {
    if (over) return
    over = true
    if (h.client === client) h.client = undefined
    if (h.starting === client) h.starting = undefined
    // A lost connection is given back; the next try must not keep a process alive that is done.
    client.end().catch(() => {})
    if (h.walls.size > 0) setTimeout(listen, 500).unref()
  }
  client.on('error', again)
  client.on('end', again)
  client.on('notification', (n) => {
    if (n.channel !== 'tally_entry') {
      for (const take of channels.get(n.channel) ?? []) take(n.payload ?? '')
      return
    }
    const [wall = '', seq] = n.payload?.split(' ') ?? []
    // A revision says only that something came.
    for (const listener of h.walls.get(wall) ?? []) listener(Number(seq) || undefined)
  })
  client
    .connect()
    .then(() => client.query('LISTEN tally_entry; LISTEN tally_here; LISTEN tally_session'))
    .then(() => {
      h.client = client
      h.starting = undefined
      if (h.walls.size === 0) return rest()
      // Whatever was recorded while nobody listened: everyone looks again.
      for (const set of h.walls.values()) for (const listener of set) listener(undefined)
    })
    .catch(again)
}

/** Nobody looks at any wall: the connection is given back. */
function rest() {
  const h = hub()
  const { client } = h
  h.client = undefined
  client?.end().catch(() => {})
}

const channels = new Map<string, Set<(payload: string) => void>>()
/** Takes what is said on another channel, while somebody looks at a wall. */
export function hear(channel: 'tally_here' | 'tally_session', take: (payload: string) => void): () => void {
  const set = channels.get(channel) ?? new Set()
  set.add(take)
  channels.set(channel, set)
  return () => void set.delete(take)
}

/**
 * Calls back whenever something was recorded on a wall, by any process. One listening connection serves all.
 *
 * @returns ends it
 */
export function watch(wall: string, listener: Listener): () => void {
  const { walls } = hub()
  const set = walls.get(wall) ?? new Set()
  set.add(listener)
  walls.set(wall, set)
  listen()
  return () => {
    set.delete(listener)
    if (set.size === 0 && walls.get(wall) === set) walls.delete(wall)
    if (walls.size === 0) rest()
  }
}
