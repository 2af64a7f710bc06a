import { spawnSync } from 'node:child_process'
import { request as ask } from 'node:http'
import type { BrowserContext, Page } from '@playwright/test'
import pg from 'pg'
import { demoWall, expect, fact, newWall, post, ready, signIn, test, unreadable, upTo, url } from './site'

/** One's own name for this machine: passkeys take no address of numbers. */
const named = () => url().replace('127.0.0.1', 'localhost')
const WORDS = 'gravel heron brass nine'

/** Somebody of the demo company who is nobody else's in these tests, by an invitation of the office. */
async function invited(office: BrowserContext, context: BrowserContext, name: string, role: string, at = url()): Promise<string> {
  const link = (await (await post(office, '/api/people/invite', { role, name })).json()) as { token: string }
  const email = `${name.toLowerCase()}@tidewrack.example`
  const into = await context.request.post(`${at}/api/join`, { data: { token: link.token, name, email, password: WORDS }, headers: { origin: at } })
  expect(into.status(), await into.text()).toBe(200)
  return email
}
const good = async (page: Page) => expect(await unreadable(page)).toEqual([])

test('invited by link, at work within a minute; the link is used up; out at once when the office says so', async ({ browser, context }) => {
  await signIn(context, 'office')
  const page = await context.newPage()
  await page.goto(`${url()}/people`)
  await ready(page)
  await page.getByLabel('Name, if you like').fill('Runa')
  await page.getByText('Foreman', { exact: true }).last().click()
  await page.getByRole('button', { name: 'Make the link' }).click()
  const href = (await page.locator('code').textContent()) ?? ''
  expect(href).toMatch(/\/join#[\w-]{43}$/)
  await good(page)
  const other = await browser.newContext()
  const joining = await other.newPage()
  await joining.goto(href)
  await expect(joining.getByText('Odd Fenn invites you as foreman.')).toBeVisible()
  await good(joining)
  await joining.getByLabel('E-mail').fill('runa@tidewrack.example')
  await joining.getByLabel(/^Password/).fill('tidewrack2026')
  await joining.getByRole('button', { name: 'Join' }).click()
  await expect(joining.getByText(/among those that are tried first/)).toBeVisible()
  await joining.getByLabel(/^Password/).fill(WORDS)
  await joining.getByRole('button', { name: 'Join' }).click()
  await joining.waitForURL(`${url()}/`)
  await expect(joining.getByText('Runa · Foreman')).toBeVisible()
  const again = await browser.newContext()
  const late = await again.newPage()
  await late.goto(href)
  await expect(late.getByRole('alert').filter({ hasText: 'This link was used' })).toBeVisible()
  await again.close()

  // On a wall, its stream open; the office takes them out.
  const wall = await newWall(context, 'Runa at work')
  await joining.goto(`${url()}/walls/${wall}`)
  await ready(joining)
  await page.reload()
  await ready(page)
  await page.getByRole('row', { name: /Runa/ }).getByRole('button', { name: 'Change' }).click()
  const dialog = page.getByRole('dialog', { name: 'Runa' })
  await dialog.getByRole('button', { name: 'Remove from the company …' }).click()
  await dialog.getByRole('button', { name: 'Remove Runa from the company' }).click()
  await expect(page.getByRole('row', { name: /Runa/ })).toHaveCount(0)
  // The stream ends at once and the page asks to sign in again.
  await expect(joining).toHaveURL(/sign-in/, { timeout: 20_000 })
  expect((await other.request.get(`${url()}/api/walls/${wall}/entries`)).status()).toBe(401)
  await page.goto(`${url()}/people/log`)
  await expect(page.getByRole('row', { name: /person removed Odd Fenn .* Runa \(foreman\)/ })).toBeVisible()
  await other.close()
})

test('an invitation that waits is listed, taken back in one press, and opens nothing afterwards', async ({ browser, context }) => {
  await signIn(context, 'office')
  const made = await post(context, '/api/people/invite', { role: 'foreman', name: 'Wim Late' })
  const { token } = (await made.json()) as { token: string }
  const page = await context.newPage()
  await page.goto(`${url()}/people`)
  await ready(page)
  const waits = page.getByRole('region', { name: 'Invitations that wait' })
  await expect(waits.getByText('Wim Late, as foreman')).toBeVisible()
  expect(await page.content()).not.toContain(token)
  await waits.getByRole('button', { name: 'Take back the invitation for Wim Late, as foreman' }).click()
  await expect(page.getByText('Wim Late')).toHaveCount(0)
  const outside = await (await browser.newContext()).newPage()
  await outside.goto(`${url()}/join#${token}`)
  await expect(outside.getByRole('alert').filter({ hasText: /was used, or its time is over/ })).toBeVisible()
})

test('a passkey: made with a name for the device, and in with it, no password typed; taken out it is none', async ({ browser, context }) => {
  await signIn(context, 'office')
  const mine = await browser.newContext()
  await invited(context, mine, 'Pelle', 'crew', named())
  const page = await mine.newPage()
  const cdp = await mine.newCDPSession(page)
  await cdp.send('WebAuthn.enable')
  await cdp.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  })
  await page.goto(`${named()}/me`)
  await ready(page)
  await page.getByLabel('What you call this device').fill('Trench phone')
  await page.getByLabel('Your password, to add one').fill(WORDS)
  await page.getByRole('button', { name: 'Add a passkey' }).click()
  await expect(page.getByText(/Trench phone · made .* not used yet/)).toBeVisible()
  await good(page)
  await page.getByRole('button', { name: 'Sign out', exact: true }).first().click()
  await page.waitForURL(/sign-in/)
  await ready(page)
  await page.getByRole('button', { name: 'Sign in with a passkey' }).click()
  await page.waitForURL(`${named()}/`)
  await expect(page.getByText('Pelle · Crew lead')).toBeVisible()
  await page.goto(`${named()}/me`)
  await ready(page)
  await expect(page.getByText(/Trench phone · made .* used/)).toBeVisible()
  await page.getByRole('button', { name: 'Take out' }).click()
  await expect(page.getByText(/Trench phone/)).toHaveCount(0)
  await page.getByRole('button', { name: 'Sign out', exact: true }).first().click()
  await page.waitForURL(/sign-in/)
  await ready(page)
  await page.getByRole('button', { name: 'Sign in with a passkey' }).click()
  await expect(page.getByText(/not known here/)).toBeVisible()
  // By its number there is no passkey, and it is said why.
  const answer = await mine.request.put(`${url()}/api/sign-in/passkey`, { headers: { origin: url() } })
  expect([answer.status(), await answer.text()]).toEqual([422, expect.stringContaining('need a name')])
  await mine.close()
})

