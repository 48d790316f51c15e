/**
 * At the car: a phone in another network, with the authority in its own store of certificates, is paired, works, loses its connection, reloads, comes
 * back, clashes and is put out. Strangers get nothing.
 */
import { execFileSync, spawn } from 'node:child_process'
import { mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { test as base, expect, type BrowserContext, type Page } from '@playwright/test'
import { seriousFindings } from './accessibility'
import { Ivent } from './ivent'
import { Phone, ShopNetwork } from './phone'

/** A shop with Ivent on its network, and a bench that looks at it. */
type Shop = { readonly ivent: Ivent; readonly network: ShopNetwork; readonly authority: string; readonly url: string }
const test = base.extend<{ bench: Page; phone: Phone }, { shop: Shop }>({
  shop: [
    // oxlint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const [network, ivent] = [new ShopNetwork(), new Ivent()]
      network.start()
      if ((await ivent.start('demo', ivent.folder, '--lan')) !== 'answers') throw new Error(ivent.output)
      const authority = `${ivent.folder}/authority/authority.pem`
      await use({ ivent, network, authority, url: `https://${network.bench}:${ivent.port + 1}` })
      await ivent.end()
      network.end()
    },
    { scope: 'worker' },
  ],
  bench: async ({ page, shop }, use) => {
    await page.goto(`${shop.ivent.url}/devices`)
    await use(page)
  },
  phone: async ({ shop }, use) => {
    const phone = new Phone(shop.network)
    phone.trust(shop.authority)
    await use(phone)
    await phone.end()
  },
})

type Code = { readonly picture: string; readonly words: string }
/** Opens a code at the bench, for a device that may do this. */
async function openCode(bench: Page, shop: Shop, rights: string): Promise<Code> {
  await bench.bringToFront()
  const again = bench.getByRole('button', { name: 'Let another in' })
  const start = bench.getByRole('button', { name: 'Let a device in' })
  await expect(start.or(again)).toBeVisible()
  if (await again.isVisible()) await again.click()
  await bench.getByRole('radio', { name: new RegExp(`^${rights}`) }).check()
  await start.click()
  const picture = bench.getByRole('img', { name: 'Code for the device’s camera' })
  await expect(picture).toBeVisible()
  const shown = new URL((await picture.getAttribute('data-text'))!)
  return {
    // a machine in several networks shows the address of one of them
    picture: `${shop.url}${shown.pathname}${shown.hash}`,
    words: (await bench.getByLabel('Words to type').textContent())!.trim(),
  }
}

/** Lets the phone in by the camera; its garage is open then. */
async function pair(
  context: BrowserContext,
  { bench, shop }: { bench: Page; shop: Shop },
  name: string,
  rights = 'Do all',
): Promise<Page> {
  const { picture } = await openCode(bench, shop, rights)
  const page = await context.newPage()
  await page.goto(picture)
  await page.getByLabel('What is this device called?').fill(name)
  await page.getByRole('button', { name: 'Pair it' }).click()
  await expect(page.getByRole('link', { name: 'Heron', exact: true })).toBeVisible()
  await expect(bench.getByText(`${name} is let in.`)).toBeVisible()
  return page
}

/** The paths of pages that this device has kept. */
const keptPages = (page: Page): Promise<readonly string[]> =>
  page.evaluate(async () => {
    const names = (await caches.keys()).filter((n) => n.startsWith('ivent-pages-'))
    const requests = await Promise.all(names.map(async (n) => (await caches.open(n)).keys()))
    return requests.flat().map((r) => new URL(r.url).pathname)
  })
const noConnection = (page: Page) => page.getByText(/^No connection to the bench/)
type Listed = { readonly id: string; readonly name: string }
const idOf = async (shop: Shop, name: string) => (await shop.ivent.builds()).find((b: Listed) => b.name === name)!.id
const head = async (shop: Shop, name: string) =>
  (await (await fetch(`${shop.ivent.url}/api/builds/${await idOf(shop, name)}`)).json()) as {
    document: { log: { odometerKm: number }[]; fit?: { ticks: unknown[] }; engine: { boreMm: number } }
  }

