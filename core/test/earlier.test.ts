import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import {
  buildingOf,
  canonical,
  type EarlierPlan,
  earlierField,
  layOut,
  type Plan,
  planHash,
  quantities,
  type RecordFile,
  readPlan,
  readPlanFile,
  readRecordFile,
  readRevision,
  SYSTEMS,
  storedPlan,
  verifyRecordFile,
  writePlanFile,
} from '@stone-tally/core'
import { pinnedPlan } from './pinned'
import { built, plain, smallPlan } from './plans'

const HERE = join(__dirname, 'fixtures')
const text = (...path: string[]) => readFileSync(join(HERE, ...path), 'utf8')
const files = readdirSync(join(HERE, 'version-1'))
const saidOf = (r: ReturnType<typeof readPlan>) => (r.ok ? '' : plain(r.problems.map((p) => `${p.field}: ${p.message}`).join('\n')))

const wallAlone = ({ engineerBy: _b, engineerLicence: _l, engineerOn: _o, engineerCovers: _c, asked: _a, ...wall }: Plan) => wall

describe('files written before a system had a part of its own', () => {
  test.each(files)('%s is the wall it was', (file) => {
    const [then, now] = [readPlanFile(text('version-1', file)), readPlanFile(readFileSync(join('demo', file), 'utf8'))]
    expect(then.ok && now.ok).toBe(true)
    if (!then.ok || !now.ok) return
    // Who signs for it stands in more fields since, and what was asked first; the wall is the same.
    expect(wallAlone(then.value)).toEqual(wallAlone(now.value))
    const [a, b] = [layOut(then.value), layOut(JSON.parse(JSON.stringify(then.value)))]
    if (!a.ok || !b.ok) throw new Error('not laid out')
    expect(quantities(a.value)).toEqual(quantities(b.value))
  })
  test('every field of an earlier plan is in the one of today, none of them twice', () => {
    for (let n = 0; n < 60; n++) {
      const earlier = pinnedPlan(n) as EarlierPlan
      const { system, ...rest } = storedPlan(earlier)
      const { unit, waste, embedment, pad, stone, drain, gridRolls, grid, system: id, ...common } = earlier
      expect(rest).toEqual(common)
      expect(system.id).toBe(id)
      const data = system.data as Record<string, unknown>
      expect(data).toEqual({
        ...{ unit, embedment, stone, drain, layers: grid },
        foundation: {
          kind: pad.material,
          ...{ thickness: pad.thickness, width: pad.width, minRun: pad.minRun },
          lifts: { max: pad.maxLift, loose: pad.looseFactor },
        },
        ...(waste ? { waste } : {}),
        ...(gridRolls ? { rolls: gridRolls } : {}),
      })
    }
  })
  test('the stored one stays untouched, with the fingerprint it was issued with', () => {
    const stored = JSON.parse(JSON.stringify(smallPlan)) as object
    const before = [canonical(stored), planHash(stored)]
    const plan = storedPlan(stored)
    expect([canonical(stored), planHash(stored)]).toEqual(before)
    expect(planHash(plan)).not.toBe(before[1])
    expect(storedPlan(stored)).toBe(plan)
    expect(storedPlan(plan)).toBe(plan)
  })
  test('a record of then verifies, and its plans are read; one of both kinds too', () => {
    const file = 'queue-lane-wall.record.json'
    const read = readRecordFile(text('table-1', file))
    if (!read.ok) throw new Error(JSON.stringify(read.problems))
    expect(verifyRecordFile(read.value).intact).toBe(true)
    for (const r of read.value.revisions) expect(layOut(storedPlan(r.plan)).ok).toBe(true)
    // A plan brought up to today in the file is not the one that was issued.
    const changed: RecordFile = { ...read.value, revisions: read.value.revisions.map((r) => ({ ...r, plan: storedPlan(r.plan) })) }
    expect(verifyRecordFile(changed)).toMatchObject({ intact: false, fault: 'altered' })
    const both = [smallPlan, built(smallPlan)].map((plan) => readRevision(plan))
    expect(both.map((r) => r.ok)).toEqual([true, true])
  })
  test('a file of version 1 with a plan of today is read as well; what is written is of today', () => {
    const one = JSON.parse(writePlanFile(built(smallPlan)))
    expect(one.version).toBe(2)
    expect(readPlanFile(JSON.stringify({ ...one, version: 1 }))).toEqual({ ok: true, value: built(smallPlan) })
  })
})