test('one’s own sign-in: the password changed, every other device out, one by one or at once', async ({ browser, context }) => {
  await signIn(context, 'office')
  const one = await browser.newContext()
  const email = await invited(context, one, 'Sefa', 'crew')
  const two = await browser.newContext()
  const three = await browser.newContext()
  const into = (c: BrowserContext, password: string) => post(c, '/api/sign-in', { email, password })
  for (const c of [two, three]) expect((await into(c, WORDS)).status()).toBe(200)
  const page = await one.newPage()
  await page.goto(`${url()}/me`)
  await ready(page)
  await expect(page.getByRole('row', { name: /this one/ })).toHaveCount(1)
  const rows = page.getByRole('table', { name: 'Devices you are signed in on' }).getByRole('row')
  await expect(rows).toHaveCount(4)
  await rows.getByRole('button', { name: 'Sign out' }).first().click()
  await expect(rows).toHaveCount(3)
  const alive = async (c: BrowserContext) => (await c.request.get(`${url()}/api/me/sessions`)).status()
  expect([await alive(two), await alive(three)].sort()).toEqual([200, 401])
  await page.getByLabel('The one you have').fill('not this one')
  await page.getByLabel('A new one, at least 12 characters').fill('cobble spade lantern 7')
  await page.getByRole('button', { name: 'Change it' }).click()
  await expect(page.getByText(/is not your password/i)).toBeVisible()
  await page.getByLabel('The one you have').fill(WORDS)
  await page.getByRole('button', { name: 'Change it' }).click()
  await expect(page.getByText('✓ Changed. Every other device is signed out.')).toBeVisible()
  expect([await alive(one), await alive(two), await alive(three)]).toEqual([200, 401, 401])
  expect((await into(two, WORDS)).status()).toBe(401)
  expect((await into(two, 'cobble spade lantern 7')).status()).toBe(200)
  for (const c of [one, two, three]) await c.close()
})

