import { layOut, type Plan, type Role } from '@stone-tally/core'
import { smallPlan } from '../../core/test/plans'
import { temporaryCluster } from '../../scripts/temporary-cluster'
import type { Person } from '../server/accounts'
import { connect, database } from '../server/database'
import { migrate } from '../server/migrations'
import { uuid7 } from '../server/walls'

/** A throw-away cluster with two companies' ids; the environment points at it with the application's role. */
export async function site() {
  const cluster = await temporaryCluster()
  const owner = connect(cluster.ownerUrl, 3)
  await migrate(owner.db as never)
  process.env.DATABASE_URL = cluster.appUrl
  process.env.AUTH_SECRET = 'x'.repeat(40)
  const company = async (name: string) => (await owner.db.insertInto('company').values({ name }).returning('id').executeTakeFirstOrThrow()).id
  const [ours, theirs] = [await company('Ours'), await company('Theirs')]
  const person = (role: Role, companyId = ours): Person => ({
    id: `${role}-${companyId.slice(0, 4)}`,
    name: `The ${role}`,
    email: `${role}@site.example`,
    role,
    companyId,
  })
  return {
    cluster,
    owner,
    ours,
    theirs,
    person,
    async end() {
      await database().pool.end()
      await owner.pool.end()
      cluster.drop()
    },
  }
}

/** A note as a device sends it, without its author. */
export const noteFor = (wall: string, text: string, id = uuid7()) => ({
  id,
  wall,
  revision: 1,
  at: new Date().toISOString(),
  kind: 'note',
  where: {},
  data: { text },
})

export const planNamed = (name: string): Plan => ({ ...smallPlan, name })
export { layOut, smallPlan }
