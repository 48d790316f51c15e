/** The log at the car and at the desk: a track day, what is doubted, a table of years read in, the can cut open. */
import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { expect, test } from './server'

const PHONE = { width: 390, height: 844 }

test('at the car: the form first, what cannot be is doubted, a track day says when to empty', async ({
  page,
  ivent,
}) => {
  await page.setViewportSize(PHONE)
  await page.goto(`${await ivent.build('Heron')}/log`)
  const form = page.getByRole('form', { name: 'New entry' })
  const gauge = page.getByRole('region', { name: 'Catch can', exact: true })
  expect((await form.boundingBox())!.y).toBeLessThan((await gauge.boundingBox())!.y)

  await page.getByLabel('Odometer').fill('70200')
  await page.getByLabel('Came out, all').fill('900')
  await page.getByRole('button', { name: 'Note it', exact: true }).click()
  await expect(page.getByText(/900 ml from a can that holds 90/)).toBeVisible()
  const learned = await page.getByTestId('to-full').textContent()
  await page.getByLabel('Came out, all').fill('30')
  await page.getByLabel('It looked').selectOption('milky')
  await page.getByRole('button', { name: 'Note it', exact: true }).click()
  await expect(page.getByText('Noted. The forecast has taken it in.')).toBeVisible()
  await expect(page.getByTestId('to-full')).not.toHaveText(learned!)
  await expect(page.getByText(/30 ml, milky: water in it/)).toBeVisible()

  // put right afterwards, with a picture of it
  await page.getByRole('button', { name: /^Emptied catch can: 30 ml.*change it/ }).click()
  await expect(page.getByLabel(/^Photo of the entry of/)).toBeAttached()
  const old = page.getByRole('form', { name: /^The entry of/ })
  await old.getByLabel('Came out, all').fill('32')
  await old.getByRole('button', { name: 'Change it' }).click()
  await page.getByRole('button', { name: /^Emptied catch can: 32 ml.*change it/ }).click()
  const shot = await page.screenshot()
  await page
    .getByLabel(/^Photo of the entry of/)
    .setInputFiles({ name: 'cup.png', mimeType: 'image/png', buffer: shot })
  await expect(page.getByRole('img', { name: 'cup.png' })).toBeVisible()
  await page
    .getByLabel(/^Photo of the entry of/)
    .setInputFiles({ name: 'cup.txt', mimeType: 'text/plain', buffer: Buffer.from('no') })
  await expect(page.getByText('cup.txt is no picture.')).toBeVisible()

  const day = page.getByRole('region', { name: 'Track day' })
  await expect(day.getByText(/Empty the catch can (after session \d+|before session 1)|lasts the day/)).toBeVisible()
  await day.getByRole('button', { name: 'Session 1 driven' }).click()
  await expect(day.getByText('1 of 5 driven today')).toBeVisible()
  await expect(page.getByText('Track session').first()).toBeVisible()
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(PHONE.width)
})