test('a record that was changed behind its back: found, said on the Board, no release until the inspector has looked', async ({
  context,
  browser,
}) => {
  await signIn(context, 'foreman')
  const inspector = await browser.newContext()
  await signIn(inspector, 'inspector')
  const wall = await newWall(context, 'Changed wall')
  for (const s of upTo(wall, 'dig').filter((f) => f.fact.kind !== 'release')) await post(context, `/api/walls/${wall}/entries`, { entries: [s.fact] })
  const page = await context.newPage()
  await page.goto(`${url()}/walls/${wall}/record`)
  await ready(page)
  await page.getByRole('button', { name: 'Look now' }).click()
  await expect(page.getByText(/✓ Whole: \d+ entries, 1 plan revision/)).toBeVisible()
  await page.getByRole('button', { name: 'Code to keep' }).click()
  const code = (await page.getByRole('region', { name: 'Proof' }).locator('code').textContent()) ?? ''
  await expect(page.getByRole('img', { name: 'The code, to be scanned' })).toBeVisible()
  await good(page)
  await page.getByLabel('A code somebody kept').fill(code.toUpperCase())
  await page.getByRole('button', { name: 'Hold it against the record' }).click()
  await expect(page.getByText(/It fits: up to entry/)).toBeVisible()

  const owner = new pg.Client({ connectionString: process.env.OWNER_URL })
  await owner.connect()
  await owner.query('ALTER TABLE entry DISABLE TRIGGER USER')
  await owner.query(`UPDATE entry SET body = replace(body, 'Mara', 'Nara') WHERE wall_id = $1 AND seq = 2`, [wall])
  await owner.query('ALTER TABLE entry ENABLE TRIGGER USER')
  await owner.end()
  await page.getByRole('button', { name: 'Look now' }).click()
  await expect(page.getByText(/▲ Does not verify: entry 2 was altered/)).toBeVisible()
  await page.goto(`${url()}/walls/${wall}`)
  await ready(page)
  await expect(page.getByRole('alert').filter({ hasText: 'This record does not verify: entry 2 was altered' })).toBeVisible()
  // What stands above the bar is not covered by what is only for the keyboard.
  expect((await page.getByRole('link', { name: 'Skip to the work' }).boundingBox())?.width).toBeLessThanOrEqual(1)
  await good(page)
  const release = () =>
    post(inspector, `/api/walls/${wall}/entries`, {
      entries: [fact(wall, 'release', { stage: 'set-out' }, { decision: 'released', reason: 'seen', signature: { typed: 'Ines Vale' } })],
    })
  expect(await (await release()).text()).toContain('does not verify')

  const desk = await inspector.newPage()
  await desk.goto(`${url()}/walls/${wall}/record`)
  await ready(desk)
  await desk.getByLabel('What you found, and what is done about it').fill('The office changed a name by hand; put back from the backup')
  await desk.getByRole('button', { name: 'I have looked' }).click()
  await expect(desk.getByText(/Ines Vale \(inspector\) looked at it/)).toBeVisible()
  expect(await (await release()).text()).not.toContain('does not verify')
  await page.reload()
  await expect(page.getByRole('complementary', { name: 'Does not verify' })).toContainText('Looked at by Ines Vale')
  // Held against the export, the code of before the change tells from outside.
  const file = `${test.info().outputDir}/changed.tally.json`
  const exported = await context.request.get(`${url()}/api/walls/${wall}/export`)
  const { mkdirSync, writeFileSync } = await import('node:fs')
  mkdirSync(test.info().outputDir, { recursive: true })
  writeFileSync(file, await exported.body())
  const told = spawnSync('bin/tally', ['record', 'verify', file, '--against', code], { encoding: 'utf8' })
  expect([told.status, told.stderr]).toEqual([1, expect.stringMatching(/entry 2 was altered/)])
  await inspector.close()
})

/** A request as nobody's browser would make it. */
const raw = (path: string, headers: Record<string, string> = {}) =>
  new Promise<{ status: number; body: string; headers: Record<string, unknown> }>((resolve, reject) => {
    const { hostname, port, host } = new URL(url())
    const r = ask({ hostname, port, path, headers: { host, ...headers } }, (res) => {
      let body = ''
      res.on('data', (d) => {
        body += d
      })
      res.on('end', () => resolve({ status: res.statusCode ?? 0, body, headers: res.headers }))
    })
    r.on('error', reject)
    r.end()
  })