test('paired by its camera, a phone works without a connection and after a reload, and what waits is sent once', async ({
  bench,
  phone,
  shop,
}) => {
  const context = await phone.open()
  const page = await pair(context, { bench, shop }, 'Phone at the lift')
  expect(statSync(`${shop.ivent.folder}/authority/authority.key`).mode & 0o777).toBe(0o600)
  await page.getByRole('link', { name: 'Heron', exact: true }).click()
  await page.getByRole('link', { name: 'Fit', exact: true }).click()
  await expect(page.getByText('screen stays on')).toBeVisible()
  await expect.poll(async () => (await keptPages(page)).filter((p) => p.startsWith('/builds/')).length).toBe(8)
  // a phone may keep it beside its other programs
  const cdp = await context.newCDPSession(page)
  const { installabilityErrors } = await cdp.send('Page.getInstallabilityErrors')
  // that the browser of a test keeps nothing is all that speaks against it
  expect(installabilityErrors.map((e) => e.errorId)).toEqual(['in-incognito'])
  const ticksBefore = (await head(shop, 'Heron')).document.fit?.ticks.length ?? 0
  const logBefore = (await head(shop, 'Heron')).document.log.length

  // ticked with a connection just before it is lost: newer than the page that is kept
  const open = page.getByRole('checkbox', { checked: false })
  const saved = (await open.first().getAttribute('aria-label'))!
  await open.first().click()
  await expect.poll(async () => (await head(shop, 'Heron')).document.fit?.ticks.length).toBe(ticksBefore + 1)
  await expect(page.getByText('waiting to send')).toHaveCount(0)
  shop.network.line('down')
  const waits = (await open.first().getAttribute('aria-label'))!
  await open.first().click()
  await expect(page.getByText('1 waiting to send')).toBeVisible()

  await page.reload()
  await expect(noConnection(page)).toBeVisible()
  for (const name of [saved, waits]) await expect(page.getByRole('checkbox', { name, exact: true })).toBeChecked()
  await expect(page.getByText('1 waiting to send')).toBeVisible()

  // an entry of the log, then round the stations that are used at the car
  await page.getByRole('link', { name: 'Log', exact: true }).click()
  await expect(noConnection(page)).toBeVisible()
  await page.getByLabel('Odometer').fill('72600')
  await page.getByLabel('Came out, all').fill('40')
  await page.getByRole('button', { name: 'Note it' }).click()
  await expect(page.getByText(/72.?600 km/).first()).toBeVisible()
  await page.getByRole('link', { name: 'Bay', exact: true }).click()
  await expect(page.getByRole('heading', { name: /tape sheet/i }).first()).toBeVisible()
  await page.getByRole('link', { name: 'Circuit', exact: true }).click()
  // the analysis runs on the phone: a bore changed here changes the pressures here
  const state = page
    .getByRole('radio', { name: /^Pull/ })
    .or(page.getByRole('button', { name: /Pull/ }))
    .first()
  const pull = await state.textContent()
  await page.getByLabel('Breather line, bore').fill('6')
  await page.keyboard.press('Enter')
  await expect.poll(() => state.textContent()).not.toBe(pull)
  await page.getByRole('link', { name: 'Ivent, to the garage' }).click()
  await expect(page.getByText(/3 changes wait on this device/)).toBeVisible()
  await expect(noConnection(page)).toBeVisible()
  expect((await head(shop, 'Heron')).document.log).toHaveLength(logBefore)

  let sent = 0
  context.on('request', (r) => {
    if (r.url().endsWith('/changes')) sent++
  })
  shop.network.line('up')
  await expect(noConnection(page)).toHaveCount(0)
  await expect.poll(async () => (await head(shop, 'Heron')).document.log.length).toBe(logBefore + 1)
  expect((await head(shop, 'Heron')).document.fit?.ticks).toHaveLength(ticksBefore + 2)
  await expect(page.getByText(/changes? waits? on this device/)).toHaveCount(0)
  expect(sent).toBe(1)
  // by the page's own links: it is having the garage anew just now, and goes back there if that is cut short
  await page.getByRole('link', { name: 'Heron', exact: true }).click()
  await page.getByRole('link', { name: 'Fit', exact: true }).click()
  for (const name of [saved, waits]) await expect(page.getByRole('checkbox', { name, exact: true })).toBeChecked()
  // who did it is told at the bench
  const made = (await (await fetch(`${shop.ivent.url}/api/builds/${await idOf(shop, 'Heron')}/revisions`)).json()) as {
    revisions: { madeBy?: string }[]
  }
  expect(made.revisions.filter((r) => r.madeBy === 'Phone at the lift')).toHaveLength(4)
})

