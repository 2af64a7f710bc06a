// Random days of two tablets over the real store and the real house; the bench runs a hundred of them.
import { schedule, tablets } from './schedules'
import { expect, signIn, test } from './site'

test('random days with bad lines, killed tabs, clocks off by hours and a revision: exactly once, chain intact, both the same', async ({
  browser,
}) => {
  const office = await browser.newContext()
  await signIn(office, 'office')
  const devices = await tablets(browser)
  let notes = 0
  for (const seed of [1, 2, 3, 4]) notes += (await schedule(seed, devices, office)).notes
  expect(notes).toBeGreaterThan(8)
  for (const d of devices) {
    await d.road.end()
    await d.context.close()
  }
  await office.close()
})
