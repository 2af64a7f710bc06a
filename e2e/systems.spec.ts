// Every system from its plan to its released final: planned by the interface, begun and ended there, read in its course record.
import type { BrowserContext } from '@playwright/test'
import { type Entry, layOut, type Plan, readRecordFile, storedPlan, systemOf } from '@stone-tally/core'
import { build } from '../core/test/build'
import { pictureOf } from '../demo/pictures'
import { expect, fact, post, ready, sawAll, sendPhoto, signIn, test, url } from './site'

interface Planned {
  /** Its unit, as the planner names it; how long and high, m; where its pipe runs out. */
  readonly unit: RegExp
  readonly length: string
  readonly top: string
  readonly invert: string
  /** Words of its trade that stand on its course record. */
  readonly words: readonly RegExp[]
}
const SYSTEMS: Readonly<Record<string, Planned>> = {
  'hollow-core': { unit: /^Lug block 200/, length: '4.5', top: '10.6', invert: '9.6', words: [/Blocks|Units/, /cores and stone ✓/] },
  'rear-lip': { unit: /^Rear-lip block 150/, length: '4', top: '10.5', invert: '9.6', words: [/lips and joints ✓/] },
  'tongue-groove': { unit: /^Tongue-and-groove block 200/, length: '4', top: '10.6', invert: '9.6', words: [/setback ✓/] },
  pattern: { unit: /^Pattern stone, two rows/, length: '4.8', top: '10.6', invert: '9.6', words: [/band/i] },
  landscape: { unit: /^Landscape stone 100/, length: '3', top: '10.25', invert: '9.6', words: [/stone behind ✓/i] },
  glued: { unit: /^Flat stone 75/, length: '3', top: '10.2', invert: '9.6', words: [/bond and mitres ✓/] },
  gabion: { unit: /^Basket 2\.0 × 1\.0 × 1\.0/, length: '6', top: '10.9', invert: '9.3', words: [/stone and bracing ✓/, /lids laced ✓/] },
  'big-block': {
    unit: /^Big block 1200 × 600/,
    length: '6',
    top: '10.9',
    invert: '9.3',
    words: [/Setting record/, /1-01/, /knobs and joints ✓/, /Ready to lift ✓/],
  },
  wire: {
    unit: /^Wire mat 500/,
    length: '7.8',
    top: '11.3',
    invert: '9.3',
    words: [/mats and mesh ✓/, /void of the course below ✓/, /toe berm filled ✓/],
  },
  masonry: {
    unit: /^Hollow unit 400/,
    length: '4',
    top: '10.6',
    invert: '9.7',
    words: [/grout placed ✓/, /Bars of the footing ✓/, /Waterproofing ✓/, /Protection board ✓/],
  },
}

// What builds a wall in the tests of the core looks at each step with the expectations of whoever runs it.
Object.assign(globalThis, { expect })

/** The entries of a built wall, as people of the demo would send them: ids, times and photos of their own. */
async function sendAll(people: Readonly<Record<string, BrowserContext>>, wall: string, entries: readonly Entry[]) {
  const ids = new Map<string, string>()
  const last = Math.max(...entries.map((e) => Date.parse(e.at)))
  const shift = Date.now() - 60_000 - last
  const mine = (id: string | undefined) => (id === undefined ? undefined : ids.get(id))
  let batch: { role: string; facts: object[] } = { role: '', facts: [] }
  const flush = async () => {
    if (batch.facts.length === 0) return
    const answer = await post(people[batch.role] as BrowserContext, `/api/walls/${wall}/entries`, { entries: batch.facts })
    const { outcomes } = (await answer.json()) as { outcomes: { ok: boolean; problems?: { message: string }[] }[] }
    expect(outcomes.flatMap((o, i) => (o.ok ? [] : [`${JSON.stringify(batch.facts[i])}: ${o.problems?.[0]?.message}`]))).toEqual([])
    batch = { role: '', facts: [] }
  }
  for (const e of entries) {
    const made = fact(wall, e.kind, e.where, e.data as object)
    ids.set(e.id, made.id)
    const of = mine((e.data as { of?: string } | null)?.of)
    const curve = mine((e.data as { curve?: string } | null)?.curve)
    const data = e.kind === 'photo' ? await sendPhoto(people.crew as BrowserContext, wall, await pictureOf('pipe', new Date())) : (e.data as object)
    const whole = {
      ...made,
      // Told late, by a device whose clock was compared.
      clock: 0,
      at: new Date(Date.parse(e.at) + shift).toISOString(),
      data: { ...data, ...(of ? { of } : {}), ...(curve ? { curve } : {}) },
      ...(e.recheckOf ? { recheckOf: mine(e.recheckOf) } : {}),
    }
    const role = e.by.role
    if (role !== batch.role || batch.facts.length >= 80) await flush()
    batch.role = role
    batch.facts.push(whole)
  }
  await flush()
}

