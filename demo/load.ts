import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { type Entry, issued, layOut, ok, type Role, readPlanFile } from '@stone-tally/core'
import { type Kysely, sql } from 'kysely'
import { addPerson, type Person } from '../web/server/accounts'
import { type Database, database } from '../web/server/database'
import { takePhoto } from '../web/server/photos'
import { markSeen } from '../web/server/planning'
import { recordEntries } from '../web/server/record-store'
import { createWall } from '../web/server/walls'
import { BUILDS, tellBuild } from './builds'
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

/** One of each system at least; the last is loaded last. */
const WALLS = [
  ...(['queue-lane-wall', 'ticket-booth-wall', 'kiosk-terrace', 'compass-planter'] as const),
  ...(['slip-terrace', 'shelter-wall', 'ticket-forecourt', 'anchor-bed', 'lamp-planter'] as const),
  ...(['boat-lift-wall', 'haul-road-bank', 'cafe-terrace'] as const),
  'breakwater-gabions' as const,
] as const
const nameOf = (file: (typeof WALLS)[number]) => planOf(`${file}.tally.json`).name

/** Is the demo site there, whole or cut off while it was loaded? Its last wall is made last. */
export async function demoState(db: Kysely<Database>): Promise<'none' | 'partly' | 'whole'> {
  if (!(await db.selectFrom('company').select('id').where('id', '=', COMPANY).executeTakeFirst())) return 'none'
  const last = await db
    .selectFrom('wall')
    .select('id')
    .where('company_id', '=', COMPANY)
    .where('name', '=', nameOf('breakwater-gabions'))
    .executeTakeFirst()
  return last ? 'whole' : 'partly'
}

/** Entries of the demo bear this in their id, so that what people recorded since can be told from them. */
const MARK = '-7d3a-8d3a-'

/** An id that is the same whenever the demo of this day is loaded: sending it again is harmless, so loading goes on where it stopped. */
function demoId(at: number, wall: string, index: number): string {
  const time = at.toString(16).padStart(12, '0')
  const tail = createHash('sha256').update(`${wall} ${index}`).digest('hex').slice(0, 12)
  return `${time.slice(0, 8)}-${time.slice(8)}${MARK}${tail}`
}

/** What is in the database besides the demo as it was loaded, in words; what putting the demo back would lose is said to go. */
export async function notOfTheDemo(db: Kysely<Database>): Promise<string[]> {
  const count = async (query: ReturnType<typeof sql<{ n: string }>>) => Number((await query.execute(db)).rows[0]?.n ?? 0)
  const demoWalls = sql`SELECT id FROM wall WHERE company_id = ${COMPANY}::uuid`
  const names = WALLS.map(nameOf)
  const found: [number, string, string][] = [
    [await count(sql`SELECT count(*) AS n FROM company WHERE id <> ${COMPANY}::uuid`), 'other company, which stays', 'other companies, which stay'],
    [
      await count(
        sql`SELECT count(*) AS n FROM entry WHERE wall_id IN (${demoWalls}) AND id::text NOT LIKE ${`%${MARK}%`} AND NOT (body::jsonb ->> 'kind' = 'revision' AND body::jsonb #>> '{data,number}' = '1')`,
      ),
      'entry recorded on the demo walls, which goes',
      'entries recorded on the demo walls, which go',
    ],
    [
      await count(sql`SELECT count(*) AS n FROM wall WHERE company_id = ${COMPANY}::uuid AND name NOT IN (${sql.join(names)})`),
      'wall made in the demo company, which goes',
      'walls made in the demo company, which go',
    ],
    [
      await count(sql`SELECT count(*) AS n FROM rule_set WHERE company_id = ${COMPANY}::uuid`),
      'change of the demo company’s rule book, which goes',
      'changes of the demo company’s rule book, which go',
    ],
    [
      await count(sql`SELECT count(DISTINCT name) AS n FROM template WHERE company_id = ${COMPANY}::uuid`),
      'template of the demo company, which goes',
      'templates of the demo company, which go',
    ],
    [
      await count(sql`SELECT count(*) AS n FROM catalogue_unit WHERE company_id = ${COMPANY}::uuid`),
      'unit of the demo company’s own catalogue, which goes',
      'units of the demo company’s own catalogue, which go',
    ],
    [
      await count(
        sql`SELECT count(*) AS n FROM "user" WHERE "companyId" = ${COMPANY} AND email NOT IN (${sql.join(DEMO_PEOPLE.map((p) => p.email))})`,
      ),
      'person added to the demo company, who goes',
      'people added to the demo company, who go',
    ],
  ]
  return found.flatMap(([n, one, many]) => (n === 0 ? [] : [`${n} ${n === 1 ? one : many}`]))
}

/** Columns that name a row of another table: whatever a later version keeps of a wall or a company goes with it. */
async function naming(db: Kysely<Database>, table: 'wall' | 'company'): Promise<{ table: string; column: string }[]> {
  const { rows } = await sql<{ table: string; column: string }>`
    SELECT c.conrelid::regclass::text AS table, a.attname AS column
    FROM pg_constraint c JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = c.conkey[1]
    WHERE c.contype = 'f' AND c.confrelid = ${table}::regclass ORDER BY 1`.execute(db)
  return rows
}

