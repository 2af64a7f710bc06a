import { chromium } from '@playwright/test'

const base = 'http://localhost:3391'
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] })
const _shot = process.argv[2] ?? ''
for (const [who, _role] of [['odd', 'office']] as const) {
  const ctx = await b.newContext({ viewport: { width: 1280, height: 800 } })
  const page = await ctx.newPage()
  const bad = new Set<string>()
  page.on('console', (m) => {
    if (m.type() === 'error' || /Content Security|violat/i.test(m.text())) bad.add(m.text().slice(0, 220))
  })
  page.on('pageerror', (e) => bad.add(`PAGEERROR ${e.message.slice(0, 200)}`))
  await page.goto(`${base}/sign-in`)
  await page.screenshot({ path: '/tmp/s-signin.png' })
  await page.getByLabel('E-mail').fill(`${who}@tidewrack.example`)
  await page.getByLabel('Password').fill('quarry-lantern')
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await page.waitForURL(`${base}/`)
  const hrefs = await page.locator('a[href^="/walls/"]').evaluateAll((l) => l.map((a) => a.getAttribute('href') ?? ''))
  const id = hrefs.map((h) => h.split('/')[2] ?? '').find((x) => x.length === 36)
  for (const p of [
    '/people',
    '/people/log',
    '/me',
    '/house',
    `/walls/${id}`,
    `/walls/${id}/record`,
    `/walls/${id}/print`,
    `/walls/${id}/days`,
    `/walls/${id}/plan`,
    `/walls/${id}/set-out`,
    `/walls/${id}/crew`,
    `/walls/${id}/pole`,
    '/bench/rod',
    '/words',
    '/device',
    '/walls/new',
  ]) {
    await page.goto(base + p)
    await page.waitForTimeout(1800)
    if (['/people', '/people/log', '/me', '/house'].includes(p) || p.endsWith('/record') || p.endsWith('/print') || p.endsWith('/crew')) {
      if (p.endsWith('/record')) {
        await page.getByRole('button', { name: 'Code to keep' }).click()
        await page.getByRole('button', { name: 'Look now' }).click()
        await page.waitForTimeout(1500)
      }
      await page.screenshot({ path: `/tmp/s${p.replace(/\W+/g, '-').slice(-18)}.png`, fullPage: p.endsWith('/crew') })
    }
    if (bad.size) {
      console.log(p, [...bad].join('\n   '))
      bad.clear()
    }
  }
  await ctx.close()
}
await b.close()
