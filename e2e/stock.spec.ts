// The store and the days left: what came, what is short, what to order, and when the wall will be done.

import { readFile } from 'node:fs/promises'
import readBook from 'read-excel-file/node'
import writeBook from 'write-excel-file/node'
import { expect, fact, newWall, post, ready, signIn, test, unreadable, upTo, url } from './site'

test('a docket is taken in, twice is refused, a slipped digit is asked about, and the wall says how far it goes', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Store wall')
  const page = await context.newPage()
  await page.goto(`${url()}/walls/${wall}/stock`)
  await ready(page)
  await expect(page.getByText(/Nothing was taken in yet/)).toBeVisible()
  const open = async (name: RegExp) => page.getByRole('button', { name }).first().click()
  await open(/Drainage stone/)
  const form = page.getByRole('group', { name: 'Record Drainage stone' })
  // Forty typed for four.
  await form.getByLabel('On the docket, m³').fill('40')
  await form.getByLabel('Docket', { exact: true }).fill('T-1')
  await expect(form.getByText(/far more than/)).toBeVisible()
  await expect(form.getByRole('button', { name: 'Record', exact: true })).toBeDisabled()
  await form.getByLabel('On the docket, m³').fill('1.2')
  await form.getByLabel('Supplier').fill('Quarry')
  await form.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(page.getByText(/With what is here the wall goes up to course/)).toBeVisible()
  await expect(page.getByRole('button', { name: /^Came 1.2 m³/ })).toBeVisible()
  // The same paper again.
  await expect(form.getByLabel('On the docket, m³')).toHaveValue('')
  await form.getByLabel('On the docket, m³').fill('1.2')
  await form.getByLabel('Docket', { exact: true }).fill('t-1')
  await form.getByLabel('Supplier').fill('quarry')
  await form.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(form.getByText(/is in the record already/)).toBeVisible()
  // What the number is made of, and the way to its entry.
  await page.getByRole('button', { name: /^Came 1.2 m³/ }).click()
  const line = page.getByText(/docket T-1 of Quarry/).first()
  await expect(line).toBeVisible()
  await line.getByRole('link').click()
  await expect(page.getByRole('heading', { level: 1, name: 'Record' })).toBeVisible()
  await expect(page.locator('li[data-here]')).toContainText('T-1')
})

test('the order list by supplier, in packs, as a file; what is ordered leaves it', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Order wall')
  const stone = { item: 'stone', name: 'Drainage stone', unit: 'm³' }
  const put = async (kind: string, data: object) =>
    expect((await post(context, `/api/walls/${wall}/entries`, { entries: [fact(wall, kind, {}, data)] })).ok()).toBe(true)
  await put('supply', { ...stone, supplier: '=Quarry', lead: 2, pack: 2, reserve: 0 })
  const page = await context.newPage()
  await page.goto(`${url()}/walls/${wall}/stock`)
  await ready(page)
  await page.getByText(/^To order/).click()
  const own = page.getByRole('region', { name: '=Quarry' })
  await expect(own.getByRole('row').nth(1)).toContainText('2.0 m³')
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save as CSV' }).click()])
  const csv = await readFile(await file.path(), 'utf8')
  expect(csv.split('\n')[0]).toBe('order_by,on_site,late,supplier,material,amount,unit,packs,pack,mass_kg,lorries,price')
  // Nothing in it is a formula.
  expect(csv).toContain("'=Quarry")
  // The same as a workbook, read back by a library no one here wrote.
  const [book] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save as workbook' }).click()])
  expect(book.suggestedFilename()).toBe('Order wall orders.xlsx')
  const sheets = await readBook(await book.path())
  expect(sheets.map((s) => s.sheet)).toEqual(['Orders', 'Stock'])
  const [head, ...lines] = sheets[0]?.data ?? []
  expect(head?.slice(0, 4)).toEqual(['order_by', 'on_site', 'late', 'supplier'])
  expect(lines.find((l) => l[4] === 'Drainage stone')?.slice(3, 9)).toEqual([
    '=Quarry',
    'Drainage stone',
    expect.any(Number),
    'm³',
    expect.any(Number),
    2,
  ])
  await put('ordered', { ...stone, amount: 20, expected: new Date().toISOString().slice(0, 10) })
  await expect(own).toHaveCount(0)
})

