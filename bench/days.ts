import { chromium } from '@playwright/test'
import { schedule, tablets } from '../e2e/schedules'
import { signIn } from '../e2e/site'
import { CHROMIUM } from '../scripts/chromium'
import { print } from './print'
import { served } from './served'

/** A hundred random days of two tablets over the real store and the real house; a day that does not add up throws. */
const DAYS = Number(process.env.DAYS ?? 100)
const site = await served({ errors: 'ignore' })
process.env.BASE_URL = `http://127.0.0.1:${site.port}`
const browser = await chromium.launch({ executablePath: CHROMIUM, args: ['--no-sandbox'] })
try {
  const office = await browser.newContext()
  await signIn(office, 'office')
  const devices = await tablets(browser)
  const failed: string[] = []
  let notes = 0
  for (let seed = 1; seed <= DAYS; seed++)
    await schedule(seed, devices, office).then(
      (day) => {
        notes += day.notes
      },
      (error) => failed.push(`day ${seed}: ${(error as Error).message.split('\n')[0]}`),
    )
  print([
    {
      name: `${DAYS} random days that do not add up`,
      value: failed.length,
      limit: 0,
      over: 'at most',
      unit: '',
      note: `${notes} notes; ${failed.join('; ')}`,
    },
  ])
  for (const d of devices) await d.road.end()
} finally {
  await browser.close()
  site.end()
}