test('bench and phone see each other’s ticks and where the other is, also after a gap, with no reload', async ({
  bench,
  phone,
  shop,
}) => {
  const context = await phone.open()
  const page = await pair(context, { bench, shop }, 'Phone')
  const path = `/builds/${await idOf(shop, 'Bittern')}`
  const other = await bench.context().newPage()
  for (const [p, url] of [
    [page, shop.url],
    [other, shop.ivent.url],
  ] as const) {
    await p.goto(`${url}${path}/fit`)
    await p.evaluate(() => Object.assign(window, { neverReloaded: true }))
  }
  // where the phone is: in the head, and at its step
  await expect(other.getByText(/Phone\s*: Fit, step \d+/)).toBeVisible()
  await expect(other.getByText('Phone here')).toBeVisible()
  await expect(page.getByText(/Bench\s*: Fit, step \d+/)).toBeVisible()
  const tick = async (from: Page, to: Page) => {
    const box = from.getByRole('checkbox', { checked: false }).first()
    const name = (await box.getAttribute('aria-label'))!
    await box.click()
    await expect(to.getByRole('checkbox', { name, exact: true })).toBeChecked()
  }
  await tick(page, other)
  await tick(other, page)
  await other.getByRole('link', { name: 'Circuit', exact: true }).click()
  await expect(page.getByText(/Bench\s*: Circuit/)).toBeVisible()
  await other.getByRole('link', { name: 'Fit', exact: true }).click()
  // what is done while the phone has no connection is there when it has one again
  shop.network.line('down')
  const box = other.getByRole('checkbox', { checked: false }).first()
  const name = (await box.getAttribute('aria-label'))!
  await box.click()
  await expect(box.and(other.getByRole('checkbox', { name, exact: true }))).toHaveCount(0)
  await expect(page.getByRole('checkbox', { name, exact: true })).not.toBeChecked()
  shop.network.line('up')
  await expect(page.getByRole('checkbox', { name, exact: true })).toBeChecked()
  for (const p of [page, other]) expect(await p.evaluate(() => 'neverReloaded' in window)).toBe(true)
  // the garage follows too
  await page.getByRole('link', { name: 'Ivent, to the garage' }).click()
  await expect(other.getByText(/Phone\s*:/)).toHaveCount(0)
  const heron = page.getByRole('link', { name: 'Heron', exact: true })
  await expect(heron).toBeVisible()
  const id = await idOf(shop, 'Heron')
  await fetch(`${shop.ivent.url}/api/builds/${id}`, { method: 'DELETE' })
  await expect(heron).toHaveCount(0)
  await fetch(`${shop.ivent.url}/api/builds/${id}`, {
    method: 'PATCH',
    headers: { 'content-type': 'application/json' },
    body: '{"removed":false}',
  })
  await expect(heron).toBeVisible()
  await other.close()
})

test('what both changed while there was no connection is shown with both sides', async ({ bench, phone, shop }) => {
  const context = await phone.open()
  const page = await pair(context, { bench, shop }, 'Phone under the car')
  const path = `/builds/${await idOf(shop, 'Godwit')}/circuit`
  await page.goto(shop.url + path)
  const bore = (p: Page) => p.getByLabel('Breather line, bore')
  await expect(bore(page)).toBeEnabled()
  await expect.poll(async () => (await keptPages(page)).includes(path)).toBe(true)
  shop.network.line('down')
  await bore(page).fill('17')
  await page.keyboard.press('Enter')
  const other = await bench.context().newPage()
  await other.goto(shop.ivent.url + path)
  await bore(other).fill('14')
  await other.keyboard.press('Enter')
  await expect(other.getByText('Saved', { exact: true })).toBeAttached()
  await expect.poll(async () => JSON.stringify((await head(shop, 'Godwit')).document)).toContain('"boreMm":14,')
  await other.close()
  shop.network.line('up')
  const dialog = page.getByRole('dialog', { name: /changed on another device/ })
  await expect(dialog).toBeVisible()
  await expect(dialog.getByRole('row', { name: /14.*17/ })).toBeVisible()
  // what was decided is sent when there is a connection again
  shop.network.line('down')
  await dialog.getByRole('button', { name: 'Put mine in its place' }).click()
  await expect(dialog).toHaveCount(0)
  await expect(noConnection(page)).toBeVisible()
  shop.network.line('up')
  await expect.poll(async () => JSON.stringify((await head(shop, 'Godwit')).document)).toContain('"boreMm":17,')
})