/** Takes the demo company out again, as the owner of the tables: the application itself cannot. */
export async function removeDemo(db: Kysely<Database>) {
  await db.transaction().execute(async (tx) => {
    const [ofWalls, ofCompany] = [await naming(tx, 'wall'), (await naming(tx, 'company')).filter((t) => t.table !== 'wall')]
    const kept = [...new Set([...ofWalls, ...ofCompany].map((t) => t.table)), 'seen']
    const triggers = (state: 'DISABLE' | 'ENABLE') =>
      Promise.all(kept.map((table) => sql`ALTER TABLE ${sql.table(table)} ${sql.raw(state)} TRIGGER USER`.execute(tx)))
    await triggers('DISABLE')
    for (const { table, column } of ofWalls)
      await sql`DELETE FROM ${sql.table(table)} WHERE ${sql.ref(column)} IN (SELECT id FROM wall WHERE company_id = ${COMPANY}::uuid)`.execute(tx)
    for (const { table, column } of ofCompany) await sql`DELETE FROM ${sql.table(table)} WHERE ${sql.ref(column)} = ${COMPANY}::uuid`.execute(tx)
    await sql`DELETE FROM seen WHERE person_id IN (SELECT id FROM "user" WHERE "companyId" = ${COMPANY})`.execute(tx)
    await tx.deleteFrom('wall').where('company_id', '=', COMPANY).execute()
    await tx.deleteFrom('user').where('companyId', '=', COMPANY).execute()
    await tx.deleteFrom('company').where('id', '=', COMPANY).execute()
    await triggers('ENABLE')
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
async function tell(wall: string, name: string, told: readonly Told[], people: ReadonlyMap<Role, Person>, now: number, days: number) {
  const times = workingTimes(told.length, now, days)
  const named = new Map<string, string>()
  // Before anyone goes in, the foreman looks at the trench, every morning.
  const mornings = [...new Set(times.map((t) => Math.floor(t / 86_400_000)))].map((d) => d * 86_400_000 + 6.5 * 3_600_000)
  const looked = await recordEntries(
    wall,
    people.get('foreman') as Person,
    mornings.map((at, k) => ({
      id: demoId(at, `${name} look`, k),
      wall,
      revision: 1,
      clock: 0,
      at: new Date(at).toISOString(),
      kind: 'look',
      where: {},
      data: { by: 'Mara Quill', safe: true, seen: ['sides dry, no cracks', 'damp at the foot, no cracks', 'spoil a metre off, ladder in'][k % 3] },
    })),
    now,
  )
  for (const o of looked) if (!o.ok) throw new Error(`demo look: ${o.problems[0]?.message}`)
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
      const id = demoId(at, name, i + j)
      if (t.as) named.set(t.as, id)
      const link = (name: string | undefined) => (name ? named.get(name) : undefined)
      return {
        id,
        wall,
        revision: 1,
        // Told as a device would whose clock was compared with the house's.
        clock: 0,
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
        ...(t.reason ? { reason: t.reason } : {}),
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

/**
 * Loads the demo company through the same doors a user has: plan files, accounts, recorded entries. What is there already is left as
 * it is, so that a loading cut off half-way is completed by loading again.
 *
 * @param now - the day it is told from; that of the first loading where there was one
 */
export async function loadDemo(now = Date.now()): Promise<{ wall: string }> {
  const { db } = database()
  await db
    .insertInto('company')
    .values({ id: COMPANY, name: 'Tidewrack Walls', created_at: new Date(now) })
    .onConflict((c) => c.doNothing())
    .execute()
  const begun = (await db.selectFrom('company').select('created_at').where('id', '=', COMPANY).executeTakeFirstOrThrow()).created_at.getTime()
  const people = new Map<Role, Person>()
  for (const p of DEMO_PEOPLE) {
    const known = await db.selectFrom('user').select('id').where('email', '=', p.email).executeTakeFirst()
    const added = known ? ok(known) : await addPerson(COMPANY, { ...p, password: DEMO_PASSWORD })
    if (!added.ok) throw new Error(added.problems[0]?.message)
    people.set(p.role, { ...p, id: added.value.id, companyId: COMPANY })
    // They have been here for a while: nobody walks them through their own wall.
    await markSeen({ ...p, id: added.value.id, companyId: COMPANY }, { what: 'walk' })
  }
  const foreman = people.get('foreman') as Person
  const day = 86_400_000
  let first = ''
  for (const file of WALLS) {
    const plan = planOf(`${file}.tally.json`)
    const known = await db.selectFrom('wall').select('id').where('company_id', '=', COMPANY).where('name', '=', plan.name).executeTakeFirst()
    // Issued before the work began: nothing can be recorded under a plan that is not there yet.
    const made = known ? ok(known) : await createWall(foreman, plan, begun - (file === 'queue-lane-wall' ? 30 : 6) * day)
    if (!made.ok) throw new Error(`${file}: ${made.problems[0]?.message}`)
    first ||= made.value.id
    const laid = layOut(issued(plan))
    if (!laid.ok) throw new Error(`${file}: ${laid.problems[0]?.message}`)
    if (file === 'queue-lane-wall') await tell(made.value.id, file, tellStory(laid.value, begun), people, begun, 20)
    const built = BUILDS[file]
    if (built) await tell(made.value.id, file, tellBuild(laid.value, built), people, begun, 5)
    if (file === 'ticket-booth-wall') await tell(made.value.id, file, tellPad(laid.value), people, begun, 4)
  }
  return { wall: first }
}
