import { randomBytes } from 'node:crypto'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { loadDemo } from '../demo/load'
import { answering, ensureBuilt, serve, startInstruments } from '../scripts/build'
import { freePort } from '../scripts/cluster'
import { temporaryCluster } from '../scripts/temporary-cluster'
import { connect, database } from '../web/server/database'
import { migrate } from '../web/server/migrations'

/** The built application on a throw-away cluster with the demo site. */
export default async function setup() {
  const cluster = await temporaryCluster()
  const owner = connect(cluster.ownerUrl, 2)
  await migrate(owner.db as never)
  await owner.pool.end()
  process.env.DATABASE_URL = cluster.appUrl
  process.env.OWNER_URL = cluster.ownerUrl
  process.env.AUTH_SECRET = randomBytes(32).toString('hex')
  ensureBuilt(console.log)
  const port = await freePort()
  const instruments = await startInstruments()
  const dataFolder = mkdtempSync(join(tmpdir(), 'stone-tally-data-'))
  process.env.DATA_HERE = dataFolder
  const web = serve({
    dataFolder,
    port,
    databaseUrl: cluster.appUrl,
    secret: process.env.AUTH_SECRET,
    instruments: instruments.port,
    checkpointKey: 'c5'.repeat(32),
  })
  await answering(port)
  process.env.BASE_URL = `http://127.0.0.1:${port}`
  // The first page is tried on an empty installation before the demo is loaded.
  const first = await fetch(`${process.env.BASE_URL}/`, { redirect: 'manual' })
  process.env.FIRST_PAGE = first.headers.get('location') ?? ''
  const { wall } = await loadDemo()
  process.env.DEMO_WALL = wall
  await database().pool.end()
  return () => {
    web.kill('SIGTERM')
    instruments.end()
    cluster.drop()
    rmSync(dataFolder, { recursive: true, force: true })
  }
}
