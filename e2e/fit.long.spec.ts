/** Parts and Fit: an end looked at, prices read in, a card ticked at the car, proven by a reading. */
import { readFileSync } from 'node:fs'
import { newBuild } from '@/plan/schools/new-build'
import { cameraPhoto } from './camera'
import { expect, test } from './server'

const PHONE = { width: 390, height: 844 }

test('an end that was looked at changes what is bought; prices come from a table, a bad one is refused by line', async ({
  page,
  ivent,
}) => {
  await page.goto(`${await ivent.build('Godwit')}/parts`)
  await expect(page.getByRole('img', { name: /^Breather line, from end to end/ })).toBeVisible()
  const buy = page.getByRole('region', { name: 'To buy' })
  await expect(buy.getByText(/quick connector for 19.05 mm tube/i)).toHaveCount(0)
  await page.getByLabel('Form of Cam cover, breather nipple').click()
  await page.getByRole('option', { name: '19.05 mm quick connector tube' }).click()
  await expect(buy.getByText(/quick connector for 19.05 mm tube/i).first()).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(buy.getByText(/quick connector for 19.05 mm tube/i)).toHaveCount(0)

  const read = (text: string) =>
    page
      .getByLabel('Read prices in')
      .setInputFiles({ name: 'shop.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
  await read('key,have,price\nptfe-tape,one,2')
  await expect(page.getByText(/shop.csv was not read, nothing was changed. Line 2: have is not a number/)).toBeVisible()
  await read('key,have,price\nptfe-tape,1,2.5')
  await expect(page.getByLabel('PTFE tape, in the drawer')).toHaveValue('1')
  await expect(page.getByLabel('PTFE tape, price')).toHaveValue('2.5')

  for (const [button, name] of [
    ['The list as CSV', 'Godwit, to buy.csv'],
    ['1:1 as DXF', 'Bracket for the separator.dxf'],
  ] as const) {
    const file = page.waitForEvent('download')
    await page.getByRole('button', { name: button }).first().click()
    expect((await file).suggestedFilename()).toBe(name)
  }
})

test('a card is ticked on a phone, with no line too, stands after a reload, and is proven by a reading', async ({
  page,
  context,
  ivent,
}) => {
  await page.setViewportSize(PHONE)
  const url = await ivent.build('Heron')
  await page.goto(`${url}/fit`)
  const status = page.getByText(/^\d+ of \d+/)
  const before = Number(/^(\d+)/.exec((await status.textContent())!)![1])
  const box = (name: RegExp) => page.getByRole('checkbox', { name })
  const open = page.getByRole('checkbox', { checked: false })
  const first = (await open.first().getAttribute('aria-label'))!
  await open.first().click()
  await expect(page.getByText(`${before + 1} of`)).toBeVisible()
  await expect(page.getByText('waiting to send')).toHaveCount(0)

  // under the car there is no line: the tick waits, and is seen to
  await context.setOffline(true)
  await open.first().click()
  await expect(page.getByText(/waiting to send/)).toBeVisible()
  await context.setOffline(false)
  await expect(page.getByText('waiting to send')).toHaveCount(0)
  await page.reload()
  await expect(page.getByText(`${before + 2} of`)).toBeVisible()
  await expect(page.getByRole('checkbox', { name: first })).toBeChecked()
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(PHONE.width)

  // the proof: what it should read, what it did
  await page.getByRole('button', { name: /^Read the crankcase/ }).click()
  await expect(page.getByText(/Idle:.*expect/)).toBeVisible()
  const form = page.getByLabel('Idle, read')
  await form.fill('30 kPa')
  await form.press('Enter')
  await expect(page.getByText(/Read .*30.*: not what this plan should give/)).toBeVisible()
  expect(await box(/./).count()).toBeGreaterThan(10)

  // the plan changes: what was ticked in other words holds no more
  const pdf = page.waitForEvent('download')
  await page.getByRole('button', { name: 'As PDF' }).click()
  expect((await pdf).suggestedFilename()).toBe('Heron, job card.pdf')
})

test('a valve is blown through and a crankcase blown up: judged as they are entered', async ({ page, ivent }) => {
  await page.setViewportSize(PHONE)
  const made = await page.request.post(`${ivent.url}/api/builds`, {
    headers: { origin: ivent.url },
    data: newBuild({
      name: 'Ruff',
      engineClass: 'i5-turbo',
      use: 'street',
      ambientC: 10,
      units: 'metric',
      school: 'two-outlets',
    }),
  })
  const { id } = (await made.json()) as { id: string }
  await page.goto(`${ivent.url}/builds/${id}/fit`)
  // a valve of the maker's that stays where it is has no step
  await expect(page.getByRole('button', { name: /^Blow through the PCV valve/ })).toHaveCount(0)
  await page
    .getByRole('button', { name: /^Blow through the check/ })
    .first()
    .click()
  await page.getByRole('button', { name: 'both ways', exact: true }).click()
  await expect(page.getByText(/It does not hold: stuck open/)).toBeVisible()
  await page.getByRole('button', { name: 'one way only' }).click()
  await expect(page.getByRole('checkbox', { name: /^Blow through the check/ }).first()).toBeChecked()

  await page.getByRole('button', { name: /^Blow 2.0 kPa/ }).click()
  // nothing is in the log yet: no 0 km that nobody read is written
  const [from, to] = [page.getByLabel('Blown to'), page.getByLabel('left after a minute')]
  await from.fill('9')
  await to.fill('1')
  await page.getByRole('button', { name: 'Judge' }).click()
  await expect(page.getByText(/^From 3.0 kPa at most/)).toBeVisible()
  await from.fill('2')
  await to.fill('1.9')
  await page.getByRole('button', { name: 'Judge' }).click()
  await expect(page.getByText('Enter what the odometer shows first.')).toBeVisible()
  await page.getByLabel('Odometer').fill('41200')
  await page.getByLabel('Odometer').press('Tab')
  await page.getByRole('button', { name: 'Judge' }).click()
  await expect(page.getByRole('checkbox', { name: /^Blow 2.0 kPa/ })).toBeChecked()
  await page.goto(page.url().replace('/fit', '/log'))
  await expect(page.getByText(/^Leak test: 2.0 kPa to 1.9 kPa in a minute/)).toBeVisible()
  await expect(page.getByText(/41\s?200 km/).first()).toBeVisible()
  await expect(page).toHaveTitle(/^Ruff: Log, .* · Ivent$/)
  // the states stay in view, and the verdicts are a tap away
  // at once: a wheel that still turns would go past what the link shows
  await page.evaluate(() => scrollTo({ top: 3000, behavior: 'instant' }))
  await expect(page.getByLabel('Driving state')).toBeInViewport()
  await page.getByRole('link', { name: /^Verdicts/ }).click()
  await expect(page.getByRole('heading', { name: 'Verdicts' })).toBeInViewport()
})

test('a fitting of one’s own is added, kept, and goes out as a table', async ({ page, ivent }) => {
  await page.goto(`${await ivent.build('Heron')}/parts`)
  const own = page.getByRole('region', { name: 'Fittings of your own' })
  await own.getByRole('button', { name: 'Add a fitting' }).click()
  await own.getByLabel('Name of the fitting').fill('Turned sleeve')
  await own.getByLabel('Name of the fitting').blur()
  await own.getByLabel('Turned sleeve, least bore').fill('12')
  await own.getByLabel('Turned sleeve, least bore').press('Enter')
  await own.getByLabel('Take in a table of fittings').setInputFiles({
    name: 'drawer.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('name,fits_on,offers,bore_mm\nA,bayonet,flare-10,11\n'),
  })
  await expect(page.getByText(/drawer.csv was not read, nothing was changed. Line 2/)).toBeVisible()
  const file = page.waitForEvent('download')
  await own.getByRole('button', { name: 'As a table' }).click()
  expect((await file).suggestedFilename()).toBe('Heron, own fittings.csv')
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await page.reload()
  await expect(own.getByLabel('Name of the fitting')).toHaveValue('Turned sleeve')
  await own.getByRole('button', { name: 'Take Turned sleeve out' }).click()
  await expect(own.getByLabel('Name of the fitting')).toHaveCount(0)
})

test('a photograph from the camera is kept upright and says neither where nor with what it was taken; in file and card', async ({
  page,
  ivent,
}) => {
  const url = await ivent.build('Wren')
  const api = url.replace('/builds/', '/api/builds/')
  await page.goto(`${url}/fit`)
  const maker = 'Some Camera Works'
  // as the camera holds it: lying, 1280 by 800, to be shown standing
  const buffer = cameraPhoto(await page.screenshot({ type: 'jpeg' }), maker)
  expect(buffer.toString('latin1')).toContain(maker)
  const file = { name: 'bolt.jpg', mimeType: 'image/jpeg', buffer }
  const put = async (label: RegExp) => {
    await page.getByLabel(label).first().setInputFiles(file)
    await expect(page.getByRole('img', { name: 'bolt.jpg' }).filter({ visible: true }).first()).toBeVisible()
  }
  await put(/^Photo of /)
  await page.goto(`${url}/circuit`)
  await page
    .getByRole('row', { name: /^Breather line/ })
    .getByRole('button')
    .first()
    .click()
  await put(/^Photo of breather line/)
  await page.goto(`${url}/bay`)
  await put(/^Photo of /)

  const all = (await (await fetch(`${api}/attachments`)).json()) as { id: string; about: string }[]
  expect(all.map((p) => p.about.split(' ')[0]).toSorted()).toEqual(['line', 'spot', 'step'])
  for (const { id } of all) {
    const bytes = Buffer.from(await (await fetch(`${api}/attachments/${id}`)).arrayBuffer())
    for (const said of ['Exif', maker]) expect(bytes.toString('latin1')).not.toContain(said)
    const size = await page.evaluate(async (url) => {
      const blob = await (await fetch(url)).blob()
      const picture = await createImageBitmap(blob, { imageOrientation: 'none' })
      return [picture.width, picture.height]
    }, `${api}/attachments/${id}`)
    expect(size).toEqual([800, 1280])
  }
  const exported = await (await fetch(`${api}/export`)).text()
  expect((JSON.parse(exported) as { attachments: unknown[] }).attachments).toHaveLength(3)

  await page.goto(`${url}/fit`)
  await expect(page.getByRole('img', { name: 'bolt.jpg' }).first()).toBeVisible()
  const pdf = page.waitForEvent('download')
  await page.getByRole('button', { name: 'As PDF' }).click()
  const path = (await (await pdf).path())!
  expect(
    readFileSync(path)
      .toString('latin1')
      .match(/DCTDecode/g),
  ).toHaveLength(2)
  // taken away again
  await page.getByRole('button', { name: 'Take bolt.jpg away' }).first().click()
  await expect.poll(async () => ((await (await fetch(`${api}/attachments`)).json()) as unknown[]).length).toBe(2)
})