test('a device does what it may; put out at the bench it gets nothing more, and loses what was kept on it', async ({
  bench,
  phone,
  shop,
}) => {
  const context = await phone.open()
  const page = await pair(context, { bench, shop }, 'Apprentice', 'Tick and log')
  const path = `/builds/${await idOf(shop, 'Wren')}`
  await page.goto(`${shop.url}${path}/circuit`)
  await page
    .getByLabel(/line, bore/)
    .first()
    .fill('0.5')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/This device ticks and logs/).first()).toBeVisible()
  await page.goto(`${shop.url}${path}/fit`)
  const ticks = (await head(shop, 'Wren')).document.fit?.ticks.length ?? 0
  await page.getByRole('checkbox', { checked: false }).first().click()
  await expect.poll(async () => (await head(shop, 'Wren')).document.fit?.ticks.length).toBe(ticks + 1)
  // what the browser would hold back, the server refuses
  const status = (url: string, method: string, body?: object) =>
    page.evaluate(
      ([u, m, b]) =>
        fetch(u, { method: m, headers: { 'content-type': 'application/json' }, body: b }).then((r) => r.status),
      [url, method, body && JSON.stringify(body)] as const,
    )
  const bore = { id: crypto.randomUUID(), name: 'x', edits: [{ op: 'set', path: ['engine', 'boreMm'], value: 90 }] }
  expect(await status(`/api${path}/changes`, 'POST', { base: 1, changes: [bore] })).toBe(403)
  expect(await status(`/api${path}`, 'DELETE')).toBe(403)
  expect(await status('/api/devices', 'GET')).toBe(403)
  expect(await status('/api/backup', 'GET')).toBe(403)

  await expect.poll(async () => (await keptPages(page)).length).toBeGreaterThan(5)
  await bench.getByRole('button', { name: 'Put Apprentice out' }).click()
  await expect(bench.getByText(/Apprentice is out/)).toBeVisible()
  // what it ticks now is refused and waits on it
  await page.getByRole('checkbox', { checked: false }).first().click()
  await expect(page.getByText('1 waiting to send')).toBeVisible()
  expect(await status(`/api${path}`, 'GET')).toBe(401)
  await page.goto(`${shop.url}${path}/fit`)
  await expect(page.getByRole('alert').filter({ hasText: /was put out at the bench/ })).toBeVisible()
  await expect.poll(async () => (await keptPages(page)).length).toBe(0)
  expect((await head(shop, 'Wren')).document.fit?.ticks).toHaveLength(ticks + 1)
  // paired again it sends what waited
  const { words } = await openCode(bench, shop, 'Tick and log')
  await page.getByLabel('What is this device called?').fill('Apprentice')
  await page.getByLabel('The six words').fill(words.toUpperCase())
  await page.getByRole('button', { name: 'Pair it' }).click()
  await expect.poll(async () => (await head(shop, 'Wren')).document.fit?.ticks.length).toBe(ticks + 2)
})

