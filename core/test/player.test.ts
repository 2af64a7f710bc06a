// Somebody who does what Now says, and nothing else, comes to the released final of any wall without one refusal: what a release asks is known before.
import { readdirSync, readFileSync } from 'node:fs'
import {
  admit,
  advance,
  dailyNeeds,
  type Entry,
  emptyState,
  issued,
  type Layout,
  looksFrom,
  type Now,
  nowOf,
  type Owed,
  pointOf,
  readPlanFile,
  releaseNeeds,
  type Step,
  settled,
  statusOf,
  tableOf,
  type WallState,
} from '@stone-tally/core'
import fc from 'fast-check'
import { plans } from './any-plan'
import { good, groundOf, morningLook, photoOf } from './build'
import { ENGINEERED, entry, layoutOf, NOW, plain, SIGNED } from './plans'

/** Steps of the wall as a whole that wait for every section. */
const AFTER = new Set(['finish', 'pour', 'final'])
const DAY = 86_400_000
/** Where a cut is to be looked at, as it is said. */
const CUT = /^the cut, .* at (\d+\.\d+):/
const isTest = (e: Entry) => e.kind === 'density' || e.kind === 'curve'

/** Plays a wall by Now alone. @returns how often something was owed, and how many looks were made on a walk with others */
function play(layout: Layout, seen?: (state: WallState, step: Step, at: string) => void): { owed: string[]; releases: number; walks: number } {
  let state = emptyState([layout])
  let [seq, day, releases, walks] = [0, 0, 0, 0]
  let [last, same] = ['', 0]
  const owed: string[] = []
  const at = () => new Date(NOW + day * DAY).toISOString()
  const put = (made: Entry) => {
    const e = { ...made, at: at() }
    const judged = admit(state, e, NOW + day * DAY)
    if (!judged.ok) throw new Error(`refused: ${e.kind} ${JSON.stringify(e.where)}: ${plain(judged.problems.map((p) => p.message)).join('; ')}`)
    if (judged.value?.verdict === 'out') throw new Error(`out: ${e.kind} ${JSON.stringify(e.where)}: ${plain(judged.value.text)}`)
    state = advance(state, { seq: ++seq, receivedAt: '', entry: e })
  }
  const pay = (o: Owed) => {
    owed.push(o.at)
    if (o.at !== 'density') throw new Error(`nothing good work leaves owed: ${plain(o.message)}`)
    for (const e of good(o.step, layout).filter(isTest)) put(e)
  }
  const now = (): Now | undefined => {
    const of = layout.plan.sections.map((s) => nowOf(state, s.id, at()))
    return of.find((n) => n && !AFTER.has(n.step.stage.id)) ?? nowOf(state, undefined, at())
  }
  for (let guard = 0; guard < 4000; guard++) {
    const n = now()
    if (!n) return { owed, releases, walks }
    // Whoever does the same thing over and over is not told what is wanted.
    const stands = `${n.step.key} ${plain(n.holds).join('; ')}`
    same = stands === last ? same + 1 : 0
    last = stands
    if (same > 95) throw new Error(`stuck at ${stands}; missing ${plain(statusOf(state, n.step).missing).join('; ')}`)
    const status = statusOf(state, n.step)
    if (n.step.stage.hold && settled(status)) {
      // What is owed is said before anybody signs; with nothing owed the release is taken.
      expect(n.owed.map((o) => o.id)).toEqual(releaseNeeds(state, n.step).map((o) => o.id))
      if (n.owed.length > 0) {
        n.owed.forEach(pay)
        continue
      }
      const role = pointOf(layout.plan, n.step.stage.hold)?.roles[0] ?? 'inspector'
      const { stage, section, course } = n.step
      put(
        entry(
          'release',
          { stage: stage.id, section, course },
          { decision: 'released', reason: 'seen', signature: SIGNED },
          { role, by: { id: `other-${role}`, name: 'I. Vale', role } },
        ),
      )
      releases++
    } else if (n.holds.some((h) => /until .moment|looked at|competent person looks/.test(h))) {
      // Concrete that cures, or another day's look.
      if (n.holds.some((h) => /until .moment/.test(h))) day++
      if (day > 90) throw new Error('it never cured')
      put(morningLook())
    } else if (n.holds.some((h) => /wind/i.test(h))) put(entry('weather', {}, { rain: 0, low: 12, wind: 10, high: 20 }))
    else {
      expect(plain(n.holds)).toEqual([])
      // What one card offers together is taken together, every time.
      seen?.(state, n.step, at())
      const looks = looksFrom(state, n.step, at())
      if (looks.length > 1) {
        for (const l of looks) {
          const { stage, section, course } = l.step
          put(entry('check', { stage: stage.id, section, course }, { confirmed: l.items.map((i) => i.id) }))
        }
        walks += looks.length
        continue
      }
      // What the card says is missing, and nothing else.
      const missing = statusOf(state, n.step).missing
      const { stage, section, course } = n.step
      if (missing.length === 1 && missing[0] === 'a photo') put(photoOf({ stage: stage.id, section, course }))
      else if (CUT.test(plain(missing[0] ?? '')) && same > 0) {
        const [, station] = CUT.exec(plain(missing[0] ?? '')) ?? []
        const [, one] = groundOf(layout, section ?? '')
        put({ ...(one as Entry), id: entry('note', {}, {}).id, where: { stage: 'dig', section, station: Number(station) } })
      } else for (const e of good(n.step, layout)) if (!isTest(e)) put(e)
    }
  }
  throw new Error('the wall was never finished')
}

