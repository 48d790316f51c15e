/** Nothing that was typed is lost, whatever happens to server, line, tab or reload. */
import { batches, conflicts, firstStarts, kills, mutations, restores } from './siege'
import { request } from 'node:http'
import type { Page } from '@playwright/test'
import { expect, Ivent, withServer } from './server'

/** What is typed here is looked for by value. */
const test = withServer()
const CHANGES = '**/api/builds/*/changes'
const bore = (page: Page, line = 'Breather line') => page.getByLabel(`${line}, bore`)
async function type(page: Page, value: string, line?: string): Promise<void> {
  await bore(page, line).fill(value)
  await page.keyboard.press('Enter')
}
type Doc = { document: { variants: { lines: { name: string; boreMm: number }[] }[] } }
/** Bore of a line as the server has it. */
async function kept(url: string, line = 'Breather line'): Promise<number | undefined> {
  const { document } = (await (await fetch(url.replace('/builds/', '/api/builds/'))).json()) as Doc
  return document.variants[0]!.lines.find((l) => l.name === line)?.boreMm
}

test('a save that fails is in view at every width, waits on the device, and is sent from the garage when the server is back', async ({
  context,
}) => {
  const ivent = new Ivent()
  try {
    expect(await ivent.start()).toBe('answers')
    const url = await ivent.build('Heron')
    const page = await context.newPage()
    await page.goto(`${url}/circuit`)
    await ivent.stop('SIGKILL')
    await type(page, '17')
    await expect(page.getByText('Not saved, 1 waiting')).toBeVisible()
    await page.setViewportSize({ width: 390, height: 800 })
    await expect(page.getByText('Not saved, 1 waiting')).toBeVisible()
    await page.close()
    expect(await ivent.start('start')).toBe('answers')
    expect(await kept(url)).not.toBe(17)
    const garage = await context.newPage()
    await garage.route(CHANGES, (route) =>
      route.fulfill({ status: 507, contentType: 'application/json', body: '{"error":"The disk is full."}' }),
    )
    await garage.goto(ivent.url)
    await expect(garage.getByText(/1 change waits on this device/)).toBeVisible()
    await garage.unroute(CHANGES)
    let sent = 0
    garage.on('request', (r) => {
      if (r.url().endsWith('/changes')) sent++
    })
    await garage.reload()
    await expect.poll(() => kept(url)).toBe(17)
    await garage.getByRole('link', { name: 'Heron', exact: true }).click()
    await expect(bore(garage)).toHaveValue('17')
    await expect(garage.getByText('Saved', { exact: true })).toBeVisible()
    expect(sent).toBe(1)
  } finally {
    await ivent.end()
  }
})

test('typed, Enter and a reload at once: the new value stands, is saved, clashes with nothing, and undo still takes it back', async ({
  page,
  ivent,
}) => {
  const url = await ivent.build('Heron')
  await page.goto(`${url}/circuit`)
  const before = await bore(page).inputValue()
  await type(page, '18')
  await page.reload()
  await expect(bore(page)).toHaveValue('18')
  await type(page, '18.5')
  await expect.poll(() => kept(url)).toBe(18.5)
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.reload()
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(bore(page)).toHaveValue(before)
  await expect.poll(() => kept(url)).toBe(Number(before))
})