for (const [id, planned] of Object.entries(SYSTEMS))
  test(`${id}: from its plan to its released final`, async ({ page, context, browser }) => {
    // What was done days ago comes from a device that has sent nothing since: one that has is not believed.
    const [crew, inspector, late] = [await browser.newContext(), await browser.newContext(), await browser.newContext()]
    await signIn(late, 'foreman')
    await signIn(context, 'foreman')
    await signIn(crew, 'crew')
    await signIn(inspector, 'inspector')
    const name = `Small wall of ${id}`
    await page.goto(`${url()}/walls/new`)
    await ready(page)
    await page.getByRole('button', { name: /^Type length and heights/ }).click()
    await page.getByRole('button', { name: 'Everything' }).click()
    await page.getByRole('button', { name: systemOf(id)?.name ?? '', exact: true }).click()
    await page.locator('label', { hasText: planned.unit }).click()
    await page.getByLabel('Name', { exact: true }).first().fill(name)
    await page.getByLabel('Site').fill('Test yard')
    await page.getByLabel('Length, m', { exact: true }).fill(planned.length)
    await page.getByLabel('Engineered plan').fill('plan T-1')
    await page.getByLabel('Its engineer').fill('E. Record')
    await page.getByLabel('Licence or register number').fill('register 4711')
    await page.getByLabel('Plan of the day').fill('2026-04-01')
    await page.getByLabel('Covers walls up to, m').fill('4')
    if (id === 'big-block') {
      await page.getByLabel('Machine', { exact: true }).fill('excavator 14 t')
      await page.getByLabel('Load table from').fill('its maker, sheet 3')
      await page.getByLabel('Load table of the day').fill('2026-03-01')
      await page.getByLabel('Inserts and gear tested by').fill('tag 12')
      await page.getByLabel('Tested on the day').fill('2026-03-02')
    }
    await page.getByText('Nothing of these').click()
    for (const [i, station] of ['0', planned.length].entries()) {
      await page.getByLabel('Station, m').nth(i).fill(station)
      await page.getByLabel('Toe, m').nth(i).fill('10')
      await page.getByLabel('Top, m').nth(i).fill(planned.top)
    }
    await page.getByLabel('Its elevation, m').fill('10')
    // Where water can leave is known here: it is typed in place of what stands by itself.
    await page.getByRole('button', { name: 'Add an outlet' }).first().click()
    await page.getByLabel('Invert, m').fill(planned.invert)
    // What makes it an engineer's is said as soon as it is drawn, and the plan reckons with each.
    await expect(page.getByText(/^(●|\?|▲) (The crew’s|Ask first|An engineer’s)/).first()).toBeVisible()
    const reckons = page.getByRole('group', { name: 'The plan takes into account' }).getByRole('checkbox')
    for (let i = 0; i < (await reckons.count()); i++) if (!(await reckons.nth(i).isChecked())) await reckons.nth(i).press('Space')
    await page.getByRole('button', { name: 'Make the wall' }).click()
    await expect(page.getByRole('heading', { name: 'Services located' })).toBeVisible()
    const wall = page.url().split('/').pop() ?? ''

    // Begun on the Board.
    await sawAll(page)
    await page.getByLabel('Last day of the ticket').fill('2099-12-31')
    await page.getByRole('button', { name: 'Record 4 of 4' }).click()
    await expect(page.getByRole('heading', { name: 'Set-out verified' })).toBeVisible()

    // The repetitive middle by the record's own route, up to the final walk.
    const file = await context.request.get(`${url()}/api/walls/${wall}/export`)
    const read = readRecordFile(await file.text())
    if (!read.ok) throw new Error(read.problems[0]?.message)
    const plan = storedPlan(read.value.revisions[0]?.plan as object) as Plan
    expect(plan.system.id).toBe(id)
    const laid = layOut(plan)
    if (!laid.ok) throw new Error(laid.problems[0]?.message)
    const { state } = build(laid.value)
    const middle = state.entries.map((e) => e.entry).filter((e) => e.where.stage !== 'services' && e.where.stage !== 'final')
    // Nobody looks on meanwhile: a screen that follows hundreds of entries costs more than they do.
    await page.goto('about:blank')
    await sendAll({ foreman: late, crew, inspector }, wall, middle)

    // Ended on the Board: the walk, and its release by the inspector.
    await page.goto(`${url()}/walls/${wall}`)
    await ready(page)
    await expect(page.getByRole('heading', { name: 'Final', exact: true })).toBeVisible()
    await sawAll(page)
    await page.getByRole('button', { name: /Record \d+ of \d+/ }).click()
    const other = await inspector.newPage()
    await other.goto(`${url()}/walls/${wall}`)
    await ready(other)
    await other.getByLabel('What was seen').fill('Walked from end to end with the record')
    await other.getByRole('button', { name: 'Release', exact: true }).click()
    await expect(other.getByRole('heading', { name: 'Section A is complete.' })).toBeVisible()

    // Its course record says so, in the words of its trade.
    await page.goto(`${url()}/walls/${wall}/print`)
    await expect(page.getByRole('heading', { name: `${name}: course record` })).toBeVisible()
    for (const words of planned.words) await expect(page.getByText(words).first()).toBeVisible()
    await expect(page.getByRole('table', { name: 'Courses of section A' }).getByText(/\d\/\d/)).toHaveCount(0)
    await expect(page.getByText(/Released.*Final|Final.*eleased/).first()).toBeVisible()
    await crew.close()
    await inspector.close()
  })
