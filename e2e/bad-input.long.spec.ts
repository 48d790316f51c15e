/** What goes wrong in a workshop, and the clear answer to each. */
import { expect, test, Ivent } from './server'
import { readFileSync } from 'node:fs'

test.describe('a field', () => {
  for (const [typed, answer] of [
    ['', /Type a number/],
    ['abc', /not a number/],
    ['NaN', /not a number/],
    ['-5', /At least/],
    ['1e9', /At most/],
    ['12 kPa', /not a unit here/],
    ['5/0 in', /not a number/],
  ] as const) {
    test(`says what is wrong with ${JSON.stringify(typed)} and keeps what was`, async ({ page, ivent }) => {
      await page.goto(`${await ivent.build('Heron')}/circuit`)
      const field = page.getByLabel('Breather line, bore')
      await field.fill(typed)
      await expect(page.getByRole('alert').filter({ hasText: answer })).toBeVisible()
      await expect(field).toHaveAttribute('aria-invalid', 'true')
      await field.press('Escape')
      await expect(field).toHaveValue('19')
      expect(await page.locator('body').innerText()).not.toMatch(/NaN|Infinity|undefined/)
    })
  }
})

test('a hose of no bore shuts its way, said in words and without a NaN', async ({ page, ivent }) => {
  await page.goto(`${await ivent.build('Heron')}/circuit`)
  for (const line of ['Breather line', 'Dirty line']) {
    await page.getByLabel(`${line}, bore`).fill('0')
    await page.keyboard.press('Enter')
  }
  await page.keyboard.press('5')
  await expect(page.getByText(/has no way out/).first()).toBeVisible()
  await expect(page.getByText('no answer').filter({ visible: true }).first()).toBeVisible()
  expect(await page.locator('body').innerText()).not.toMatch(/NaN|Infinity|undefined/)
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('button', { name: 'Undo' }).click()
})

async function bringIn(page: import('@playwright/test').Page, name: string, text: string): Promise<void> {
  await page
    .getByLabel('Build files to bring in')
    .setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) })
}

test('a file that is cut off, hostile or too new is refused with a list, and changes nothing', async ({
  page,
  ivent,
}) => {
  const exported = await (
    await fetch(`${(await ivent.build('Wren')).replace('/builds/', '/api/builds/')}/export`)
  ).text()
  const before = (await ivent.builds()).length
  const doc = () =>
    JSON.parse(exported) as {
      version: number
      variants: { parts: unknown[]; lines: { boreMm: unknown; from: { part: string } }[] }[]
    }
  const hostile = doc()
  hostile.variants[0]!.lines[0]!.from.part = '__proto__'
  hostile.variants[0]!.lines[1]!.boreMm = '12'
  const huge = doc()
  huge.variants[0]!.parts = Array.from({ length: 5000 }, (_, i) => ({ kind: 'tee', id: `t${i}`, name: 't', ports: [] }))
  const files: [string, string, RegExp][] = [
    ['cut.json', exported.slice(0, exported.length / 2), /may be cut off/],
    ['hostile.json', JSON.stringify(hostile), /does not exist|must be a number/],
    ['huge.json', JSON.stringify(huge), /has 5000; at most 80/],
    ['newer.json', JSON.stringify({ ...doc(), version: 99 }), /Use a newer Ivent/],
    ['other.json', '[1, 2, 3]', /a JSON object is expected/],
    ['notes.json', '{"format":"recipe"}', /not a file of a build/],
  ]
  await page.goto(ivent.url)
  for (const [name, text, answer] of files) {
    await bringIn(page, name, text)
    const dialog = page.getByRole('dialog')
    await expect(dialog).toContainText(`${name} was not brought in`)
    await expect(dialog).toContainText(answer)
    await expect(dialog).toContainText('Nothing was changed')
    await page.keyboard.press('Escape')
    await expect(dialog).toHaveCount(0)
  }
  expect((await ivent.builds()).length).toBe(before)
})