type Edit = { op: string; path: string[]; value?: unknown }
/** Another device makes a change to the first plan. */
async function elsewhere(url: string, edits: (lineId: (name: string) => string) => Edit[]): Promise<void> {
  const at = url.replace('/builds/', '/api/builds/')
  type Lines = { revision: number; document: { variants: { lines: { id: string; name: string }[] }[] } }
  const { revision, document } = (await (await fetch(at)).json()) as Lines
  const lineId = (name: string) => document.variants[0]!.lines.find((l) => l.name === name)!.id
  const change = { id: crypto.randomUUID(), name: 'elsewhere', edits: edits(lineId) }
  const answer = await fetch(`${at}/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ base: revision, changes: [change] }),
  })
  expect(answer.status).toBe(200)
}
/** The lines whose bore can be typed, as they stand. */
const lineNames = (page: Page) =>
  page
    .getByLabel(/, bore$/)
    .evaluateAll((all) =>
      all.map((e) => (e as HTMLInputElement).labels?.[0]?.textContent?.replace(/, bore$/, '') ?? ''),
    )

test('three hoses typed without a line, the second changed by another device: all three are what they should be', async ({
  page,
  ivent,
}) => {
  const url = await ivent.build('Heron')
  await page.goto(`${url}/circuit`)
  const [first, second, third] = (await lineNames(page)) as [string, string, string]
  await page.route(CHANGES, (route) => route.abort())
  await type(page, '9', first)
  await type(page, '10', second)
  await type(page, '11', third)
  await expect(page.getByText('Not saved, 3 waiting')).toBeVisible()
  await elsewhere(url, (id) => [{ op: 'set', path: ['variants', 'a', 'lines', id(second), 'boreMm'], value: 14 }])
  await page.unroute(CHANGES)
  await expect(page.getByRole('dialog', { name: 'The same thing was changed on another device' })).toBeVisible()
  // what came before it is in the head already
  expect([await kept(url, first), await kept(url, second)]).toEqual([9, 14])
  await page.getByRole('button', { name: 'Put mine in its place' }).click()
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  expect([await kept(url, first), await kept(url, second), await kept(url, third)]).toEqual([9, 10, 11])
  await page.reload()
  await expect(bore(page, third)).toHaveValue('11')
  // undo does not take back what another device has made of it since, unasked
  await elsewhere(url, (id) => [{ op: 'set', path: ['variants', 'a', 'lines', id(third), 'boreMm'], value: 15 }])
  await type(page, '12', first)
  await expect(bore(page, third)).toHaveValue('15')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(bore(page, first)).toHaveValue('9')
  await page.getByRole('button', { name: 'Undo' }).click()
  const asked = page.getByRole('dialog', { name: 'Undo would take back what another device did' })
  await expect(asked).toBeVisible()
  await asked.getByRole('button', { name: 'Leave it as it is' }).click()
  await expect(asked).toHaveCount(0)
  await expect(bore(page, third)).toHaveValue('15')
  await expect.poll(() => kept(url, third)).toBe(15)
})

test('what was typed for something that another device took away is told at the garage and at the build, and kept', async ({
  context,
}) => {
  const ivent = new Ivent()
  try {
    expect(await ivent.start()).toBe('answers')
    const url = await ivent.build('Heron')
    const page = await context.newPage()
    await page.goto(`${url}/circuit`)
    const [first, second] = (await lineNames(page)) as [string, string]
    await ivent.stop('SIGKILL')
    await type(page, '9', first)
    await type(page, '10', second)
    await expect(page.getByText('Not saved, 2 waiting')).toBeVisible()
    await page.close()
    expect(await ivent.start('start')).toBe('answers')
    await elsewhere(url, (id) => [{ op: 'remove', path: ['variants', 'a', 'lines', id(first)] }])
    const garage = await context.newPage()
    await garage.goto(ivent.url)
    await expect(garage.getByText(/2 changes wait on this device.*Open it to decide/)).toBeVisible()
    await garage.getByRole('link', { name: 'Heron', exact: true }).click()
    const dialog = garage.getByRole('dialog', { name: 'What you changed was taken away or replaced on another device' })
    await expect(dialog).toBeVisible()
    await expect(dialog).toContainText('Yours: Dirty line, bore: 9 mm.')
    await dialog.getByRole('button', { name: 'Set mine aside' }).click()
    await expect(dialog).toHaveCount(0)
    await expect.poll(() => kept(url, second)).toBe(10)
    const list = (await (await fetch(`${url.replace('/builds/', '/api/builds/')}/revisions`)).json()) as {
      setAside: { edits: Edit[] }[]
    }
    expect(list.setAside.map((a) => a.edits[0]!.value)).toEqual([9])
  } finally {
    await ivent.end()
  }
})

test('the garage waits for no build: one that was changed keeps its figures until the new ones are there', async ({
  page,
  ivent,
}) => {
  const url = await ivent.build('Dunlin')
  const ticket = page.getByRole('listitem').filter({ has: page.getByRole('link', { name: 'Dunlin', exact: true }) })
  await page.goto(ivent.url)
  await expect(ticket.getByText(/look within/)).toBeVisible()
  await elsewhere(url, () => [{ op: 'set', path: ['about'], value: 'A single, changed' }])
  await page.reload()
  await expect(ticket.getByText('Changed since: being worked out again…')).toBeVisible()
  await expect(ticket.getByText(/look within/)).toBeVisible()
  await expect(ticket.getByText('A single, changed')).toBeVisible()
  await expect(ticket.getByText('being worked out')).toHaveCount(0)
})

test('an upload that hangs holds no page', async ({ ivent }) => {
  const url = await ivent.build('Heron')
  const id = url.split('/').at(-1)!
  const hanging = request(`${ivent.url}/api/builds/${id}/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'content-length': 5000 },
  })
  hanging.on('error', () => undefined)
  hanging.write('{"base":')
  const ended = new Promise((resolve) => hanging.once('close', resolve))
  // answered while the other still hangs
  expect((await fetch(`${url}/circuit`)).status).toBe(200)
  expect(hanging.destroyed).toBe(false)
  hanging.destroy()
  await ended
})