test('a newer version says so, and takes over without losing what waits', async ({ bench, phone, shop }) => {
  const context = await phone.open()
  const page = await pair(context, { bench, shop }, 'Old phone')
  const path = `/builds/${await idOf(shop, 'Dunlin')}/fit`
  // the page registers its own worker when it is at rest: done after the newer one, that would be the newer of the two
  await page.addInitScript(() => {
    const own = navigator.serviceWorker.register.bind(navigator.serviceWorker)
    navigator.serviceWorker.register = async (...asked) => {
      const registration = await own(...asked)
      document.documentElement.setAttribute('data-registered', '')
      return registration
    }
  })
  await page.goto(shop.url + path)
  await expect(page.locator('html[data-registered]')).toBeAttached()
  await expect.poll(async () => (await keptPages(page)).includes(path)).toBe(true)
  const ticks = (await head(shop, 'Dunlin')).document.fit?.ticks.length ?? 0
  // another script at the same scope is a newer version to the browser
  await page.evaluate(() => navigator.serviceWorker.register('/service-worker.js?newer').then(() => undefined))
  const over = page.getByRole('button', { name: 'Change over' })
  await expect(over).toBeVisible()
  shop.network.line('down')
  await page.getByRole('checkbox', { checked: false }).first().click()
  await expect(page.getByText('1 waiting to send')).toBeVisible()
  // what the page computes with has come through the worker that is to go: one that is still at that goes later
  await expect.poll(() => page.workers().length).toBeGreaterThan(0)
  await page.workers()[0]!.evaluate(() => undefined)
  // a page that is waited for in vain does not hold it up
  await page.evaluate(async () => {
    for (const name of await caches.keys()) await (await caches.open(name)).delete('/')
    const { active } = await navigator.serviceWorker.ready
    active!.postMessage({ type: 'keep', paths: ['/'] }, [new MessageChannel().port2])
  })
  await over.click()
  await expect
    .poll(() => page.evaluate(() => navigator.serviceWorker.controller?.scriptURL).catch(() => undefined))
    .toContain('?newer')
  await expect(page.getByText('1 waiting to send')).toBeVisible()
  shop.network.line('up')
  await expect.poll(async () => (await head(shop, 'Dunlin')).document.fit?.ticks.length).toBe(ticks + 1)
  await expect(page.getByText('waiting to send')).toHaveCount(0)
  expect(await keptPages(page)).toContain(path)
})

test('a device whose store is full says so', async ({ bench, phone, shop }) => {
  const context = await phone.open()
  const page = await pair(context, { bench, shop }, 'Full phone')
  const cdp = await context.newCDPSession(page)
  await cdp.send('Storage.overrideQuotaForOrigin', { origin: shop.url, quotaSize: 1000 })
  await page.goto(`${shop.url}/builds/${await idOf(shop, 'Wren')}/fit`)
  await expect(page.getByText(/This device’s store is full/)).toBeVisible()
  await page.getByRole('checkbox', { checked: false }).first().click()
  // what is entered is saved all the same
  await expect(page.getByText('waiting to send')).toHaveCount(0)
})

test('wrong and used codes are refused, guessing is slowed and ends the code', async ({ bench, phone, shop }) => {
  const context = await phone.open()
  const page = await context.newPage()
  const { words, picture } = await openCode(bench, shop, 'Look')
  await page.goto(`${shop.url}/pair`)
  const tryWords = async (text: string) => {
    await page.getByLabel('The six words').fill(text)
    await page.getByRole('button', { name: 'Pair it' }).click()
  }
  await tryWords('one two three four five six')
  await expect(page.getByText('This is not the code that the bench shows.')).toBeVisible()
  await expect(bench.getByText(/One wrong code was tried/)).toBeVisible()
  expect(shop.ivent.output).toMatch(/Pairing: a wrong code from .*; 4 tries left/)
  await tryWords(words)
  await expect(page.getByRole('link', { name: 'Heron', exact: true })).toBeVisible()
  // used up, by the picture too
  const again = await phone.open()
  const other = await again.newPage()
  await other.goto(picture)
  await other.getByRole('button', { name: 'Pair it' }).click()
  await expect(other.getByText(/This code was used/)).toBeVisible()
})

