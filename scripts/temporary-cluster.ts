import { randomBytes } from 'node:crypto'
import { rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { type Cluster, startCluster, stopCluster } from './cluster'

/** A throw-away cluster for tests and figures; `drop` ends it and removes the folder that was made for it here. */
export async function temporaryCluster(): Promise<Cluster & { drop(): void }> {
  const folder = join(tmpdir(), `stone-tally-${process.pid}-${randomBytes(4).toString('hex')}`)
  const cluster = await startCluster(folder)
  return {
    ...cluster,
    drop() {
      stopCluster(folder)
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