test('a file that is chosen before the page is live is read once it is', async ({ page, ivent }) => {
  let release = (): void => undefined
  const held = new Promise<void>((resolve) => (release = resolve))
  await page.route('**/_next/static/chunks/*.js', async (route) => {
    await held
    await route.continue()
  })
  await page.goto(ivent.url, { waitUntil: 'commit' })
  await bringIn(page, 'early.json', '{')
  release()
  await expect(page.getByRole('dialog')).toContainText('early.json was not brought in')
})

test('an export comes back in identical', async ({ page, ivent }) => {
  const exported = await (
    await fetch(`${(await ivent.build('Dunlin')).replace('/builds/', '/api/builds/')}/export`)
  ).text()
  const known = new Set((await ivent.builds()).map((b) => b.id))
  await page.goto(ivent.url)
  await bringIn(page, 'dunlin.json', exported)
  await expect(page.getByText('Dunlin is in the garage.')).toBeVisible()
  const fresh = (await ivent.builds()).find((b) => !known.has(b.id))!
  expect(await (await fetch(`${ivent.url}/api/builds/${fresh.id}/export`)).text()).toBe(exported)
  await page.getByRole('button', { name: 'More to do with Dunlin' }).first().click()
  await page.getByRole('button', { name: 'Take out of the garage' }).click()
})

test('two windows on one build: the later save is set aside and a person decides', async ({ page, context, ivent }) => {
  const address = `${await ivent.build('Bittern')}/circuit`
  const other = await context.newPage()
  // what one saves does not reach the other in time
  await context.route('**/changes?since=*', (route) => route.abort())
  await page.goto(address)
  await other.goto(address)
  const saved = (p: typeof page) => expect(p.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible()
  await page.getByLabel('Suction line, length').fill('611')
  await saved(page)
  await other.getByLabel('Suction line, length').fill('722')
  const dialog = other.getByRole('dialog')
  await expect(dialog).toContainText('changed on another device')
  await dialog.getByRole('button', { name: 'Keep theirs' }).click()
  await expect(other.getByLabel('Suction line, length')).toHaveValue('611')
  // mine is not lost: it stands among the earlier versions
  await other.getByRole('button', { name: 'Earlier versions' }).click()
  await expect(other.getByText(/^Set aside, since another device/)).toBeVisible()
  await other.getByRole('button', { name: 'Put it in now' }).click()
  await expect(other.getByLabel('Suction line, length')).toHaveValue('722')
  await saved(other)
})

test('a second Ivent on the same data says who has it and leaves it alone', async ({ ivent }) => {
  const second = new Ivent()
  try {
    expect(await second.start('start', ivent.folder)).toBe(3)
    expect(second.output).toMatch(/is in use by process \d+ since/)
    expect((await ivent.builds()).length).toBeGreaterThan(0)
  } finally {
    await second.end()
  }
})

test('the API answers a build, bad JSON and a stranger', async ({ ivent }) => {
  const file = JSON.stringify({ format: 'ivent-build' })
  const post = (body: string, headers: Record<string, string> = {}) =>
    fetch(`${ivent.url}/api/analyse`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', ...headers },
      body,
    })
  expect((await post('{')).status).toBe(400)
  const refused = await post(file)
  expect(refused.status).toBe(422)
  expect(((await refused.json()) as { problems: unknown[] }).problems.length).toBeGreaterThan(0)
  expect((await post(file, { origin: 'http://elsewhere.example' })).status).toBe(403)
  expect((await fetch(`${ivent.url}/api/builds/nonsense`)).status).toBe(404)
  const good = await (await fetch(`${(await ivent.build('Wren')).replace('/builds/', '/api/builds/')}/export`)).text()
  const analysis = (await (await post(good)).json()) as { states: { solved: boolean }[] }
  expect(analysis.states.every((s) => s.solved)).toBe(true)
  expect(readFileSync(`${ivent.folder}/ivent.lock`, 'utf8')).toMatch(/"pid":\d+/)
})
