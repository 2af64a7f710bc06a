import { randomBytes } from 'node:crypto'
import { loadDemo } from '../demo/load'
import { answering, ensureBuilt, serve } from '../scripts/build'
import { freePort } from '../scripts/cluster'
import { temporaryCluster } from '../scripts/temporary-cluster'
import { connect, database } from '../web/server/database'
import { migrate } from '../web/server/migrations'

/**
 * The built application with the demo on a throw-away database, as the figures over the wire need it.
 *
 * @param more - port of the instruments, and whether the application's errors are shown
 * @returns its port and the database's address; `end` stops it and removes the database
 * @example const site = await served({ errors: 'ignore' }); try { … site.port … } finally { site.end() }
 */
export async function served(more: {
  readonly errors: 'ignore' | 'inherit'
  readonly instruments?: number
  readonly env?: Readonly<Record<string, string>>
}) {
  const cluster = await temporaryCluster()
  const owner = connect(cluster.ownerUrl, 2)
  await migrate(owner.db as never)
  await owner.pool.end()
  process.env.DATABASE_URL = cluster.appUrl
  process.env.AUTH_SECRET = randomBytes(32).toString('hex')
  await loadDemo()
  await database().pool.end()
  ensureBuilt(console.log)
  const port = await freePort()
  const web = serve({ port, databaseUrl: cluster.appUrl, secret: process.env.AUTH_SECRET, ...more, env: { RATE_LIMITS: 'off', ...more.env } })
  const end = () => {
    web.kill('SIGTERM')
    cluster.drop()
  }
  try {
    await answering(port)
  } catch (e) {
    end()
    throw e
  }
  return { port, databaseUrl: cluster.appUrl, ownerUrl: cluster.ownerUrl, web, end }
}