test('years of log come in from another program, a bad file changes nothing, and the list stays quick', async ({
  page,
  ivent,
}) => {
  await page.goto(`${await ivent.build('Heron')}/log`)
  const put = (text: string) =>
    page.getByLabel('Read a log in').setInputFiles({ name: 'old.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
  await put('Day,Mileage,Volume\n2026-02-31,5,1\n')
  const dialog = page.getByRole('dialog', { name: 'Read old.csv in' })
  await expect(dialog.getByText(/Line 2: its date must be a day.*Nothing was changed/)).toBeVisible()
  await page.keyboard.press('Escape')
  const rows = Array.from(
    { length: 5000 },
    (_, i) => `20${10 + Math.floor(i / 360)}-0${1 + (i % 9)}-1${i % 9},${i},${20 + (i % 30)}`,
  )
  await put(`Day,Mileage,Volume\n${rows.join('\n')}`)
  await expect(dialog.getByLabel('Column of Odometer, km')).toHaveValue('Mileage')
  await dialog.getByRole('button', { name: 'Take them in' }).click()
  await expect(page.getByText(/5000 entries read in/)).toBeVisible()
  await expect(page.getByRole('heading', { name: /^Log, 50\d\d entries/ })).toBeVisible()
  // only what is in sight is drawn
  expect(
    await page.getByRole('region', { name: 'Entries, the last first' }).getByRole('listitem').count(),
  ).toBeLessThan(60)
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('heading', { name: /^Log, \d{1,2} entries/ })).toBeVisible()
})

test('the can cut open: its dimensions are edited, it is sized, frost is told, and what is due goes into a calendar', async ({
  page,
  ivent,
}) => {
  await page.goto(`${await ivent.build('Heron')}/log`)
  const inside = page.getByRole('region', { name: 'Catch can, cut open' })
  await page.getByRole('heading', { name: /^Log, / }).scrollIntoViewIfNeeded()
  await page.mouse.move(600, 600)
  await expect(async () => {
    await page.mouse.wheel(0, 900)
    await expect(inside).toBeVisible({ timeout: 500 })
  }).toPass()
  // what was found, as a chart, has come on the way
  await expect(page.locator('svg.recharts-surface').first()).toBeVisible()
  await expect(page.getByText(/will freeze first, in|Nothing freezes/)).toBeVisible()
  await inside.getByLabel('Jet diameter').fill('6')
  await expect(page.getByText(/Crankcase at|Catch can/).first()).toBeVisible()
  await inside.getByRole('button', { name: /^Size the catch can/ }).click()
  await expect(inside.getByText('pays for its drop best')).toBeVisible()
  await inside.getByRole('button', { name: 'Take it' }).first().click()
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('button', { name: 'Undo' }).click()
  const file = await page.request.get(`${ivent.url}/api/calendar`)
  expect(file.headers()['content-type']).toContain('text/calendar')
  expect(await file.text()).toContain('BEGIN:VEVENT')
})

test('a look that says how much, by the dipstick; an oil level; a reading of another kind', async ({ page, ivent }) => {
  await page.setViewportSize(PHONE)
  await page.goto(`${await ivent.build('Bittern')}/log`)
  const kind = (name: string) => page.getByText(name, { exact: true }).first().click()
  const noted = page.getByText('Noted.', { exact: true })
  await kind('Looked')
  await page.getByLabel('Odometer').fill('12110')
  await page.getByLabel('In it, if seen').fill('20 mm')
  await page.getByRole('button', { name: 'Note it', exact: true }).click()
  await expect(noted).toBeVisible()
  // what it holds now is what was seen: 20 mm over the bowl's own section
  await expect(page.getByText(/catch can: [\d.]+ ml in it/)).toBeVisible()

  await kind('Oil level')
  await page.getByLabel('Odometer').fill('12120')
  await page.getByLabel('On the engine’s dipstick').selectOption('over')
  await page.getByRole('button', { name: 'Note it', exact: true }).click()
  await expect(page.getByText(/^Oil level above the full mark/)).toBeVisible()

  await kind('Reading')
  await page.getByLabel('What was read').selectOption('velocity')
  await page.getByLabel('Odometer').fill('12130')
  await page.getByLabel('Velocity').fill('9')
  await page.getByRole('button', { name: 'Note it', exact: true }).click()
  await expect(page.getByText('Say where.')).toBeVisible()
  await page.getByLabel('Where', { exact: true }).selectOption({ index: 1 })
  await expect(page.getByText(/This plan should have about [\d.]+ m\/s there/)).toBeVisible()
  await page.getByRole('button', { name: 'Note it', exact: true }).click()
  await expect(page.getByText(/velocity in the .* 9\.00 m\/s, idle/)).toBeVisible()
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(PHONE.width)
})

test('a new car starts from what others of its kind taught; left out and taken again at one press', async ({
  page,
  ivent,
}) => {
  type Document = { name: string; log: { ml?: number }[] }
  const at = (path: string) => `${ivent.url}/api/builds${path}`
  const id = (await ivent.builds()).find((b) => b.name === 'Heron')!.id
  const { document } = (await (await page.request.get(at(`/${id}`))).json()) as { document: Document }
  const make = async (name: string, times: number): Promise<string> => {
    const log = document.log.map((e) => (e.ml === undefined ? e : { ...e, ml: Math.round(e.ml * times) }))
    const made = await page.request.post(at(''), { data: { ...document, name, log: times === 0 ? [] : log } })
    return ((await made.json()) as { id: string }).id
  }
  const taught = [await make('Rail', 1.5), await make('Smew', 1.6)]
  const next = await make('Plover', 0)
  await page.goto(`${ivent.url}/builds/${next}/log`)
  const kind = page.getByRole('region', { name: 'Cars of its kind' })
  await expect(kind.getByText(/starts from what \d+ other cars of its kind \(\d+ emptyings\)/)).toBeVisible()
  const toFull = page.getByTestId('to-full')
  const withOthers = await toFull.textContent()
  await kind.getByRole('button', { name: 'Leave them out' }).click()
  await expect(toFull).not.toHaveText(withOthers!)
  await expect(page.getByText('nothing yet; estimates only')).toBeVisible()
  await kind.getByRole('button', { name: 'Go by them' }).click()
  await expect(toFull).toHaveText(withOthers!)
  for (const made of [...taught, next]) await page.request.delete(at(`/${made}`))
})

test('a logger’s file is laid over what the plan predicts: columns, zoom, a place, kept, accepted and taken out', async ({
  browser,
  ivent,
}, info) => {
  test.slow()
  const { id } = (await ivent.builds()).find((b) => b.name === 'Heron')!
  const build = info.outputPath('heron.json')
  const file = info.outputPath('street.csv')
  const { document } = (await (await fetch(`${ivent.url}/api/builds/${id}`)).json()) as { document: object }
  writeFileSync(build, JSON.stringify(document))
  const options = ['--drive', 'street', '--seed', '5', '--seconds', '200', '--style', '1', '--fault', 'rings-worn@110']
  execFileSync('./ivent', ['logger', build, ...options, '--csv', file])
  // as on a second visit: what keeps pages stands between the page and its worker
  const context = await browser.newContext({ serviceWorkers: 'allow' })
  const page = await context.newPage()
  await page.goto(`${ivent.url}/builds/${id}/log`)
  await page.evaluate(async () => {
    await navigator.serviceWorker.ready
  })
  await page.reload()
  await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null)).toBe(true)
  const panel = page.getByRole('region', { name: /^Recording/ })
  await expect(async () => {
    await page.getByRole('region', { name: 'Inside the' }).or(page.locator('main')).first().hover()
    await page.mouse.wheel(0, 2000)
    await expect(panel).toBeVisible({ timeout: 500 })
  }).toPass()
  const choose = panel.locator('input[type=file]')
  await choose.setInputFiles({ name: 'none.csv', mimeType: 'text/csv', buffer: Buffer.from('hello') })
  await expect(panel.getByRole('alert')).toContainText('Nothing was changed.')
  await choose.setInputFiles(file)
  const picture = panel.getByRole('application')
  await expect(picture).toHaveAttribute('aria-label', 'Recording of 3:19, shown from 0:00 to 3:19')
  // what changed is told, and where it shows
  await expect(panel.getByText(/something changed|no longer the same/)).toContainText('blow-by')
  await panel.getByText('What its columns are').click()
  await expect(panel.getByRole('combobox', { name: 'MAP is' })).toHaveText('Manifold pressure')
  // zoomed by key and button, moved by key; a place in the list brings it into view
  await picture.focus()
  await page.keyboard.press('+')
  await expect(picture).toHaveAttribute('aria-label', /shown from 0:49 to 2:29/)
  await page.keyboard.press('ArrowRight')
  await expect(picture).toHaveAttribute('aria-label', /shown from 1:02 to 2:42/)
  await panel.getByRole('button', { name: 'All of it' }).click()
  await panel.getByRole('region', { name: 'Where it leaves the band' }).getByRole('button').first().click()
  await expect(picture).not.toHaveAttribute('aria-label', /shown from 0:00 to 3:19/)
  // kept with the build, opened again after a reload, and taken away
  await panel.getByRole('button', { name: 'Keep it with the build' }).click()
  await expect(panel.getByText('kept with the build', { exact: true })).toBeVisible()
  await expect(panel.getByRole('columnheader', { name: 'row 1' })).not.toHaveCount(0)
  await panel.getByRole('button', { name: 'street.csv', exact: true }).click()
  // of one that was kept there are no first rows as they stood in the file
  await expect(panel.getByRole('columnheader', { name: 'row 1' })).toHaveCount(0)
  await expect(picture).toHaveAttribute('aria-label', 'Recording of 3:19, shown from 0:00 to 3:19')
  await expect(panel.getByText(/something changed|no longer the same/)).toContainText('blow-by')
  const saved = page.waitForEvent('download')
  await panel.getByRole('button', { name: 'Save street.csv as Parquet' }).click()
  expect((await saved).suggestedFilename()).toBe('street.csv.parquet')
  await panel.getByRole('button', { name: 'Take street.csv away' }).click()
  await expect(panel.getByRole('button', { name: 'street.csv', exact: true })).toHaveCount(0)
  await panel.getByRole('button', { name: 'Accept blow-by' }).click()
  await expect(panel.getByText('The plan has changed since.')).toBeVisible()
  await panel.getByRole('button', { name: 'Take them out again' }).click()
  await expect(panel.getByRole('button', { name: 'Take them out again' })).toHaveCount(0)
  await context.close()
})