test('a logger is let in by words, to log alone; one that is not let in and one that was put out are refused', async ({
  bench,
  shop,
}) => {
  const id = await idOf(shop, 'Heron')
  const folder = mkdtempSync(join(tmpdir(), 'ivent-logger-'))
  const file = join(folder, 'build.json')
  writeFileSync(file, JSON.stringify((await head(shop, 'Heron')).document))
  const address = `${shop.url}/api/builds/${id}/logger`
  const log = (...options: readonly string[]) => {
    const child = spawn(
      './ivent',
      ['logger', file, '--drive', 'idle', '--seconds', '600', '--to', address, ...options],
      {
        env: { ...process.env, NODE_EXTRA_CA_CERTS: shop.authority },
      },
    )
    let said = ''
    child.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()))
    const ended = new Promise<number | null>((resolve) => child.on('exit', resolve))
    return { said: () => said, ended }
  }
  const stranger = log()
  expect(await stranger.ended).toBe(2)
  expect(stranger.said()).toContain('refuses the lines (401)')
  const { words } = await openCode(bench, shop, 'Tick and log')
  const logger = log('--code', words)
  await expect.poll(logger.said).toContain('Paired.')
  const held = async () =>
    ((await (await fetch(`${shop.ivent.url}/api/builds/${id}/logger`)).json()) as { last: number } | null)?.last ?? 0
  await expect.poll(held).toBeGreaterThan(20)
  const list = (await (await fetch(`${shop.ivent.url}/api/devices`)).json()) as { devices: Listed[] }
  const device = list.devices.find((d) => d.name === 'Logger')!
  await fetch(`${shop.ivent.url}/api/devices/${device.id}`, { method: 'DELETE' })
  expect(await logger.ended).toBe(2)
  expect(logger.said()).toContain('refuses the lines')
  rmSync(folder, { recursive: true, force: true })
})

test('a stranger in the network gets the trust page and the pairing page, and nothing else', async ({
  shop,
  bench,
}) => {
  await expect(bench.getByRole('button', { name: /Let a|Let another/ })).toBeVisible()
  const { network, ivent, authority, url } = shop
  const names = (await ivent.builds()).map((b) => b.name)
  const curl = (...args: readonly string[]) =>
    network.exec('curl', '-s', '-i', '--max-time', '20', '--cacert', authority, ...args)
  const statusOf = (answer: string) => Number(/^HTTP\/[\d.]+ (\d+)/.exec(answer)![1])
  const html = ['-H', 'accept: text/html']
  const build = `/builds/${(await ivent.builds())[0]!.id}`
  const answers: string[] = []
  for (const path of ['/', build, `${build}/fit`, '/devices', '/help', '/new']) {
    const answer = curl(...html, url + path)
    expect([path, statusOf(answer), /location: (\S+)/i.exec(answer)?.[1]]).toEqual([path, 303, '/pair'])
    answers.push(answer)
  }
  for (const path of [
    '/api/builds',
    `/api${build}`,
    '/api/health',
    '/api/backup',
    '/service-worker.js',
    '/manifest.webmanifest',
    '/icon-192.png',
    '/_next/static/chunks/x.js',
    '/_next/image?url=x',
  ]) {
    const answer = curl(url + path)
    expect([path, statusOf(answer)]).toEqual([path, 401])
    answers.push(answer)
  }
  // what claims to be somebody is nobody
  for (const claim of [
    'x-ivent-asker: %7B%22rights%22%3A%22all%22%7D',
    'cookie: __Host-ivent=guess',
    'x-forwarded-for: 127.0.0.1',
  ])
    expect(statusOf(curl('-H', claim, `${url}/api/builds`))).toBe(401)
  const pairing = curl(`${url}/pair`)
  expect(statusOf(pairing)).toBe(200)
  // another name for the same place (rebinding), another origin
  expect(statusOf(curl('-H', 'host: elsewhere.example', `${url}/pair`))).toBe(421)
  const post = ['-X', 'POST', '-H', 'content-type: application/json', '-d', '{"name":"x","code":"y"}']
  expect(statusOf(curl(...post, '-H', 'origin: https://elsewhere.example', `${url}/pair`))).toBe(403)
  // plain HTTP tells how the certificate is trusted, and gives it
  const plain = `http://${network.bench}:${ivent.port + 2}`
  const trust = curl(`${plain}/`)
  expect(statusOf(trust)).toBe(200)
  const fingerprint = execFileSync('openssl', ['x509', '-in', authority, '-noout', '-fingerprint', '-sha256'])
  expect(trust).toContain(fingerprint.toString().trim().split('=')[1]!.replaceAll(':', ' '))
  expect(statusOf(curl(`${plain}/ivent-authority.crt`))).toBe(200)
  expect(statusOf(curl(`${plain}${build}`))).toBe(404)
  expect(statusOf(curl('-H', 'host: elsewhere.example', `${plain}/`))).toBe(421)
  for (const answer of [...answers, pairing, trust]) for (const name of names) expect(answer).not.toContain(name)
  // who comes from the internet is cut off before a word is said
  network.addForeignAddress('203.0.113.9')
  expect(() => curl('--interface', '203.0.113.9', `${url}/pair`)).toThrow()
  expect(() => curl('--interface', '203.0.113.9', `${plain}/`)).toThrow()
  // the bench's own way in is not there
  expect(() => network.exec('curl', '-s', '--max-time', '5', `http://${network.bench}:${ivent.port}/`)).toThrow()
})

