import AxeBuilder from '@axe-core/playwright'
import type { BrowserContext, Page } from '@playwright/test'
import { layoutOf } from '../core/test/plans'
import { demoWall, expect, fact, newWall, post, ready, signIn, test, upTo, url } from './site'

const tab = (page: Page, name: string) => page.locator('.tabs label', { hasText: name }).first().click()
const open = async (page: Page, wall: string, at = 'dig') => {
  await page.goto(`${url()}/walls/${wall}/ground?tab=${at}`)
  await ready(page)
  await expect(page.getByText('Loading the record')).toHaveCount(0)
}
const section = (page: Page, id: string) => page.locator('label', { hasText: `Section ${id}` }).click()
/** A small wall with section B built up to a stage. */
async function builtTo(context: BrowserContext, name: string, stage: string): Promise<string> {
  await signIn(context, 'foreman')
  const wall = await newWall(context, name)
  for (const { by, fact: f } of upTo(wall, stage)) {
    await signIn(context, by)
    const answer = await post(context, `/api/walls/${wall}/entries`, { entries: [f] })
    expect(await answer.text()).not.toContain('"ok":false')
  }
  await signIn(context, 'foreman')
  return wall
}

test('the level is set up, checked, moved on and closed; a wrong datum is questioned', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await open(page, await newWall(context, 'Level book'), 'level')
  const elevation = page.getByLabel('Its elevation, m')
  await elevation.fill('110')
  await page.getByLabel('Backsight, m').fill('1.500')
  await page.getByRole('button', { name: 'Record the set-up' }).click()
  await expect(page.getByText(/100\.000 m above the plan's benchmark/)).toBeVisible()
  await elevation.fill('10')
  await page.getByRole('button', { name: 'Record the set-up' }).click()
  await expect(page.getByText('11.500 m').first()).toBeVisible()
  await page.locator('label', { hasText: 'Move on' }).click()
  await page.getByLabel('Foresight, m').fill('1.200')
  await page.getByRole('button', { name: 'Record and move on' }).click()
  await expect(page.getByRole('cell', { name: /^TP1/ })).toBeVisible()
  await page.locator('label', { hasText: 'Set up' }).click()
  await page.locator('label', { hasText: 'TP1' }).click()
  await page.getByLabel('Backsight, m').fill('1.600')
  await page.getByRole('button', { name: 'Record the set-up' }).click()
  await expect(page.getByText('11.900 m').first()).toBeVisible()
  // A check that is off says at once that the instrument moved.
  await page.locator('label', { hasText: 'Check' }).click()
  await page.getByLabel('Check shot, m').fill('1.912')
  await expect(page.getByText('12 mm low against BM.')).toBeVisible()
  await page.getByRole('button', { name: 'Record the check' }).click()
  await expect(page.getByText(/the instrument moved. Set up again/)).toBeVisible()
  await page.locator('label', { hasText: 'Close' }).click()
  await page.getByLabel('Foresight, m').fill('1.898')
  await page.getByRole('button', { name: 'Record and close' }).click()
  await expect(page.getByText('✓ BM to BM: 2 mm high')).toBeVisible()
})

test('a reading is taken from an instrument, judged and kept with its serial; a bad one is said', async ({ page, context }) => {
  const wall = await builtTo(context, 'Instrument', 'dig')
  await post(context, `/api/walls/${wall}/entries`, { entries: [fact(wall, 'setup', {}, { benchmark: 10, backsight: 1.5 })] })
  await open(page, wall)
  await section(page, 'B')
  const take = page.getByRole('button', { name: 'Take reading: Laser' })
  await expect(take).toBeVisible()
  await expect(page.getByText(/battery \d+ % · calibrated until/)).toBeVisible()
  await post(context, '/api/instruments/laser-1/read', { fault: 'garbage' })
  await take.click()
  await expect(page.getByRole('alert').filter({ hasText: 'garbled' })).toBeVisible()
  await expect(page.getByLabel(/Rod reading/)).toHaveValue('')
  await expect(async () => {
    await take.click()
    await expect(page.getByLabel(/Rod reading/)).toHaveValue(/^\d\.\d{3}$/, { timeout: 4000 })
  }).toPass()
  await expect(page.getByText('within limits')).toBeVisible()
  await page.getByRole('button', { name: 'Record reading' }).click()
  await expect(page.getByText(/Laser LZ-20417/)).toBeVisible()
  await page.locator('label', { hasText: 'LZ-11806' }).click()
  await expect(page.getByText(/calibration ran out on/)).toBeVisible()
})

test('eight taps judge a soil; unsuitable soil is closed by an undercut that is deep enough', async ({ page, context }) => {
  const wall = await builtTo(context, 'Soil', 'dig')
  await open(page, wall, 'soil')
  await section(page, 'B')
  for (const answer of ['Fines no grain', 'Short', 'Spongy', 'Black', 'Garden', 'Wet', 'Grown', 'Sinks in'])
    await page.getByRole('button', { name: answer }).click()
  await expect(page.getByRole('heading', { name: '▲ Organic soil' })).toBeVisible()
  await expect(page.getByText('Unsuitable: dig out at least 300 mm, to firm ground.')).toBeVisible()
  await page.getByLabel('From, m').fill('5')
  await page.getByLabel('To, m').fill('7')
  await page.getByRole('button', { name: 'Record this soil' }).click()
  await page.getByLabel('Cause').fill('Old hedge')
  await page.getByLabel('Action').fill('Dug out')
  await page.getByRole('button', { name: 'Keep cause and action' }).click()
  await page.getByLabel('Depth, mm').fill('150')
  await page.getByLabel('In lifts').fill('3')
  await page.getByRole('button', { name: 'Record the undercut' }).click()
  await expect(page.getByText('▲ 5.00 to 7.00: Organic soil')).toBeVisible()
  await expect(page.getByLabel('Depth, mm')).toHaveValue('')
  await page.getByLabel('Depth, mm').fill('350')
  await page.getByLabel('In lifts').fill('3')
  await page.getByRole('button', { name: 'Record the undercut' }).click()
  await expect(page.getByText('▲ 5.00 to 7.00: Organic soil')).toBeVisible()
  // Deep enough, and still open: nobody has said that firm ground was seen.
  await expect(page.getByLabel('Depth, mm')).toHaveValue('')
  await page.getByLabel('Depth, mm').fill('350')
  await page.getByLabel('In lifts').fill('3')
  await page.locator('label', { hasText: 'A bar' }).click()
  await page.getByRole('button', { name: 'Record the undercut' }).click()
  await expect(page.getByText('◆ 5.00 to 7.00: Organic soil')).toBeVisible()
  await page.getByRole('button', { name: 'Enter values of a soil report' }).click()
  await page.getByLabel('Friction angle, °').fill('29')
  await page.getByLabel('Unit weight, kN/m³').fill('19')
  await page.getByLabel('Cohesion, kPa').fill('0')
  await page.getByLabel('Report, page, date').fill('boring 2')
  await page.getByRole('button', { name: 'Record the values' }).click()
  await expect(page.getByText('✓ boring 2')).toBeVisible()
})

test('digging: a boulder too high to build over is refused as a thin pad, the cut is checked, survey points come from a file', async ({
  page,
  context,
}) => {
  const wall = await builtTo(context, 'Dig', 'dig')
  await open(page, wall)
  await section(page, 'B')
  await expect(page.getByText('1 · start here')).toBeVisible()
  await page.getByRole('button', { name: /Something in the way/ }).click()
  await page.getByLabel('Length along the wall, m').fill('1')
  await page.getByLabel('Above the bottom, mm').fill('120')
  await expect(page.getByText(/More than 25 mm/)).toBeVisible()
  await page.locator('label', { hasText: 'break out' }).click()
  await page.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(page.getByText(/Rock at .* break out/).first()).toBeVisible()
  await page.getByRole('button', { name: /Check width/ }).click()
  await page.getByLabel('Width, m').fill('0.5')
  await page.getByRole('button', { name: 'Record the cut' }).click()
  await expect(page.getByText(/the cut is 1\.\d\d m deep here: say how far its side is laid back/)).toBeVisible()
  await page.getByLabel('Sides, across per 1 up').fill('1.5')
  await page.locator('label', { hasText: 'None' }).click()
  await page.getByLabel('Spoil from edge, m').fill('1')
  await page.getByLabel('Plant from edge, m').fill('1.5')
  await page.getByLabel('To a ladder or ramp, m').fill('6')
  await page.getByLabel('Competent person').fill('Mara Quill')
  await page.getByRole('button', { name: 'Record the cut' }).click()
  await expect(page.getByText(/the pad needs 0.60 m/).first()).toBeVisible()
  await tab(page, 'Level book')
  await page.locator('label', { hasText: 'Survey points' }).click()
  const bottom = (layoutOf().steps.at(-1)?.elevation ?? 0) - 0.15
  const lines = [`6.75,${(bottom + 0.004).toFixed(3)}`, `8.9,${(bottom - 0.06).toFixed(3)}`, 'x,1']
  await page
    .getByLabel('Survey points file')
    .setInputFiles({ name: 'p.csv', mimeType: 'text/csv', buffer: Buffer.from(`station,elevation\n${lines.join('\n')}\n`) })
  await expect(page.getByText(/60 mm too deep: fill with compacted pad material/)).toBeVisible()
  await expect(page.getByText('▲ station "x" is not a number')).toBeVisible()
  await page.getByRole('button', { name: 'Record 2 points, leave 1' }).click()
  await tab(page, 'Dig')
  await expect(page.getByRole('region', { name: 'Steps and readings' }).getByText(/60 mm too deep/)).toBeVisible()
})

test('density: a curve, a failed test, its rework and the test again', async ({ page, context }) => {
  const wall = await builtTo(context, 'Density', 'pad-level')
  await open(page, wall, 'density')
  await section(page, 'B')
  await page.getByRole('button', { name: 'Enter a laboratory curve' }).click()
  await page.getByLabel('Material').fill('crushed 0/20')
  await page.getByLabel('Report').fill('sheet 4')
  const points = page.getByLabel(/one point a line/)
  await points.fill('9 1900\n9 1950\n9 1980\n9 1960')
  await page.getByRole('button', { name: 'Record the curve' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'no curve' })).toBeVisible()
  await points.fill('6 1905\n8 1990\n10 2015\n12 1960')
  await page.getByRole('button', { name: 'Record the curve' }).click()
  await expect(page.getByRole('img', { name: /maximum 2014 kg\/m³ at 9.5 %/ })).toBeVisible()
  const cone = async (soil: string, moisture: string) => {
    await page.getByLabel('Jar before, kg').fill('6.5')
    await page.getByLabel('Jar after, kg').fill('2.9')
    await page.getByLabel('Soil out, kg').fill(soil)
    await page.getByLabel('Moisture, %').fill(moisture)
  }
  await cone('2.87', '0.084')
  await expect(page.getByText('write 8.4 for 0.084')).toBeVisible()
  await cone('2.82', '8.4')
  await page.getByRole('button', { name: 'Record the test' }).click()
  await expect(page.getByText(/▲ 93\.\d % of maximum, at least 95 %/)).toBeVisible()
  await page.getByLabel('Cause').fill('Dry')
  await page.getByLabel('Action').fill('Watered, plated again')
  await page.getByRole('button', { name: 'Keep cause and action' }).click()
  await expect(page.getByRole('heading', { name: /Test again/ })).toBeVisible()
  await cone('2.93', '9')
  await page.getByRole('button', { name: 'Record the re-test' }).click()
  await expect(page.getByText(/failed, reworked: 93/)).toBeVisible()
})