test('a field takes nothing before the page can keep it', async ({ page, ivent }) => {
  const url = await ivent.build('Heron')
  await page.route('**/*.js*', async (route) => {
    await new Promise((go) => setTimeout(go, 1500))
    await route.continue()
  })
  await page.goto(`${url}/circuit`, { waitUntil: 'commit' })
  await expect(bore(page)).toBeDisabled()
  await type(page, '18')
  await expect.poll(() => kept(url)).toBe(18)
})

test('an edit during a slow save clashes with nothing, and a lost answer is no conflict', async ({ page, ivent }) => {
  const url = await ivent.build('Heron')
  await page.goto(`${url}/circuit`)
  let n = 0
  await page.route(CHANGES, async (route) => {
    n++
    if (n === 1) {
      // saved, but the answer is lost
      await route.fetch()
      await route.abort()
    } else {
      await new Promise((resolve) => setTimeout(resolve, n === 2 ? 1500 : 0))
      await route.continue()
    }
  })
  await type(page, '13')
  await expect(page.getByText('Not saved, 1 waiting')).toBeVisible()
  await expect.poll(() => n).toBe(2)
  await type(page, '14')
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await expect(page.getByRole('dialog')).toHaveCount(0)
  expect(await kept(url)).toBe(14)
})

test('removed builds and backups are found after a reload, and put back', async ({ page, ivent }) => {
  await page.goto(ivent.url)
  await page.getByRole('button', { name: 'More to do with Dunlin' }).click()
  await page.getByRole('button', { name: 'Take out of the garage' }).click()
  await expect(page.getByText('Dunlin is out of the garage')).toBeVisible()
  await page.reload()
  await page.getByRole('button', { name: /removed builds/i }).click()
  await page.getByRole('button', { name: 'Put back Dunlin' }).click()
  await expect(page.getByText('Dunlin is back in the garage.')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('heading', { name: 'Dunlin' })).toBeVisible()
})

test('no other page frames it, writes to it or runs a script in it', async ({ page, ivent }) => {
  const answer = await fetch(ivent.url)
  const policy = answer.headers.get('content-security-policy') ?? ''
  expect(policy).toMatch(/frame-ancestors 'none'/)
  expect(policy).toMatch(/script-src 'self' 'nonce-[\w+/=]+' 'strict-dynamic';/)
  expect(policy).not.toMatch(/script-src[^;]*unsafe/)
  for (const [name, value] of [
    ['x-content-type-options', 'nosniff'],
    ['x-frame-options', 'DENY'],
    ['referrer-policy', 'no-referrer'],
  ] as const)
    expect(answer.headers.get(name)).toBe(value)
  expect((await fetch(`${ivent.url}/api/health`)).headers.get('x-content-type-options')).toBe('nosniff')
  const [first] = await ivent.builds()
  const remove = (headers: Record<string, string>) =>
    fetch(`${ivent.url}/api/builds/${first!.id}`, { method: 'DELETE', headers })
  expect((await remove({ origin: 'http://elsewhere.example' })).status).toBe(403)
  expect((await remove({ 'sec-fetch-site': 'cross-site' })).status).toBe(403)
  const form = await fetch(`${ivent.url}/api/builds`, {
    method: 'POST',
    headers: { 'content-type': 'text/plain' },
    body: '{}',
  })
  expect(form.status).toBe(415)
  // an inline script without the page's nonce does not run
  await page.goto(ivent.url)
  await page.evaluate(() => {
    const script = document.createElement('div')
    script.innerHTML = '<img src=x onerror="window.hurt = true">'
    document.body.append(script)
  })
  await page.waitForTimeout(300)
  expect(await page.evaluate(() => (window as { hurt?: boolean }).hurt)).toBeUndefined()
})

