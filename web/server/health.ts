import pg from 'pg'

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
  let clock: NodeJS.Timeout | undefined
  const late = new Promise<boolean>((resolve) => {
    clock = setTimeout(() => resolve(false), PATIENCE)
  })
  try {
    return await Promise.race([probe.asked, late])
  } finally {
    clearTimeout(clock)
  }
}
