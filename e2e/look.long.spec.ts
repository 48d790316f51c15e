/** What holds for every screen: nothing for axe to complain of, no sideways scroll on a phone, keyboard, weight. */
import type { Page } from '@playwright/test'
import { seriousFindings } from './accessibility'
import { expect, withServer, type Ivent } from './server'

/** Plans are as they were laid out: what other files change is not seen here. */
const test = withServer()
const STATIONS = ['engine', 'circuit', 'bay', 'parts', 'fit', 'log', 'compare', 'faults', 'proposals'] as const

/** Every page, the stations of one build. */
async function pagesOf(ivent: Ivent): Promise<readonly string[]> {
  const heron = await ivent.build('Heron')
  return [
    ivent.url,
    ...['new', 'reference', 'help', 'devices', 'practice', 'practice/lessons/worth', 'practice/cars/12'].map(
      (page) => `${ivent.url}/${page}`,
    ),
    ...STATIONS.map((s) => `${heron}/${s}`),
  ]
}

/** Opens the palette by its keys, pressed again until the page listens, and asks for something. */
async function askPalette(page: Page, what: string): Promise<void> {
  const wish = page.getByPlaceholder('What do you want to do?')
  await expect(async () => {
    await page.keyboard.press('Control+k')
    await expect(wish).toBeVisible({ timeout: 3000 })
  }).toPass()
  await wish.fill(what)
}

/** At the bench and on a phone. */
const SIZES = {
  bench: { width: 1280, height: 800 },
  phone: { width: 390, height: 844 },
  zoomed: { width: 640, height: 400 },
}
for (const [size, viewport] of Object.entries(SIZES)) {
  test(`axe finds nothing serious by day or night, ${size}`, async ({ browser, ivent }) => {
    const context = await browser.newContext({ colorScheme: 'light', reducedMotion: 'reduce', viewport })
    const page = await context.newPage()
    const found: string[] = []
    for (const path of await pagesOf(ivent)) {
      await page.goto(path)
      await page.waitForLoadState('networkidle')
      // before the page can keep what is typed nothing in it takes the keyboard
      await expect(page.locator('fieldset:disabled')).toHaveCount(0)
      // axe remembers a colour that it has read: it looks once what is being worked out stands there
      if (path.endsWith('/new')) await expect(page.getByRole('button', { name: /^Show all/ })).toBeVisible()
      if (size === 'bench' && path.endsWith('/circuit')) {
        // with a line chosen, its menu open, and failures tried
        await page
          .getByRole('row', { name: /^Breather line/ })
          .getByRole('button')
          .first()
          .click()
        await page.getByRole('tab', { name: 'What if' }).click()
        await expect(page.getByText(/failures, worst first/)).toBeVisible()
        await page.getByRole('button', { name: 'Try it' }).first().click()
        await expect(page.getByRole('button', { name: 'End it' })).toBeVisible()
        await expect(page.getByRole('status').filter({ hasText: /failures, worst first/ })).toBeVisible()
      }
      found.push(...(await seriousFindings(page)))
      // at night nothing is other than its colours
      await page.evaluate(() => {
        document.documentElement.dataset.theme = 'night'
      })
      found.push(...(await seriousFindings(page, ['color-contrast'])))
    }
    expect(found).toEqual([])
    await context.close()
  })
}

test('a printed sheet has its own head, nothing of the frame, and fits the paper', async ({ browser, ivent }) => {
  // A4 within margins of 14 mm, at 96 pixels an inch
  const context = await browser.newContext({ viewport: { width: 688, height: 1017 }, colorScheme: 'dark' })
  const page = await context.newPage()
  const heron = await ivent.build('Heron')
  for (const station of STATIONS.filter((s) => s !== 'compare')) {
    await page.goto(`${heron}/${station}`)
    await page.waitForLoadState('networkidle')
    await expect(page.getByLabel('Driving state')).toBeVisible()
    await page.emulateMedia({ media: 'print' })
    await expect(page.getByText(`Heron: ${station}`)).toBeVisible()
    for (const frame of [
      page.getByRole('navigation'),
      page.getByLabel('Driving state'),
      page.getByRole('button', { name: /^(Find a way|Print|Units|Undo|Take .* out.*)$/ }),
    ])
      await expect(frame.filter({ visible: true })).toHaveCount(0)
    const [wide, ground] = await page.evaluate(() => [
      document.documentElement.scrollWidth,
      getComputedStyle(document.documentElement).backgroundColor,
    ])
    expect([station, wide]).toEqual([station, 688])
    expect(ground).toBe('rgb(255, 255, 255)')
    await page.emulateMedia({ media: 'screen' })
  }
  await context.close()
})