test('pad level: the map says what to shave and add; the demo tells its first week', async ({ page, context }) => {
  const wall = await builtTo(context, 'Map', 'pad-level')
  const step = layoutOf().steps.at(-1)
  const station = Math.round(((Math.max(4.5, step?.start ?? 0) + 9) / 2) * 100) / 100
  const reading = (at: number, offset: number, value: number) =>
    fact(wall, 'reading', { stage: 'pad-level', section: 'B', station: at, offset }, { method: 'deviation', value })
  const sent = await post(context, `/api/walls/${wall}/entries`, {
    entries: [reading(station, -0.09, 0.012), reading(station, 0.39, -0.008), reading(8.9, -0.09, 0.001), reading(8.9, 0.39, 0.002)],
  })
  expect(await sent.text()).not.toContain('"ok":false')
  await open(page, wall, 'map')
  await section(page, 'B')
  await expect(page.getByRole('group', { name: 'Map of the pad: 4 readings, 2 out of limits' })).toBeVisible()
  await expect(page.getByText('▲ shave 12 mm')).toBeVisible()
  await expect(page.getByText('▼ add 8 mm')).toBeVisible()
  await open(page, demoWall(), 'dig')
  await section(page, 'B')
  await expect(page.getByText(/undercut 420 mm/)).toBeVisible()
  await expect(page.getByText(/rock 160 mm/)).toBeVisible()
  await tab(page, 'Density')
  await page.locator('label', { hasText: 'the pad' }).click()
  await expect(page.getByText(/failed, reworked: 92/)).toBeVisible()
  await tab(page, 'Pad and lifts')
  await expect(page.getByText('Dense graded: recommended · in the plan · chosen')).toBeVisible()
})