test('odd requests are answered as JSON with a reason', async ({ ivent }) => {
  const [first] = await ivent.builds()
  const at = `${ivent.url}/api/builds/${first!.id}`
  const post = (path: string, body: unknown) =>
    fetch(at + path, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: typeof body === 'string' ? body : JSON.stringify(body),
    })
  const entry = { id: 'x', kind: 'checked', odometerKm: 1, part: 'can' }
  const change = (name: string) => ({
    base: 1,
    changes: [{ id: crypto.randomUUID(), name, edits: [{ op: 'set', path: ['name'], value: name }] }],
  })
  for (const [answer, status] of [
    [await fetch(`${ivent.url}/api/builds/%`), 400],
    [await post('/changes', { base: 2 ** 31, changes: [] }), 400],
    [await post('/changes', change('a\0b')), 400],
    [await post('/log', { ...entry, date: '2026-99-99' }), 422],
    [await post('/log', { ...entry, date: '2026-02-31' }), 422],
    [await post('/log', { ...entry, date: '2026-02-28', note: 'a\0b' }), 400],
    [await fetch(`${ivent.url}/api/builds/nothing`), 404],
  ] as const) {
    const reply = (await answer.json()) as { error?: string }
    expect([answer.status, (reply.error ?? '').length > 10]).toEqual([status, true])
  }
})

test('put under siege: killed while it saves, written to by two, fed with spoilt files', async () => {
  const ivent = new Ivent()
  try {
    expect(await ivent.start()).toBe('answers')
    expect((await mutations(ivent, 150)).broken).toEqual([])
    expect(await conflicts(ivent, 15)).toEqual({ rounds: 15, lost: 0 })
    expect(await batches(ivent, 12)).toMatchObject({ rounds: 24, lost: 0 })
    expect(await restores(ivent, 1)).toMatchObject({ lost: 0, untrue: 0 })
    const killed = await kills(ivent, 4)
    expect(killed.acknowledged).toBeGreaterThan(4)
    expect(killed.lost).toBe(0)
    expect(await firstStarts(() => new Ivent(), 2)).toEqual({ rounds: 2, bricked: 0 })
  } finally {
    await ivent.end()
  }
})

test('a page that was read before the last change was saved shows it all the same', async ({ page, ivent }) => {
  const url = `${await ivent.build('Heron')}/circuit`
  // what the server told of the build before
  const old = await page.request.get(url)
  const [headers, body] = [old.headers(), await old.body()]
  await page.goto(url)
  const length = page.getByLabel('Breather line, length')
  const was = await length.inputValue()
  await length.fill('777')
  await length.press('Enter')
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await expect(async () => {
    const now = (await (
      await page.request.get(`${url.replace('/circuit', '').replace('/builds/', '/api/builds/')}`)
    ).json()) as unknown
    expect(JSON.stringify(now)).toContain('777')
  }).toPass()
  await page.route(url, (route) => route.fulfill({ status: 200, headers, body }))
  await page.reload()
  await expect(length).toHaveValue('777')
  await page.unroute(url)
  // and the next change meets nobody
  await length.fill(was)
  await length.press('Enter')
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await page.reload()
  await expect(length).toHaveValue(was)
})

test('a part of the program that does not come over is had again by itself', async ({ page, ivent }) => {
  // what is fetched ahead would have it already
  await page.route('**/*', (route) =>
    route.request().headers()['next-router-prefetch'] ? route.abort() : route.continue(),
  )
  await page.goto(`${await ivent.build('Heron')}/fit`)
  await expect(page.getByRole('link', { name: 'Ivent, to the garage' })).toBeVisible()
  // plan and state are in the address once the page is live: a click before that loads the garage as a new document
  await expect(page).toHaveURL(/state=/)
  let cut = 0
  await page.route('**/_next/static/chunks/*.js', (route) => {
    cut++
    return route.abort()
  })
  const broke = page.waitForEvent('console', (message) => message.text().includes('ChunkLoadError'))
  await page.getByRole('link', { name: 'Ivent, to the garage' }).click()
  await broke
  await page.unroute('**/_next/static/chunks/*.js')
  await expect(page.getByRole('link', { name: 'Bittern', exact: true })).toBeVisible()
  expect(cut).toBeGreaterThan(0)
})