test('a phone that does not trust the certificate works while the page is open, and says what it lacks', async ({
  bench,
  shop,
}) => {
  const careless = new Phone(shop.network)
  try {
    const context = await careless.open({ careless: true })
    const page = await pair(context, { bench, shop }, 'Careless phone')
    await expect(page.getByText(/does not trust Ivent’s certificate yet/)).toBeVisible()
    await page.getByRole('link', { name: 'Heron', exact: true }).click()
    await expect(page.getByRole('heading', { name: 'Heron' })).toBeVisible()
  } finally {
    await careless.end()
  }
})

test('axe finds nothing serious on the pages of pairing', async ({ bench, phone, shop }) => {
  await openCode(bench, shop, 'Look')
  const context = await phone.open()
  const page = await context.newPage()
  const found: string[] = []
  found.push(...(await seriousFindings(bench)))
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme })
    for (const url of [`http://${shop.network.bench}:${shop.ivent.port + 2}/`, `${shop.url}/pair`]) {
      await page.goto(url)
      found.push(...(await seriousFindings(page)))
    }
  }
  expect(found).toEqual([])
})

test('an address that the machine gets later is certified too', async ({ shop, phone }) => {
  const address = shop.network.addAddress(77)
  const context = await phone.open()
  const page = await context.newPage()
  await expect(async () => {
    await page.goto(`https://${address}:${shop.ivent.port + 1}/`, { timeout: 5000 })
  }).toPass()
  await expect(page.getByRole('heading', { name: 'Ivent: pair this device' })).toBeVisible()
})

test('under a thumb: targets of 48 px, a glove’s width from tick to tick, a drawing as large as the screen', async ({
  bench,
  phone,
  shop,
}) => {
  const context = await phone.open()
  const page = await pair(context, { bench, shop }, 'Big hands')
  const path = `/builds/${await idOf(shop, 'Heron')}`
  for (const station of ['fit', 'log']) {
    await page.goto(`${shop.url}${path}/${station}`)
    await page.waitForLoadState('networkidle')
    const small = await page
      .locator('main')
      .locator('button:not(.opens), a, input, select, summary')
      .evaluateAll((all) =>
        all.flatMap((e) => {
          const { width, height } = e.getBoundingClientRect()
          const label = e.closest('label')?.getBoundingClientRect()
          const seen = width > 1 && height > 1
          return seen && Math.max(height, label?.height ?? 0) < 48
            ? [`${e.tagName} ${e.textContent?.slice(0, 30) ?? ''} ${Math.round(height)}`]
            : []
        }),
      )
    expect([station, small]).toEqual([station, []])
  }
  await page.goto(`${shop.url}/builds/${await idOf(shop, 'Godwit')}/fit`)
  const ticks = await page.getByRole('checkbox').evaluateAll((all) => all.map((e) => e.getBoundingClientRect().top))
  for (const [k, top] of ticks.slice(1).entries()) expect(top - ticks[k]!).toBeGreaterThanOrEqual(96)
  const step = page
    .getByRole('listitem')
    .filter({ has: page.locator('.large-drawing') })
    .filter({ has: page.getByRole('checkbox', { checked: false }) })
    .first()
  const drawing = step.getByRole('button', { name: /^Drawing large/ })
  if (!(await drawing.isVisible())) await step.getByRole('button').first().click()
  await drawing.click()
  const large = (await page.getByRole('dialog').getByRole('img').boundingBox())!
  expect(large.height).toBeGreaterThan(700)
  for (const [from, to, most] of [
    [large.x, large.x + large.width, 390],
    [large.y, large.y + large.height, 844],
  ] as const) {
    expect(from).toBeGreaterThanOrEqual(0)
    expect(to).toBeLessThanOrEqual(most)
  }
})
