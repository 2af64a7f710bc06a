import { layOut, type Plan, type Role } from '@stone-tally/core'
import { built, ENGINEERED, smallPlan } from '../../core/test/plans'
import { temporaryCluster } from '../../scripts/temporary-cluster'
import type { Person } from '../server/accounts'
import { connect, database } from '../server/database'
import { migrate } from '../server/migrations'
import { createWall } from '../server/walls'

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

export { noteOf as noteFor } from '../../bench/note'

export const planNamed = (name: string): Plan => built({ ...smallPlan, ...ENGINEERED, name })
/** A small wall of our company, by its foreman; its id. */
export async function newWall(s: Awaited<ReturnType<typeof site>>, name: string): Promise<string> {
  const made = await createWall(s.person('foreman'), planNamed(name))
  if (!made.ok) throw new Error(made.problems[0]?.message)
  return made.value.id
}
/** Waits until it is done, or as long as told. */
export async function until(done: () => boolean, ms = 45_000) {
  for (let t = 0; t < ms && !done(); t += 20) await new Promise((r) => setTimeout(r, 20))
}
export { layOut, smallPlan }