test('when it will be done, with odds; promised, slipped, and what would win days back', async ({ context, browser }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Days wall')
  const page = await context.newPage()
  await page.goto(`${url()}/walls/${wall}/days`)
  await ready(page)
  await expect(page.getByText(/in nine of ten/)).toBeVisible({ timeout: 60_000 })
  await expect(page.getByRole('img', { name: /stations across, days down/ })).toBeVisible()
  // To somebody, by name.
  await page.getByRole('button', { name: /^Promise / }).click()
  await expect(page.getByRole('button', { name: 'Promise it · missing: to whom' })).toBeDisabled()
  await page.getByLabel('To whom').fill('the harbour office')
  await page.getByRole('button', { name: 'Promise it', exact: true }).click()
  await expect(page.getByText(/^Promised for .* to the harbour office/)).toBeVisible()
  await page.getByText('As bars', { exact: true }).click()
  await expect(page.getByRole('region', { name: 'What is left, by its days' }).getByRole('row').nth(1)).toBeVisible()
  await page.getByText('Calendar', { exact: true }).click()
  await expect(page.getByRole('list', { name: 'Calendar' })).toBeVisible()
  // One working day a week: the promise does not hold any more, and that is said.
  await page.getByText('Pace and days', { exact: true }).click()
  const days = page.getByRole('group', { name: 'Working days' })
  for (const day of ['Mon', 'Tue', 'Wed', 'Thu']) await days.getByText(day, { exact: true }).click()
  await days.getByRole('button', { name: 'Set' }).click()
  await expect(page.getByText(/by now that is \d+ % likely/)).toBeVisible({ timeout: 60_000 })
  // None at all is refused in words.
  await days.getByText('Fri', { exact: true }).click()
  await days.getByRole('button', { name: 'Set' }).click()
  await expect(days.getByText(/a crew with no working day is never done/)).toBeVisible()
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Calendar file', exact: true }).click()])
  const ics = await readFile(await file.path(), 'utf8')
  expect(ics).toMatch(/^BEGIN:VCALENDAR\r\n/)
  expect(ics.split('\r\n').every((l) => new TextEncoder().encode(l).length <= 75)).toBe(true)
  // The inspector sees it and promises nothing.
  const other = await browser.newContext()
  await signIn(other, 'inspector')
  const theirs = await other.newPage()
  await theirs.goto(`${url()}/walls/${wall}/days`)
  await ready(theirs)
  await expect(theirs.getByText(/in nine of ten/)).toBeVisible({ timeout: 60_000 })
  await expect(theirs.getByRole('button', { name: /^Promise / })).toHaveCount(0)
  await other.close()
})

test('what is recorded moves the days: a released stage is gone from them', async ({ context, browser }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Moving wall')
  const page = await context.newPage()
  await page.goto(`${url()}/walls/${wall}/days`)
  await ready(page)
  await page.getByText('As bars', { exact: true }).click()
  const rows = page.getByRole('region', { name: 'What is left, by its days' })
  await expect(rows.getByRole('link', { name: 'Services located' }).or(rows.getByRole('link').first())).toBeVisible()
  const first = await rows.getByRole('link').first().textContent()
  const inspector = await browser.newContext()
  await signIn(inspector, 'inspector')
  for (const { by, fact: f } of upTo(wall, 'pad').slice(0, 4))
    await post(by === 'foreman' ? context : inspector, `/api/walls/${wall}/entries`, { entries: [f] })
  await expect(rows.getByRole('link').first()).not.toHaveText(first ?? '')
  await inspector.close()
})

