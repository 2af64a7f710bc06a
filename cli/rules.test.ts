import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { emptyRules, issueUnder, type Layout, layOut, type Plan, type Rules, readPlanFile, stepsOf } from '@stone-tally/core'
import { pointsReport, stagesReport, unitsReport } from './plan'
import { readGiven, rulesReport } from './rules'

const DEMO = 'demo/queue-lane-wall.tally.json'
const plan = (): Plan => {
  const read = readPlanFile(readFileSync(DEMO, 'utf8'))
  if (!read.ok) throw new Error(read.problems[0]?.message)
  return read.value
}
const company: Rules = {
  ...emptyRules('Company'),
  limits: [{ limit: 'courseLevel', value: 0.004, unit: 'm', why: 'our guarantee' }],
  choices: [{ choice: 'adhesive', option: 'each', why: 'flat stones' }],
  points: [{ point: 'subgrade', kind: 'witness', roles: ['inspector'], own: false, why: 'rock' }],
}
const laid = (): Layout => {
  const made = issueUnder(plan(), { company })
  const layout = made.ok ? layOut(made.value) : undefined
  if (!layout?.ok) throw new Error('no layout')
  return layout.value
}

describe('plan FILE', () => {
  const layout = laid()
  test('stages: every step in working order, with its gates, limits and where each rule comes from', () => {
    const { steps, choices } = stagesReport(layout)
    expect(steps.map((s) => s.stage)).toEqual(stepsOf(layout).map((s) => s.stage.id))
    const level = steps.find((s) => s.stage === 'level')
    expect(level?.limits).toEqual([
      expect.objectContaining({ limit: 'courseLevel', value: 0.004, unit: 'm', from: 'company' }),
      expect.objectContaining({ limit: 'firstLevel', value: 0.003, from: 'shipped' }),
    ])
    expect(level?.gates).toContainEqual(expect.objectContaining({ stage: 'units', of: 'same', force: 'soft' }))
    expect(steps.find((s) => s.stage === 'subgrade')?.point).toMatchObject({ kind: 'witness', from: 'company' })
    expect(steps.some((s) => s.stage === 'adhesive')).toBe(true)
    expect(choices.find((c) => c.choice === 'adhesive')).toEqual({ choice: 'adhesive', option: 'each', from: 'company' })
  })
  test('units: every piece of every course, end to end', () => {
    const { units } = unitsReport(layout)
    expect(units.length).toBe([...layout.cells.values()].reduce((n, c) => n + c.pieces.length, 0))
    for (const u of units) expect(u.to - u.station).toBeGreaterThan(0)
    expect(Object.keys(units[0] ?? {})).toEqual(expect.arrayContaining(['section', 'course', 'kind', 'station', 'along', 'length']))
  })
  test('points: hold and witness, step by step, the final last', () => {
    const { points } = pointsReport(layout)
    expect(points[points.length - 1]).toMatchObject({ point: 'final', kind: 'hold', roles: ['inspector'] })
    expect(points.filter((p) => p.kind === 'witness' && p.roles.length > 0)).toEqual([])
  })
})

describe('rules FILE…', () => {
  const json = (value: unknown) => JSON.stringify(value)
  const given = (value: unknown, name = 'rules.json') => {
    const read = readGiven(name, json(value))
    if (!read.ok) throw new Error(json(read.problems))
    return read.value
  }
  test('company, site and wall over one another, each rule with who set it, and what differs from what ships', () => {
    const site = { ...emptyRules(), limits: [{ limit: 'courseLevel', value: 0.003, why: 'tall here' }] }
    const wall = {
      format: 'stone-tally',
      version: 1,
      plan: { ...plan(), rules: { limits: [{ limit: 'compaction', value: 98, source: 'drawing 7' }] } },
    }
    const report = rulesReport([given(company), given(site), given(wall)])
    if (!report.ok) throw new Error(json(report.problems))
    const { limits, choices, changes } = report.value as { limits: object[]; choices: object[]; changes: { rule: string }[] }
    expect(limits).toContainEqual({ limit: 'courseLevel', value: 0.003, unit: 'm', sense: 'within', from: 'site', why: 'tall here' })
    expect(limits).toContainEqual(expect.objectContaining({ limit: 'compaction', value: 98, from: 'wall' }))
    expect(choices).toContainEqual(expect.objectContaining({ choice: 'adhesive', option: 'each', from: 'company' }))
    expect(changes.map((c) => c.rule)).toEqual(['limit.courseLevel', 'limit.compaction', 'choice.adhesive', 'point.subgrade'])
  })
  test('what does not read or does not fit is refused with its file and field', () => {
    expect(readGiven('a.json', '{')).toMatchObject({ ok: false, problems: [{ field: 'a.json', message: 'is not JSON' }] })
    expect(readGiven('a.json', json({ ...emptyRules(), version: 3 }))).toMatchObject({ problems: [{ field: 'a.json: version' }] })
    expect(readGiven('a.json', json({ ...emptyRules(), limits: [{ limit: 'padLevel', value: 4, unit: 'mm', why: 'x' }] }))).toMatchObject({
      problems: [{ field: 'a.json: limits[0].unit' }],
    })
    expect(rulesReport([given(company), given(company), given(company)])).toMatchObject({ ok: false })
    const deep = { ...emptyRules(), limits: [{ limit: 'shoreAbove', value: 1.5, why: 'hard clay' }] }
    expect(rulesReport([given(deep)])).toMatchObject({ ok: false, problems: [{ field: 'company.limits[0].value' }] })
  })
  test('from the shell', () => {
    const folder = mkdtempSync(join(tmpdir(), 'rules-'))
    const path = join(folder, 'company rules.json')
    writeFileSync(path, json(company))
    const run = (args: readonly string[]) => {
      const done = spawnSync('bin/tally', args, { encoding: 'utf8', env: { ...process.env, npm_config_loglevel: 'silent' } })
      return { code: done.status, out: done.stdout, err: done.stderr }
    }
    expect(JSON.parse(run(['rules', path]).out).changes).toHaveLength(3)
    expect(JSON.parse(run(['plan', DEMO, 'stages', '--rules', path]).out).steps.some((s: { stage: string }) => s.stage === 'adhesive')).toBe(true)
    expect(JSON.parse(run(['plan', DEMO, 'cautions']).out).cautions).toBeInstanceOf(Array)
    expect(run(['rules'])).toMatchObject({ code: 2, out: '' })
    expect(run(['plan', DEMO, 'stages', '--rules', DEMO])).toMatchObject({
      code: 2,
      out: '',
      err: expect.stringContaining('is a plan, not a rule file'),
    })
    expect(run(['plan', DEMO, 'stages', '--colour', 'x'])).toMatchObject({ code: 2, out: '' })
  })
})