test('another name, an address nobody can read: refused in our own words', async ({ context }) => {
  for (const host of ['evil.example', 'evil.example:80', '127.0.0.1.evil.example', 'localhost.']) {
    const { status, body } = await raw('/', { host })
    expect([host, status, body]).toEqual([host, 421, expect.stringContaining('Not served here')])
  }
  for (const path of ['/walls/%E0%A4%A', '/%', '/%00', '/a%0d%0aset-cookie:x', '//evil.example', '/%5cevil.example']) {
    const { status, body, headers } = await raw(path)
    expect([path, status]).toEqual([path, 400])
    expect(body).toContain('This address cannot be read')
    expect(headers['content-security-policy']).toContain("default-src 'none'")
  }
  expect((await raw('/api/walls/%E0%A4%A')).body).toContain('"problems"')
  // What a client says of where it comes from and how is not believed.
  const { headers } = await raw('/sign-in', { 'x-forwarded-proto': 'https', 'x-forwarded-for': '6.6.6.6', 'x-nonce': 'mine' })
  expect(headers['strict-transport-security']).toBeUndefined()
  const email = 'nobody-at-all@tidewrack.example'
  await context.request.post(`${url()}/api/sign-in`, {
    data: { email, password: 'x' },
    headers: { origin: url(), 'x-tally-peer': '9.9.9.9', 'x-real-ip': '9.9.9.9' },
  })
  const owner = new pg.Client({ connectionString: process.env.OWNER_URL })
  await owner.connect()
  const { rows } = await owner.query('SELECT network FROM security_log WHERE detail LIKE $1', [`%${email}`])
  await owner.end()
  expect(rows).toEqual([{ network: '127.0.0.1' }])
})

test('nothing is sent to a page: said in our own words, whatever comes with it, and no answer is lost', async ({ context }) => {
  await signIn(context, 'foreman')
  const bodies = ['', '\u0000', '{"entries":[', 'x'.repeat(3000), 'y'.repeat(400_000)]
  const ask = async (i: number) => {
    const answer = await context.request.fetch(`${url()}${['/', `/walls/${demoWall()}/record?entry=x`, '/join', '/people'][i % 4]}`, {
      method: ['POST', 'PATCH', 'DELETE', 'PUT'][i % 4] as string,
      data: bodies[i % bodies.length],
      headers: {
        origin: url(),
        'content-type': ['text/plain', 'multipart/form-data; boundary=x', 'application/x-www-form-urlencoded'][i % 3] as string,
      },
    })
    return [answer.status(), answer.headers().allow, (await answer.text()).includes('Nothing is sent to a page')]
  }
  const all = await Promise.all(Array.from({ length: 120 }, (_, i) => ask(i)))
  expect(all.filter((a) => JSON.stringify(a) !== JSON.stringify([405, 'GET, HEAD', true]))).toEqual([])
})

test('every page has a policy of its own: a script or a style that is not ours does nothing', async ({ browser }) => {
  const page = await browser.newPage()
  const [one, two] = [await raw('/sign-in'), await raw('/sign-in')]
  const nonce = (a: { headers: Record<string, unknown> }) => /script-src [^;]*'nonce-([^']+)'/.exec(String(a.headers['content-security-policy']))?.[1]
  expect(nonce(one)).toBeTruthy()
  expect(nonce(one)).not.toBe(nonce(two))
  const policy = String(one.headers['content-security-policy'])
  expect(policy).not.toMatch(/script-src[^;]*unsafe|style-src-elem[^;]*unsafe|\*/)
  await page.goto(`${url()}/sign-in`)
  await ready(page)
  await page.evaluate(() => {
    const script = document.createElement('div')
    script.innerHTML = '<img src="x" onerror="window.hacked = true"><style>body { display: none }</style>'
    document.body.append(script)
  })
  await page.waitForTimeout(300)
  expect(await page.evaluate(() => [(window as { hacked?: boolean }).hacked ?? false, getComputedStyle(document.body).display])).toEqual([
    false,
    'block',
  ])
})