test('a kept recording is renamed, cut to what is shown, given out as CSV and laid over another; a second logger’s file beside one', async ({
  page,
  ivent,
}) => {
  const url = await ivent.build('Heron')
  await page.goto(`${url}/log`)
  const panel = page.getByRole('region', { name: /^Recording/ })
  await expect(async () => {
    await page.locator('main').hover()
    await page.mouse.wheel(0, 3000)
    await expect(panel).toBeVisible({ timeout: 500 })
  }).toPass()
  await panel.getByRole('button', { name: 'Rename Coast road, May' }).click()
  await panel.getByRole('textbox', { name: 'Name of Coast road, May' }).fill('Before the new hose')
  await panel.getByRole('button', { name: 'Name it so' }).click()
  await panel.getByRole('button', { name: 'Coast road, November', exact: true }).click()
  const picture = panel.getByRole('application', { name: /^Recording of/ })
  await expect(picture).toHaveAttribute('aria-label', /^Recording of 3:59/)
  // the wheel over it zooms, and does not scroll the page
  await picture.hover({ position: { x: 400, y: 100 } })
  await expect(async () => {
    await page.mouse.wheel(0, -200)
    await expect(picture).not.toHaveAttribute('aria-label', /from 0:00 to 3:59$/, { timeout: 500 })
  }).toPass()
  // the moment under the hand on ladder and schematic
  await expect(
    panel
      .getByRole('region', { name: /^The circuit at/ })
      .getByRole('group')
      .first(),
  ).toBeVisible()
  await panel.getByRole('combobox', { name: 'Recording to compare with' }).click()
  await page.getByRole('option', { name: 'Before the new hose' }).click()
  await expect(panel.getByRole('img', { name: 'Crankcase by state' })).toBeVisible()
  await panel.getByRole('button', { name: 'Cut to what is shown' }).click()
  await expect(
    panel.getByRole('heading', { name: /^Recording Coast road, November, \d:\d\d to \d:\d\d$/ }),
  ).toBeVisible()
  await expect(picture).not.toHaveAttribute('aria-label', /^Recording of 3:59/)
  const saved = page.waitForEvent('download')
  await panel.getByRole('button', { name: 'Save as CSV' }).click()
  const csv = readFileSync(await (await saved).path(), 'utf8')
  expect(csv.split('\r\n')[0]).toBe('Time (s),Crankcase pressure (kPa),MAP (kPa),RPM (rpm),Throttle (%)')
  expect(csv.split('\r\n').length).toBeGreaterThan(100)
  // one logger has the engine, another the crankcase, which began eleven seconds later
  const all = csv
    .split('\r\n')
    .slice(1, -1)
    .map((l) => l.split(',').map(Number))
  const text = (rows: readonly (readonly unknown[])[]) => rows.map((r) => r.join(',')).join('\n')
  const engine = text([['Time', 'MAP (kPa)', 'RPM'], ...all.map((r) => [r[0], r[2], r[3]])])
  const late = all.filter((r) => r[0]! > all[0]![0]! + 11)
  const sensor = text([
    ['Time', 'Crankcase (kPa)', 'RPM'],
    ...late.map((r) => [(r[0]! - late[0]![0]!).toFixed(2), r[1], r[3]]),
  ])
  const file = (name: string, body: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(body) })
  const choose = (name: string) => panel.getByText(name, { exact: true }).locator('input[type=file]')
  await choose('Open another file').setInputFiles(file('engine.csv', engine))
  await expect(panel.getByRole('alert')).toContainText('no column for crankcase pressure')
  await choose('Lay a second logger’s file beside it').setInputFiles(file('sensor.csv', sensor))
  await expect(panel.getByText(/The second file lies 11\.\d s later on the first, told by engine speed/)).toBeVisible()
  await expect(picture).toBeVisible()
})
