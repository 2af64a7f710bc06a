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
 * @param more - port of the instruments, how many processes, and whether the application's errors are shown
 * @returns its port, the ports of all its processes, and the database's address; `end` stops it and removes the database
 * @example const site = await served({ errors: 'ignore' }); try { … site.port … } finally { site.end() }
 */
export async function served(more: {
  readonly errors: 'ignore' | 'inherit'
  readonly instruments?: number
  readonly env?: Readonly<Record<string, string>>
  /** Processes of the application on the one database; one where nothing is said. */
  readonly processes?: number
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
  const ports: number[] = []
  const all: ReturnType<typeof serve>[] = []
  for (let i = 0; i < (more.processes ?? 1); i++) {
    const port = await freePort()
    ports.push(port)
    all.push(serve({ port, databaseUrl: cluster.appUrl, secret: process.env.AUTH_SECRET, ...more, env: { RATE_LIMITS: 'off', ...more.env } }))
  }
  const [port, web] = [ports[0] as number, all[0] as (typeof all)[number]]
  const end = () => {
    for (const one of all) one.kill('SIGTERM')
    cluster.drop()
  }
  try {
    for (const p of ports) await answering(p)
  } catch (e) {
    end()
    throw e
  }
  return { port, ports, databaseUrl: cluster.appUrl, ownerUrl: cluster.ownerUrl, web, end }
}