test('weather from the mast says what to cover tonight', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await open(page, await newWall(context, 'Weather'), 'weather')
  await expect(async () => {
    await page.getByRole('button', { name: 'Take reading: Mast' }).click()
    await expect(page.getByLabel('Rain in 24 hours, mm')).toHaveValue(/\d/, { timeout: 4000 })
  }).toPass()
  await page.getByRole('button', { name: 'Record today' }).click()
  await expect(page.getByText('not yet')).toHaveCount(1)
  await page.getByLabel('Rain in 24 hours, mm').fill('14')
  await page.getByLabel('Lowest, °C').fill('-2')
  await page.getByLabel('Wind, km/h').fill('20')
  await page.getByRole('button', { name: 'Record as expected' }).click()
  await expect(page.getByText(/14 mm of rain and -2 °C to come/)).toBeVisible()
})

test('every calculator is on the Bench with its working; a wrong number is named at its field', async ({ page, context }) => {
  await signIn(context, 'foreman')
  await page.goto(`${url()}/bench`)
  await ready(page)
  await expect(page.getByText('4 mm high')).toBeVisible()
  for (const name of ['Pad steps', 'Embedment', 'Trench volume', 'Lifts', 'Compaction curve', 'Running bond', 'Strips from rolls', 'Sand cone']) {
    await page.getByRole('link', { name }).click()
    await expect(page.getByRole('heading', { level: 1, name })).toBeVisible()
    await expect(page.locator('ol li').first()).toBeVisible()
  }
  await expect(page.getByText('94.8 %')).toBeVisible()
  await page.getByLabel('Jar and sand after, kg').fill('6')
  await expect(page.getByText(/leaves no sand in the hole/).first()).toBeVisible()
})

