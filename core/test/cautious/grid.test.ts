// Rule table 2: layers of geogrid, who releases them, and where they cross.
import { type Entry, fold, layerSchedule, type EarlierPlan as Plan, statusOf, stepsOf, type WallState } from '@stone-tally/core'
import { entry, layoutOf, plain, recorded, SIGNED, smallPlan } from '../plans'
import { Site } from '../site'
import { at, planOn } from '../walls'
import { plan, today } from './wall'

const with_ = (change: object, of: Plan = smallPlan): Plan => today({ ...of, ...change } as Plan)
const cautions = (p: Plan, id: string) =>
  plain(
    layoutOf(p)
      .cautions.filter((c) => c.id === id)
      .map((c) => c.message),
  )

describe('geogrid', () => {
  const release = entry('release', { stage: 'grid', section: 'B', course: 2 }, { decision: 'released', reason: 'seen', signature: SIGNED })
  test('is released by somebody who did not lay it', () => {
    const site = new Site(plan).toBackfill()
    for (const s of ['units', 'level', 'setback', 'joints', 'fill', 'backfill', 'grid']) site.work(s, 'B', 2)
    expect(site.refusal(release)).toMatch(/a second pair of eyes/)
    expect(site.refusal({ ...release, by: { id: 'other', name: 'Ivo Moss', role: 'foreman' } } as Entry)).toBe('')
    const old = new Site({ ...plan, ruleTable: 1 }).toBackfill()
    for (const s of ['units', 'level', 'setback', 'joints', 'fill', 'backfill', 'grid']) old.work(s, 'B', 2)
    expect(old.refusal(release)).toBe('')
  })
  const corner = (turn: 1 | -1) =>
    planOn([at(0, 0), at(9, 0), at(9, 9 * turn)], false, {
      grid: [2, 4, 6].map((course) => ({ course, length: 2, type: 'uniaxial 30' })),
      excavation: { behind: 3, slope: 1.5 },
    })
  test('inside corners alternate by the order of the layers, though every course is even; the distance is given', () => {
    const words = (p: Plan) => layerSchedule(layoutOf(p)).flatMap((l) => plain(l.lies.filter((x) => x.kind === 'corner').map((x) => x.words)))
    const inside = [corner(1), corner(-1)].find((p) => words(p).some((w) => w.startsWith('Inside'))) as Plan
    const legs = words(today(inside)).map((w) => /from the (first|second) leg/.exec(w)?.[1])
    expect(legs).toEqual(['first', 'second', 'first'])
    expect(words(today(inside))[0]).toMatch(/run this layer at least 0\.\d\d m past the corner/)
    // Table 1 told every one of these layers the same.
    expect(new Set(words(inside).map((w) => /from the (first|second) leg/.exec(w)?.[1])).size).toBe(1)
  })
  test('at an outside corner the crossing layer is scheduled one course higher', () => {
    const outside = [corner(1), corner(-1)].find((p) => layoutOf(p).legs.some((l) => l.start === 'outside-corner')) as Plan
    const crossing = layerSchedule(layoutOf(today(outside))).filter((l) => l.crossing)
    expect(crossing.map((l) => [l.course, l.from, l.to])).toEqual([
      [3, 9, 11],
      [5, 9, 11],
    ])
    // Nothing lies on the highest course: there both legs cross on one course, with soil between.
    const highest = layerSchedule(layoutOf(today(outside))).find((l) => l.course === 6)
    expect(plain(highest?.lies.map((l) => l.words) ?? [])[0]).toMatch(/both legs cross here, with at least 75 mm of soil/)
    expect(layerSchedule(layoutOf(outside)).some((l) => l.crossing)).toBe(false)
  })
  test('the crossing layer is a step of its own: recorded, judged by the layer it belongs to, owed until it lies', () => {
    const outside = [corner(1), corner(-1)].find((p) => layoutOf(p).legs.some((l) => l.start === 'outside-corner')) as Plan
    const layout = layoutOf(today(outside))
    const steps = stepsOf(layout).filter((s) => s.stage.work.type === 'grid' && s.grid?.crossing)
    expect(steps.map((s) => [s.course, s.over])).toEqual(
      layerSchedule(layout)
        .filter((l) => l.crossing)
        .map((l) => [l.course, [{ from: l.from, to: l.to }]]),
    )
    expect(steps.length).toBeGreaterThan(0)
    const step = steps[0] as (typeof steps)[number]
    const data = { type: step.grid?.type, length: step.grid?.length, front: 0.03, direction: 'across', tight: true }
    const where = { stage: step.stage.id, section: step.section, course: step.course }
    const site = (data: object) => fold([layout], recorded([entry('geogrid', where, data)]))
    const status = (state: WallState) => statusOf(state, state.byKey.get(step.key) as typeof step)
    expect(status(site(data)).missing).toEqual([])
    const short = site({ ...data, length: (step.grid?.length ?? 0) - 0.3 })
    expect(plain([...short.outs.values()].map((o) => o.text)).join()).toMatch(/long, the plan wants/)
    expect(plain(status(fold([layout], [])).missing).join()).toMatch(/layer of/)
    // Half of it laid is not the layer.
    expect(plain(status(site({ ...data, from: 9, to: 10 })).missing).join()).toMatch(/10\.00 to 11\.00/)
    // Walls of table 1 were built without, and are not asked for it.
    expect(stepsOf(layoutOf(outside)).some((s) => s.grid?.crossing)).toBe(false)
  })
  test('at a bend of less than 45° tails overlap as on a curve: nothing crosses, soil between them is asked for', () => {
    const bend = (turn: number) => {
      const a = (turn * Math.PI) / 180
      return [1, -1]
        .map((side) =>
          today(
            planOn([at(0, 0), at(9, 0), at(9 + 9 * Math.cos(a), side * 9 * Math.sin(a))], false, {
              grid: corner(1).grid,
              excavation: { behind: 3, slope: 1.5 },
            }),
          ),
        )
        .find((p) => layoutOf(p).legs.some((l) => l.start === 'outside-corner')) as Plan
    }
    expect(layerSchedule(layoutOf(bend(44))).some((l) => l.crossing)).toBe(false)
    expect(layerSchedule(layoutOf(bend(46))).some((l) => l.crossing)).toBe(true)
    expect(plain(layerSchedule(layoutOf(bend(44)))[0]?.lies.map((l) => l.words) ?? []).join()).toMatch(
      /Outside corner of 44°: the tails .* at least 75 mm of soil/,
    )
  })
  test('a layer of the plan on the next course crosses by itself; nothing is laid grid on grid', () => {
    const outside = [corner(1), corner(-1)].find((p) => layoutOf(p).legs.some((l) => l.start === 'outside-corner')) as Plan
    const every = today({ ...outside, grid: [2, 3].map((course) => ({ course, length: 2, type: 'G80' })) })
    const layers = layerSchedule(layoutOf(every))
    expect(layers.filter((l) => l.course === 3).map((l) => l.crossing)).toEqual([undefined])
    expect(new Set(layers.map((l) => `${l.section} ${l.course}`)).size).toBe(layers.length)
  })
  test('layers of the plan are looked at: length, spacing, the lowest and the top', () => {
    const grid = (list: [number, number][]) => with_({ grid: list.map(([course, length]) => ({ course, length, type: 'uniaxial 30' })) })
    expect(
      cautions(
        grid([
          [2, 1.2],
          [5, 1.2],
        ]),
        'grid-spacing',
      ),
    ).toEqual([])
    expect(cautions(grid([[4, 1.2]]), 'grid-spacing')[0]).toMatch(/More than 0\.6 m without a layer below the lowest layer/)
    expect(
      cautions(
        grid([
          [1, 1.2],
          [5, 1.2],
        ]),
        'grid-spacing',
      )[0],
    ).toMatch(/between courses 1 and 5/)
    expect(cautions(grid([[2, 1.2]]), 'grid-spacing')[0]).toMatch(/above the top layer/)
    // 1.5 m of wall: six tenths are 0.9 m.
    expect(
      cautions(
        grid([
          [2, 0.89],
          [5, 1.1],
        ]),
        'grid-length',
      )[0],
    ).toMatch(/The layer on course 2 is shorter than 0\.6 of the height/)
    expect(
      cautions(
        grid([
          [2, 1.2],
          [5, 1.2],
        ]),
        'grid-length',
      ),
    ).toEqual([])
  })
})
