import { createHash, randomUUID } from 'node:crypto'
import { monitorEventLoopDelay } from 'node:perf_hooks'
import { type ChainedEntry, canonical, type Entry, linkOf, planHash, recordLines, writeRecordFile } from '@stone-tally/core'
import { entry, smallPlan, WALL } from '../core/test/plans'
import { temporaryCluster } from '../scripts/temporary-cluster'
import { connect, database } from '../web/server/database'
import { recordFile } from '../web/server/export'
import { migrate } from '../web/server/migrations'
import { recordEntries, stateOf } from '../web/server/record-store'
import { SUMS, sumOfText } from '../web/server/sums'
import { verifyWall } from '../web/server/verify'
import { createWall } from '../web/server/walls'
import { print } from './print'
import { type Figure, median } from './record'

const ENTRIES = 20_000
const most = (name: string, value: number, limit: number, unit: string, note: string): Figure => ({ name, value, unit, over: 'at most', limit, note })

/** Checking a record against the least it can take: parsing, putting in canonical form and hashing entry by entry. */
function verifying(): Figure[] {
  const entries: ChainedEntry[] = []
  let hash = WALL
  for (let i = 0; i < ENTRIES; i++) {
    const e =
      i === 0
        ? entry('revision', {}, { number: 1, plan: planHash(smallPlan) })
        : entry('note', {}, { text: `Truck ${i} with stone, ticket ${(i * 7919) % 99991}` })
    const recorded = { seq: i + 1, receivedAt: '2026-05-20T10:00:00.000Z', entry: e }
    hash = linkOf(hash, recorded, sumOfText)
    entries.push({ ...recorded, hash })
  }
  const file = { wall: WALL, revisions: [{ number: 1, issuedAt: '', plan: smallPlan as object }], entries, head: { seq: ENTRIES, hash } }
  const lines = writeRecordFile(file, '2026-06-01T00:00:00Z').split('\n')
  const at = lines.findIndex((l) => l.startsWith('{"seq":1,'))
  const own = lines.slice(at, at + ENTRIES)
  const least = () => {
    let before = WALL
    for (const line of own) {
      const e = JSON.parse(line.endsWith(',') ? line.slice(0, -1) : line) as ChainedEntry
      before = createHash('sha256')
        .update(`${before}\n${e.seq}\n${e.receivedAt}\n${canonical(e.entry)}`, 'utf8')
        .digest('hex')
    }
    return before
  }
  const whole = () => {
    const check = recordLines(lines[0] as string, { sums: SUMS })
    if (!check.ok) throw new Error('not a record')
    for (const line of lines.slice(1)) if (check.value.take(line)) break
    const report = check.value.end()
    if (!report.intact) throw new Error(report.message)
  }
  const time = (work: () => void) => {
    const began = performance.now()
    work()
    return performance.now() - began
  }
  const [a, b]: [number[], number[]] = [[], []]
  for (let i = 0; i < 9; i++) {
    a.push(time(whole))
    b.push(time(() => void least()))
  }
  return [
    most(
      'verify an export / parse, canonical form and hash of each entry',
      median(a) / median(b),
      2,
      '×',
      `${ENTRIES} entries: ${median(a).toFixed(0)} and ${median(b).toFixed(0)} ms`,
    ),
  ]
}

/** How long one request keeps all others of its process waiting, on a wall of 20,000 entries: folding, exporting, verifying, recording. */
async function holding(): Promise<Figure[]> {
  const cluster = await temporaryCluster()
  try {
    const owner = connect(cluster.ownerUrl, 2)
    await migrate(owner.db as never)
    const { id: companyId } = await owner.db.insertInto('company').values({ name: 'Bench' }).returning('id').executeTakeFirstOrThrow()
    process.env.DATABASE_URL = cluster.appUrl
    const person = { id: 'f', name: 'Foreman', email: 'f@site.example', role: 'foreman' as const, companyId }
    const made = await createWall(person, smallPlan)
    if (!made.ok) throw new Error('no wall')
    const wall = made.value.id
    const note = (text: string) => ({
      ...{ id: randomUUID().replace(/^(.{14})./, '$17'), wall, revision: 1, at: new Date().toISOString(), kind: 'note', where: {} },
      data: { text },
    })
    const by = { id: 'f', name: 'Foreman', role: 'foreman' }
    for (let i = 0; i < ENTRIES / 500; i++) {
      const list = Array.from({ length: 500 }, (_, j) => ({ ...note(`Truck ${i}-${j} with stone`), by }) as unknown as Entry)
      await owner.pool.query('INSERT INTO entry (wall_id, id, body) SELECT $1, i, b FROM unnest($2::uuid[], $3::text[]) AS t (i, b)', [
        wall,
        list.map((e) => e.id),
        list.map((e) => canonical(e)),
      ])
    }
    const held = async (name: string, work: () => Promise<unknown>): Promise<Figure> => {
      const delay = monitorEventLoopDelay({ resolution: 1 })
      await new Promise((r) => setTimeout(r, 50))
      delay.enable()
      const began = performance.now()
      await work()
      const took = performance.now() - began
      // What held it last is seen by the turn after.
      await new Promise((r) => setTimeout(r, 20))
      delay.disable()
      return most(`${name}, 20,000 entries: longest the loop is held`, delay.max / 1e6, 50, 'ms', `a person's patience; ${took.toFixed(0)} ms in all`)
    }
    const figures = [
      await held('folded for the first time', () => stateOf(wall)),
      await held('an entry recorded', () => recordEntries(wall, person, [note('one')], Date.now())),
      await held('the next entry', () => recordEntries(wall, person, [note('two')], Date.now())),
      await held('exported', async () => {
        for await (const _ of recordFile({ id: wall, name: 'Bench' }, 'all', ''));
      }),
      await held('verified', () => verifyWall(wall)),
    ]
    await database().pool.end()
    await owner.pool.end()
    return figures
  } finally {
    cluster.drop()
  }
}

async function main() {
  print([...verifying(), ...(await holding())])
}
main().catch((error) => {
  console.error(error)
  process.exit(1)
})