test('instruments are watched live; what is broken on the way is counted, not taken', async ({ page, context }) => {
  await signIn(context, 'crew')
  await page.goto(`${url()}/instruments`)
  await ready(page)
  await page.getByRole('button', { name: 'Watch LZ-20417' }).click()
  await page.locator('label', { hasText: '50 a second' }).click()
  const counts = page.getByTestId('counts')
  await expect(async () => expect(Number(await counts.getAttribute('data-count'))).toBeGreaterThan(60)).toPass()
  await page.getByRole('button', { name: 'Sent twice' }).click()
  await expect(counts).toContainText('1 sent twice')
  await page.getByRole('button', { name: 'Garbled line' }).click()
  await expect(counts).toContainText('1 broken lines')
  await page.getByRole('button', { name: 'Broken off' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'broke off in the middle' })).toBeVisible()
  await page.getByRole('button', { name: 'Connect again' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'broke off' })).toHaveCount(0)
})

for (const [name, path, width] of [
  ['Dig', 'dig', 1280],
  ['Level book on a phone', 'level', 390],
  ['Soil on a phone', 'soil', 390],
  ['Density', 'density', 1280],
  ['Pad level on a phone', 'map', 390],
  ['Pad and lifts', 'pad', 1280],
] as const) {
  test(`${name}: readable by everyone, nothing wider than the screen`, async ({ page, context }) => {
    await page.setViewportSize({ width, height: width < 500 ? 844 : 800 })
    await signIn(context, 'foreman')
    await open(page, demoWall(), path)
    const found = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa']).analyze()
    expect(found.violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([])
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width)
  })
}
for (const [name, path] of [
  ['Bench', '/bench/trench'],
  ['Instruments', '/instruments'],
] as const) {
  test(`${name} on a phone: readable by everyone, nothing wider than the screen`, async ({ page, context }) => {
    await page.setViewportSize({ width: 390, height: 844 })
    await signIn(context, 'foreman')
    await page.goto(url() + path)
    await ready(page)
    const found = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa']).analyze()
    expect(found.violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([])
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  })
}
