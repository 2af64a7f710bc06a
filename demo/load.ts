import { readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { type Entry, layOut, type Role, readPlanFile } from '@stone-tally/core'
import { type Kysely, sql } from 'kysely'
import { addPerson, type Person } from '../web/server/accounts'
import { type Database, database } from '../web/server/database'
import { takePhoto } from '../web/server/photos'
import { recordEntries } from '../web/server/record-store'
import { createWall, uuid7 } from '../web/server/walls'
import { pictureOf } from './pictures'
import { tellPad, tellStory } from './story'
import type { Told } from './told'

const HERE = dirname(fileURLToPath(import.meta.url))
const COMPANY = '0d3a0000-0000-7000-8000-000000000001'
export const DEMO_PASSWORD = 'quarry-lantern'
export const DEMO_PEOPLE: readonly { name: string; email: string; role: Role }[] = [
  { name: 'Mara Quill', email: 'mara@tidewrack.example', role: 'foreman' },
  { name: 'Tobin Ash', email: 'tobin@tidewrack.example', role: 'crew' },
  { name: 'Ines Vale', email: 'ines@tidewrack.example', role: 'inspector' },
  { name: 'Odd Fenn', email: 'odd@tidewrack.example', role: 'office' },
]

export const demoPresent = async (db: Kysely<Database>) =>
  (await db.selectFrom('company').select('id').where('id', '=', COMPANY).executeTakeFirst()) !== undefined

/** Takes the demo company out again, as the owner of the tables: the application itself cannot. */
export async function removeDemo(db: Kysely<Database>) {
  await db.transaction().execute(async (tx) => {
    for (const table of ['entry', 'revision', 'photo']) await sql`ALTER TABLE ${sql.table(table)} DISABLE TRIGGER append_only`.execute(tx)
    for (const table of ['entry', 'revision', 'photo', 'chain_head']) {
      await sql`DELETE FROM ${sql.table(table)} WHERE wall_id IN (SELECT id FROM wall WHERE company_id = ${COMPANY}::uuid)`.execute(tx)
    }
    await tx.deleteFrom('wall').where('company_id', '=', COMPANY).execute()
    await tx.deleteFrom('user').where('companyId', '=', COMPANY).execute()
    await tx.deleteFrom('company').where('id', '=', COMPANY).execute()
    for (const table of ['entry', 'revision', 'photo']) await sql`ALTER TABLE ${sql.table(table)} ENABLE TRIGGER append_only`.execute(tx)
  })
}

/** Working times of the last `days` before `now`, Sundays off, spread evenly over `count` facts. */
function workingTimes(count: number, now: number, days: number): number[] {
  const day = 86_400_000
  const midnight = Math.floor(now / day) * day
  const mornings: number[] = []
  for (let back = days; back >= 1; back--) {
    const at = midnight - back * day
    if (new Date(at).getUTCDay() !== 0) mornings.push(at + 7 * 3_600_000)
  }
  const perDay = Math.ceil(count / mornings.length)
  return Array.from(
    { length: count },
    (_, i) => (mornings[Math.floor(i / perDay)] ?? midnight - day) + Math.round(((i % perDay) / perDay) * 8 * 3_600_000),
  )
}

const planOf = (name: string) => {
  const plan = readPlanFile(readFileSync(join(HERE, name), 'utf8'))
  if (!plan.ok) throw new Error(`${name}: ${plan.problems[0]?.field} ${plan.problems[0]?.message}`)
  return plan.value
}

/** Records a story on a wall, batch by batch, as its people would. */
async function tell(wall: string, told: readonly Told[], people: ReadonlyMap<Role, Person>, now: number, days: number) {
  const times = workingTimes(told.length, now, days)
  const named = new Map<string, string>()
  for (let i = 0; i < told.length; ) {
    // Runs of one person's facts go as one batch, as a device that was out of reach would send them.
    const who = told[i]?.who
    let end = i
    while (end < told.length && told[end]?.who === who && end - i < 100) end++
    // Photos go first, as a device sends them.
    const pictures = new Map<Told, object>()
    for (const [j, t] of told.slice(i, end).entries()) {
      if (!t.picture) continue
      const bytes = await pictureOf(t.picture, new Date(times[i + j] as number))
      const taken = await takePhoto(wall, people.get(who as Role) as Person, bytes, { name: `${t.picture}.jpg`, strip: true })
      if (!taken.ok) throw new Error(`demo photo ${t.picture}: ${taken.problems[0]?.message}`)
      pictures.set(t, taken.value)
    }
    const batch = told.slice(i, end).map((t, j): Omit<Entry, 'by'> => {
      const at = times[i + j] as number
      const id = uuid7(at)
      if (t.as) named.set(t.as, id)
      const link = (name: string | undefined) => (name ? named.get(name) : undefined)
      return {
        id,
        wall,
        revision: 1,
        at: new Date(at).toISOString(),
        kind: t.kind,
        where: t.where,
        data: {
          ...pictures.get(t),
          ...(t.data as object),
          ...(t.of ? { of: link(t.of) } : {}),
          ...(t.actionOn ? { of: link(t.actionOn) } : {}),
          ...(t.curve ? { curve: link(t.curve) } : {}),
        },
        ...(t.supersedes ? { supersedes: link(t.supersedes) } : {}),
        ...(t.recheckOf ? { recheckOf: link(t.recheckOf) } : {}),
        ...(t.instrument ? { instrument: t.instrument(new Date(now)) } : {}),
      }
    })
    const outcomes = await recordEntries(wall, people.get(who as Role) as Person, batch, now)
    outcomes.forEach((o, j) => {
      if (!o.ok)
        throw new Error(
          `demo fact ${i + j} (${told[i + j]?.kind} ${JSON.stringify(told[i + j]?.where)}): ${o.problems[0]?.field} ${o.problems[0]?.message}`,
        )
    })
    i = end
  }
}

/** Loads the demo company through the same doors a user has: plan files, accounts, recorded entries. */
export async function loadDemo(now = Date.now()): Promise<{ wall: string }> {
  const { db } = database()
  await db.insertInto('company').values({ id: COMPANY, name: 'Tidewrack Walls' }).execute()
  const people = new Map<Role, Person>()
  for (const p of DEMO_PEOPLE) {
    const added = await addPerson(COMPANY, { ...p, password: DEMO_PASSWORD })
    if (!added.ok) throw new Error(added.problems[0]?.message)
    people.set(p.role, { ...p, id: added.value.id, companyId: COMPANY })
  }
  const foreman = people.get('foreman') as Person
  const plan = planOf('queue-lane-wall.tally.json')
  // Issued before the work began: nothing can be recorded under a plan that is not there yet.
  const made = await createWall(foreman, plan, now - 30 * 86_400_000)
  if (!made.ok) throw new Error(made.problems[0]?.message)
  const wall = made.value.id
  const layout = layOut(plan)
  if (!layout.ok) throw new Error(layout.problems[0]?.message)
  await tell(wall, tellStory(layout.value), people, now, 20)
  for (const file of ['ticket-booth-wall', 'kiosk-terrace', 'compass-planter', 'breakwater-gabions']) {
    const more = await createWall(foreman, planOf(`${file}.tally.json`), now - 6 * 86_400_000)
    if (!more.ok) throw new Error(`${file}: ${more.problems[0]?.message}`)
    if (file !== 'ticket-booth-wall') continue
    const laid = layOut(planOf(`${file}.tally.json`))
    if (laid.ok) await tell(more.value.id, tellPad(laid.value), people, now, 4)
  }
  return { wall }
}
