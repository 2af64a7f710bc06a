// Where a section is: its next step, what holds it, and what can be done meanwhile.
import { advance, barriers, type Entry, emptyState, fold, nowOf, settled, statusOf } from '@stone-tally/core'
import { build } from './build'
import { plan as deep } from './cautious/wall'
import { built, entry, layoutOf, plain, SIGNED, smallPlan } from './plans'
import { Site } from './site'

const plan = built(smallPlan)
const at = '2026-05-20T09:00:00.000Z'

test('nothing is recorded: the first step of the wall, and nothing can be done before it', () => {
  const now = nowOf(fold([layoutOf(plan)], []), 'A', at)
  expect(now?.step.stage.scope).toBe('wall')
  expect(now?.holds).toEqual([])
  expect(now?.meanwhile).toEqual([])
})

test('a hold that waits says who releases it; what is offered meanwhile has nothing before it and is not done', () => {
  const site = new Site(plan).toBackfill()
  let state = emptyState([layoutOf(plan)])
  const waiting: string[] = []
  let offered = 0
  site.entries.forEach((e, i) => {
    state = advance(state, { seq: i + 1, receivedAt: e.at, entry: e })
    for (const section of ['A', 'B']) {
      const now = nowOf(state, section, at)
      if (now?.holds.length === 0) expect(now.meanwhile).toEqual([])
      for (const step of now?.meanwhile ?? []) {
        offered++
        expect(step).not.toBe(now?.step)
        expect(settled(statusOf(state, step))).toBe(false)
        // What is offered the gate lets through.
        expect(barriers(state, step, at)).toEqual([])
      }
      waiting.push(...(now?.holds ?? []).flatMap((h) => /waits for the (.+)$/.exec(plain(h))?.[1] ?? []))
    }
  })
  expect([...new Set(waiting)].sort()).toEqual(['foreman or inspector', 'inspector'])
  expect(offered).toBeGreaterThan(0)
})

test('a rejected hold is named as rejected; an open finding stands before anything else', () => {
  const site = new Site(plan).toFirstCourse()
  const at = { stage: 'line', section: 'B', course: 1 }
  expect(nowOf(site.state, 'B')?.holds[0]).toMatch(/waits for the inspector$/)
  site.put(entry('release', at, { decision: 'rejected', reason: 'bowed', signature: SIGNED }, { role: 'inspector' }))
  expect(nowOf(site.state, 'B')?.holds[0]).toMatch(/was rejected$/)
  const station = site.step('level', 'B', 1).points[0] as number
  site.put(entry('reading', { stage: 'level', section: 'B', course: 1, station }, { method: 'deviation', value: 0.02 }))
  const now = nowOf(site.state, 'B')
  expect([now?.step.stage.id, now?.holds[0]]).toEqual(['level', '1 out of tolerance, not closed'])
})

test('everything done and released: there is no next step', () => {
  const { state } = build(layoutOf(plan))
  expect(nowOf(state)).toBeUndefined()
})

test('a trench nobody looked at today is said, and nobody is sent into another meanwhile', () => {
  const site = new Site(deep)
  site.work('services').work('set-out').release('set-out')
  const look = site.entries.find((e) => e.kind === 'look') as Entry
  const later = (hours: number) => new Date(Date.parse(look.at) + hours * 3_600_000).toISOString()
  const [fresh, stale] = [nowOf(site.state, 'A', later(1)), nowOf(site.state, 'A', later(40))]
  expect(fresh?.holds).toEqual([])
  expect(plain(stale?.holds.join() ?? '')).toMatch(/The cut stands .* open here.*a competent person looks at it/)
  expect(stale?.meanwhile).toEqual([])
})