for (const [size, viewport] of [
  ['a phone', SIZES.phone],
  ['a bench at twice the size', { width: 640, height: 400 }],
] as const)
  test(`${size} shows every page without sideways scrolling`, async ({ browser, ivent }) => {
    const context = await browser.newContext({ viewport })
    const page = await context.newPage()
    for (const path of await pagesOf(ivent)) {
      await page.goto(path)
      await page.waitForLoadState('networkidle')
      expect([path, await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([path, viewport.width])
    }
    await context.close()
  })

test('states by number, commands by name, units anywhere', async ({ page, ivent }) => {
  await page.goto(`${await ivent.build('Wren')}/circuit`)
  await page.keyboard.press('4')
  await expect(page.getByRole('radio', { name: /Spool/ })).toBeChecked()
  await expect(page.getByRole('radio', { name: /Boost/ })).toContainText('inHg')
  await askPalette(page, 'pressure in kpa')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('radio', { name: /Boost/ })).toContainText('kPa')
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('radio', { name: /Boost/ })).toContainText('inHg')
})

test('the palette is on the garage, the reference and the new build, and gives out files', async ({ page, ivent }) => {
  await page.goto(ivent.url)
  await expect(page.getByRole('link', { name: 'Heron', exact: true })).toBeVisible()
  await askPalette(page, 'Reference')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/reference/)
  await askPalette(page, 'New build')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/new/)
  await page.goto(`${await ivent.build('Heron')}/circuit`)
  await askPalette(page, 'Job card as PDF')
  const file = page.waitForEvent('download')
  await page.keyboard.press('Enter')
  expect((await file).suggestedFilename()).toBe('Heron, job card.pdf')
})

test('no page scrolls but inside its panes: the wheel at the end of every station moves nothing more', async ({
  page,
  ivent,
}) => {
  await page.setViewportSize({ width: 1280, height: 800 })
  const heron = await ivent.build('Heron')
  for (const station of STATIONS.filter((s) => s !== 'compare')) {
    await page.goto(`${heron}/${station}`)
    await page.waitForLoadState('networkidle')
    await page.mouse.move(400, 500)
    await page.mouse.wheel(0, 50_000)
    await page.mouse.move(1200, 500)
    await page.mouse.wheel(0, 50_000)
    const ends = await page.evaluate(() => [scrollY, document.documentElement.scrollHeight - innerHeight])
    expect([station, ...ends]).toEqual([station, 0, 0])
    await expect(page.getByRole('navigation', { name: 'Stations' })).toBeInViewport()
  }
})

test('Ctrl+K: a command of the program before an edit, nothing where nothing matches, an edit says what it does', async ({
  page,
  ivent,
}) => {
  await page.goto(`${await ivent.build('Heron')}/circuit`)
  const chosen = page.getByRole('option', { selected: true })
  await askPalette(page, 'print')
  await expect(chosen).toHaveText('Print')
  const wish = page.getByPlaceholder('What do you want to do?')
  await wish.fill('units')
  await expect(chosen).toHaveText('Metric units')
  // nothing has been done yet: there is nothing to undo, and nothing else stands in for it
  await wish.fill('undo')
  await expect(page.getByText('Nothing here has that name.')).toBeVisible()
  await wish.fill('put a check')
  await expect(page.getByText(/^Enter changes the plan: .* Undo takes it back\.$/)).toBeVisible()
})

test('first page under 150 kB of compressed script, stations under 280', async ({ browser, ivent }) => {
  const heron = await ivent.build('Heron')
  const weigh = async (path: string): Promise<number> => {
    const context = await browser.newContext()
    const page = await context.newPage()
    const scripts: Promise<number>[] = []
    page.on('requestfinished', (request) => {
      if (request.resourceType() === 'script') scripts.push(request.sizes().then((s) => s.responseBodySize))
    })
    await page.goto(path)
    await page.waitForLoadState('networkidle')
    // until no more come: one that ends as its page is closed has no size
    for (let seen = -1; seen !== scripts.length;) {
      seen = scripts.length
      await page.waitForTimeout(300)
    }
    page.removeAllListeners('requestfinished')
    const bytes = (await Promise.all(scripts)).reduce((sum, b) => sum + b, 0)
    await context.close()
    return bytes / 1000
  }
  const weights = Object.fromEntries(
    await Promise.all(
      [ivent.url, ...STATIONS.map((s) => `${heron}/${s}`)].map(
        async (path) => [path.split('/').at(-1), await weigh(path)] as const,
      ),
    ),
  )
  test.info().annotations.push({ type: 'kB of script', description: JSON.stringify(weights) })
  console.log('kB of compressed script', weights)
  const [first, ...stations] = Object.values(weights)
  expect(first).toBeLessThan(150)
  for (const w of stations) expect(w).toBeLessThan(280)
})