const files = readdirSync('demo').filter((f) => f.endsWith('.tally.json'))
test.each(files)('%s', (file) => {
  const read = readPlanFile(readFileSync(`demo/${file}`, 'utf8'))
  if (!read.ok) throw new Error(JSON.stringify(read.problems))
  const layout = layoutOf(issued(read.value))
  expect(tableOf(layout.plan)).toBe(3)
  const { owed, releases, walks } = play(layout)
  expect(releases).toBeGreaterThan(2)
  // At the latest what closes a wall is seen on one walk.
  expect(walks).toBeGreaterThan(1)
  // Where lifts are tested at all, the tests are asked for before a release is.
  const lifts = layout.system.stages.some((s) => s.work.type === 'lifts')
  if (lifts && !layout.building.foundation.cast) expect(owed.length).toBeGreaterThan(0)
})

/** As many as a run takes; the night's run takes two hundred. */
const WALLS = Number(process.env.PLAYED_WALLS ?? 40)
test('any wall a person could plan', () => {
  fc.assert(
    fc.property(plans, (plan) => {
      const made = issued({ ...plan, ...ENGINEERED })
      const layout = layoutOf(made)
      fc.pre(layout.cautions.every((c) => !c.blocks))
      expect(play(layout).releases).toBeGreaterThan(2)
    }),
    { numRuns: WALLS, seed: 32, endOnFailure: true },
  )
})

test('no walk of looks is offered before what the day asks for, nor while something cures', () => {
  const read = readPlanFile(readFileSync('demo/queue-lane-wall.tally.json', 'utf8'))
  if (!read.ok) throw new Error(JSON.stringify(read.problems))
  const layout = layoutOf(issued(read.value))
  let [seen, asked] = [0, 0]
  play(layout, (state, step, at) => {
    if (looksFrom(state, step, at).length < 2) return
    seen++
    // Three days on nobody has looked at the trench, where a trench is asked about at all.
    const later = new Date(Date.parse(at) + 3 * DAY).toISOString()
    if (dailyNeeds(state, step, later).length > 0) asked++
    if (dailyNeeds(state, step, later).length > 0) expect(looksFrom(state, step, later)).toEqual([])
    else expect(looksFrom(state, step, later).length).toBeGreaterThan(1)
  })
  expect([seen > 0, asked > 0]).toEqual([true, true])
})