describe('what is wrong with a plan is said where it stands in what was read', () => {
  const now = built(smallPlan) as ReturnType<typeof built> & { system: { data: Record<string, unknown> } }
  const withData = (data: object) => ({ ...now, system: { ...now.system, data: { ...now.system.data, ...data } } })
  const { foundation, drain } = now.system.data as { foundation: object; drain: object }
  test.each<[string, unknown, RegExp]>([
    ['earlier: a pad narrower than the unit', { ...smallPlan, pad: { ...smallPlan.pad, width: 0.2 } }, /^pad.width: 0.2 m is narrower/],
    ['earlier: a layer twice', { ...smallPlan, grid: [...smallPlan.grid, ...smallPlan.grid] }, /^grid\[1\].course: course 2 has a layer already/],
    [
      'earlier: an outlet beyond',
      { ...smallPlan, drain: { ...smallPlan.drain, outlets: [{ station: 12, invert: 9 }] } },
      /^drain.outlets\[0\].station/,
    ],
    ['earlier: no such system', { ...smallPlan, system: 'mud-brick' }, /^system: "mud-brick" is not a system this application knows/],
    ['earlier: a field of another kind', { ...smallPlan, pad: { ...smallPlan.pad, cover: 0.05 } }, /^pad.cover: cover is not a known field/],
    ['today: the pad', withData({ foundation: { ...foundation, width: 0.2 } }), /^system.data.foundation.width: 0.2 m is narrower/],
    [
      'today: no such foundation',
      withData({ foundation: { ...foundation, kind: 'straw' } }),
      /^system.data.foundation.kind: must be one of dense-graded,/,
    ],
    [
      'today: a footing without its bars',
      withData({ foundation: { kind: 'footing', thickness: 0.3, width: 0.6, minRun: 1.2 } }),
      /system.data.foundation.cover: is missing/,
    ],
    [
      'today: lifts in a footing',
      withData({ foundation: { ...foundation, kind: 'footing' } }),
      /system.data.foundation.lifts: lifts is not a known field/,
    ],
    ['today: an unknown field of the part', withData({ colour: 'red' }), /^system.data.colour: colour is not a known field/],
    ['today: an outlet beyond', withData({ drain: { ...drain, outlets: [{ station: 12, invert: 9 }] } }), /^system.data.drain.outlets\[0\].station/],
    ['today: no such system', { ...now, system: { ...now.system, id: 'mud-brick' } }, /^system.id: "mud-brick" is not a system/],
    ['today: no part at all', { ...now, system: { id: 'hollow-core' } }, /^system.data: is missing/],
    [
      'today: the part and the rest at once',
      { ...withData({ stone: { width: 9 } }), length: 'long' },
      /length: must be a number[\s\S]*system.data.stone.width/,
    ],
    ['no object', 'a wall', /must be an object/],
  ])('%s', (_name, value, message) => expect(saidOf(readPlan(value))).toMatch(message))
  test('fields of today by what an earlier file calls them', () => {
    expect(
      ['foundation.kind', 'foundation.lifts.max', 'foundation.minRun', 'rolls[0].length', 'unit.minRadius'].map((f) =>
        earlierField(`system.data.${f}`),
      ),
    ).toEqual(['pad.material', 'pad.maxLift', 'pad.minRun', 'gridRolls[0].length', 'unit.minRadius'])
    expect(earlierField('grades[0].top')).toBe('grades[0].top')
  })
})

test('a plan whose system is gone can be kept and named, and is not laid out', () => {
  const gone = { ...built(smallPlan), system: { id: 'mud-brick', data: { bricks: 12 } } }
  expect(storedPlan(gone)).toEqual(gone)
  expect(layOut(gone)).toMatchObject({ ok: false, problems: [{ field: 'system.id' }] })
  expect(() => buildingOf(gone)).toThrow(/no system mud-brick/)
  expect(SYSTEMS.some((s) => s.id === 'mud-brick')).toBe(false)
})