test('all walls with the crews they share: fewer crews end later, a wall leads to its own days', async ({ context }) => {
  await signIn(context, 'office')
  const page = await context.newPage()
  await page.goto(`${url()}/`)
  await ready(page)
  await page.getByRole('link', { name: 'Days', exact: true }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Days' })).toBeVisible()
  const hours = async () => Number(/All of it takes (\d+) working hours/.exec((await page.getByText(/All of it takes/).textContent()) ?? '')?.[1])
  const two = await hours()
  // Walls down, days across: every wall has its line, and whoever cannot see it has the table.
  await expect(page.getByRole('img', { name: 'Walls down, days across' })).toBeVisible()
  await page.locator('label', { hasText: /^1$/ }).click()
  await expect(page.getByText(/with 1 crew;/)).toBeVisible()
  expect(await hours()).toBeGreaterThan(two)
  await page.getByRole('region', { name: 'Walls and their days' }).getByRole('link', { name: 'Queue-lane wall' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Days' })).toBeVisible()
  await expect(page.getByText(/in nine of ten/)).toBeVisible({ timeout: 60_000 })
})

test('a bar is dragged to another day: what that breaks is said first; another who saw it where it was is told', async ({ context, browser }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Bars wall')
  const page = await context.newPage()
  await page.goto(`${url()}/walls/${wall}/days`)
  await ready(page)
  await page.getByText('As bars', { exact: true }).click()
  const bar = page.getByRole('slider').nth(1)
  const before = await bar.getAttribute('aria-valuetext')
  const box = await bar.boundingBox()
  if (!box) throw new Error('no bar')
  await page.mouse.move(box.x + 10, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + 150, box.y + box.height / 2, { steps: 6 })
  await page.mouse.up()
  const move = page.getByRole('group', { name: /^Move / })
  await expect(move.getByText(/The wall is done \d+ days? later/)).toBeVisible()
  await expect(move.getByText(/other things move behind it/)).toBeVisible()
  // Nothing is recorded yet: the office puts the same task elsewhere meanwhile.
  const title = ((await move.getAttribute('aria-label')) ?? '').replace('Move ', '')
  const task =
    (await page.evaluate((t) => [...document.querySelectorAll('a')].find((a) => a.textContent === t)?.getAttribute('href') ?? '', title)).split(
      'step=',
    )[1] ?? ''
  const office = await browser.newContext()
  await signIn(office, 'office')
  const day = new Date(Date.now() + 9 * 86_400_000).toISOString().slice(0, 10)
  const data = { task: decodeURIComponent(task).replace(/\+/g, ' '), title, day }
  expect((await post(office, `/api/walls/${wall}/entries`, { entries: [fact(wall, 'fixed', {}, data)] })).ok()).toBe(true)
  await move.getByRole('button', { name: /^Put it on / }).click()
  // By then the page knows, or the house says it: either way it lands once, over what is there.
  await expect(page.getByText(/was put on .* meanwhile/).or(page.getByText(/⌖ not before/).first())).toBeVisible()
  await office.close()
  await page.reload()
  await page.getByText('As bars', { exact: true }).click()
  await expect(page.getByText(/⌖ not before/).first()).toBeVisible()
  const own = page.getByRole('slider', { name: `${title} begins`, exact: true })
  await expect(own).not.toHaveAttribute('aria-valuetext', before ?? '')
  // Let go again by its keys and its button.
  await own.focus()
  await page.keyboard.press('ArrowRight')
  await page.getByRole('button', { name: 'As soon as it can' }).click()
  await page.getByRole('button', { name: 'Let it go' }).click()
  await expect(page.getByText(/⌖ not before/)).toHaveCount(0)
})

test('plant on hire, work of others and a table of tasks go into the days', async ({ context }, info) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Plant wall')
  const page = await context.newPage()
  // What is reckoned beside the page takes its time, as on a slow phone.
  await page.addInitScript(() => {
    const Fast = window.Worker
    window.Worker = class extends Fast {
      override postMessage(...said: [unknown]) {
        setTimeout(() => super.postMessage(...said), 1500)
      }
    }
  })
  // What is reckoned anew after each entry stands above: what is pressed below keeps its place while that comes in, on any screen.
  const top = async () => Math.round((await page.getByRole('radiogroup', { name: 'View' }).boundingBox())?.y ?? 0)
  for (const width of [320, 390, 820, 1280]) {
    await page.setViewportSize({ width, height: 800 })
    await page.goto(`${url()}/walls/${wall}/days`)
    await ready(page)
    await expect(page.getByText(/^Reckoning the odds/)).toBeVisible()
    // What comes in after is meant here; letters that come late move a page once, when it is looked at first.
    await page.evaluate(() => document.fonts.ready)
    const before = await top()
    await expect(page.getByText(/in nine of ten/)).toBeVisible()
    expect([width, await top()]).toEqual([width, before])
  }
  await page.getByText('Plant', { exact: true }).click()
  const form = page.getByRole('group', { name: 'Plant that comes' })
  await form.getByText('Excavator', { exact: true }).click()
  await form.getByRole('button', { name: 'Take these days' }).press('Enter')
  const far = new Date(Date.now() + 60 * 86_400_000).toISOString().slice(0, 10)
  await form.getByLabel(/^Last day/).fill(far)
  await form.getByLabel(/^Price of a day/).fill('90')
  await form.getByRole('button', { name: 'Record' }).press('Enter')
  await expect(page.getByText(/Excavator: needed last on .*, on hire to .*Send it back then/)).toBeVisible()
  await expect(page.getByRole('region', { name: 'Plant' }).getByText(/idle$/)).toBeVisible()
  await page.getByRole('button', { name: 'Take Excavator out' }).press('Enter')
  await page.getByLabel('Why Excavator is taken out').fill('called off')
  await page.getByRole('button', { name: 'Take out' }).first().press('Enter')
  await expect(page.getByText(/Send it back then/)).toHaveCount(0)
  await page.getByRole('radio', { name: 'Other work' }).press(' ')
  const more = page.getByRole('group', { name: 'More work' })
  await more.getByLabel('What is to be done').fill('Move the hedge')
  await more.getByLabel('Hours').fill('6,5')
  await more.getByRole('button', { name: 'Add it' }).press('Enter')
  const list = page.getByRole('region', { name: 'Other work' })
  await expect(list.getByRole('row', { name: /Move the hedge/ })).toContainText('6.5')
  // A workbook with one good row, one that is wrong and one that says what is so.
  const path = info.outputPath('tasks.xlsx')
  const row = (...cells: (string | number | null)[]) => cells
  await writeBook([
    row('id', 'title', 'hours', 'after'),
    row('fence', 'Fence on top', 5, 'move-the-hedge'),
    row('gate', 'Gate', 'four', null),
    row('move-the-hedge', 'Move the hedge', 6.5, null),
  ]).toFile(path)
  await page.getByLabel('Tasks file').setInputFiles(path)
  await expect(page.getByText(/1 task new or changed, 0 put on a day, 1 as they are/)).toBeVisible()
  await expect(page.getByText('Line 3: hours are "four"')).toBeVisible()
  await page.getByRole('button', { name: 'Record the 1 that are right' }).press('Enter')
  await expect(list.getByRole('row', { name: /Fence on top/ })).toContainText('Move the hedge')
  await page
    .getByLabel('Tasks file')
    .setInputFiles({ name: 'broken.xlsx', mimeType: 'application/octet-stream', buffer: Buffer.from('PK\u0003\u0004 and nothing else') })
  await expect(page.getByText(/broken.xlsx looks like a workbook, but cannot be read as one/)).toBeVisible()
})

test('where a delivery stands: proposed clear of everything, moved behind the wall only with somebody’s word', async ({ context }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Stand wall')
  const page = await context.newPage()
  await page.goto(`${url()}/walls/${wall}/stock`)
  await ready(page)
  expect(
    (
      await post(context, `/api/walls/${wall}/entries`, {
        entries: [fact(wall, 'delivery', {}, { item: 'whole', name: 'Whole blocks', unit: 'pieces', amount: 80, docket: 'S-1', pallets: 2 })],
      })
    ).ok(),
  ).toBe(true)
  await page.getByText('Where it stands', { exact: true }).click()
  await page.getByRole('button', { name: 'Where it stands' }).click()
  const place = page.getByRole('group', { name: 'Where Whole blocks stands' })
  await expect(place.getByRole('button', { name: 'It stands here' })).toBeEnabled()
  const grip = page.getByRole('button', { name: /Whole blocks: at .* arrow keys move it/ })
  await grip.focus()
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowUp')
  await expect(place.getByText(/it pushes on it/)).toBeVisible()
  await expect(place.getByRole('button', { name: 'It stands here' })).toBeDisabled()
  await place.getByLabel('Who said that it may stand there').fill('the engineer, by letter of Monday')
  await place.getByRole('button', { name: 'It stands here' }).click()
  const list = page.getByRole('list', { name: 'Deliveries' })
  await expect(list).toContainText(/behind the face/)
  await page.reload()
  await page.getByText('Where it stands', { exact: true }).click()
  await expect(list).toContainText(/behind the face.*pushes on it/)
})

test('a forecast of days is taken from its service; what it threatens stands on the days, by its day', async ({ context, browser }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Wet wall')
  const inspector = await browser.newContext()
  await signIn(inspector, 'inspector')
  for (const { by, fact: f } of upTo(wall, 'pad')) await post(by === 'foreman' ? context : inspector, `/api/walls/${wall}/entries`, { entries: [f] })
  await inspector.close()
  const page = await context.newPage()
  await page.goto(`${url()}/walls/${wall}/ground`)
  await ready(page)
  await page.getByText('Weather', { exact: true }).first().click()
  await page.getByRole('button', { name: 'Take reading: Forecast' }).click()
  await page.getByRole('button', { name: /^Reckon with these 6 days/ }).click()
  await expect(page.getByRole('group', { name: 'Days to come' }).getByRole('listitem')).toHaveCount(6)
  // Kept on the device is shown at once; the week of rain is told after it is in the record, or it would be the older word.
  const told = async () => (await (await context.request.get(`${url()}/api/walls/${wall}/entries?after=0`)).text()).includes('"weather"')
  await expect.poll(told).toBe(true)
  const day = (i: number) => new Date(Date.now() + i * 86_400_000).toISOString().slice(0, 10)
  const rain = { rain: 30, low: 6, wind: 10 }
  const days = Array.from({ length: 7 }, (_, i) => ({ day: day(i), ...rain }))
  expect((await post(context, `/api/walls/${wall}/entries`, { entries: [fact(wall, 'weather', {}, { ...rain, expected: true, days })] })).ok()).toBe(
    true,
  )
  await page.goto(`${url()}/walls/${wall}/days`)
  await ready(page)
  await expect(page.getByText('▲ The weather expected')).toBeVisible({ timeout: 60_000 })
  await expect(page.getByText(/fill takes up more water than it can be compacted with/).first()).toBeVisible()
})

test('the views of Days and Stock: readable by everyone at the desk and on a phone, nothing wider than the screen', async ({ context, browser }) => {
  await signIn(context, 'foreman')
  const wall = await newWall(context, 'Wide wall')
  const put = async (kind: string, data: object) =>
    expect((await post(context, `/api/walls/${wall}/entries`, { entries: [fact(wall, kind, {}, data)] })).ok()).toBe(true)
  await put('hire', { plant: 'plate', count: 1, from: '2026-01-01', perDay: 20 })
  await put('task', { task: 'gate', title: 'Hang the gate', hours: 3, after: [], before: [], crew: true, state: 'open' })
  await put('delivery', { item: 'whole', name: 'Whole blocks', unit: 'pieces', amount: 20, docket: 'W-1' })
  for (const size of [
    { width: 1280, height: 800 },
    { width: 390, height: 844 },
  ]) {
    const other = await browser.newContext({ viewport: size, hasTouch: size.width < 500, serviceWorkers: 'block' })
    await signIn(other, 'foreman')
    const page = await other.newPage()
    for (const [place, views] of [
      ['days', ['Along the wall', 'As bars', 'Calendar', 'Plant', 'Other work', 'Pace and days']],
      ['stock', ['On site', 'To order', 'Where it stands']],
    ] as const) {
      await page.goto(`${url()}/walls/${wall}/${place}`)
      await ready(page)
      for (const view of views) {
        await page.locator('label', { hasText: view }).first().click()
        await expect(page.locator('label', { hasText: view }).first().locator('input')).toBeChecked()
        const wide = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)
        expect([view, size.width, wide]).toEqual([view, size.width, 0])
        expect([view, await unreadable(page)]).toEqual([view, []])
      }
    }
    await other.close()
  }
})
