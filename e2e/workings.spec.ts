/** Every computed figure of a station opens its working; what does not is listed here with its reason. */
import type { Page } from '@playwright/test'
import { expect, withServer } from './server'

const test = withServer()

/** A number with a unit, as screens print them. */
const FIGURE = /[-−+]?\d[\d  .]*\s?(kPa|l\/min|ml|m\/s|km|mm|ml\/h|Hz|kg)(?![a-z])/
/** Where figures stand that are not computed, or whose working opens beside them. */
const EXCEPTIONS: readonly (readonly [where: string, why: string])[] = [
  ['[aria-haspopup=dialog]', 'opens it'],
  ['input, select, option, label', 'typed'],
  ['section[aria-label=Verdicts]', 'a verdict has a link to the working of its figure'],
  ['svg', 'axes, sizes of drawings, and labels of pictures whose tables open the working'],
  ['figcaption', 'says what a picture shows'],
  ['section[aria-labelledby=entries]', 'what was logged'],
  ['section[aria-labelledby=mounts]', 'facts of a mount'],
  ['section[aria-labelledby=buy]', 'what is asked of a part: its own figures, and pressures that open at the circuit'],
]

async function unopened(page: Page): Promise<string[]> {
  return page.evaluate(
    ([figure, exceptions]) => {
      const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
      const found: string[] = []
      for (let n = walker.nextNode(); n; n = walker.nextNode()) {
        const e = n.parentElement
        const text = n.textContent ?? ''
        if (!e || !new RegExp(figure!).test(text) || e.closest(`script, style, ${exceptions}`)) continue
        if (e.getBoundingClientRect().width > 0) found.push(text.trim())
      }
      return found
    },
    [FIGURE.source, EXCEPTIONS.map(([where]) => where).join(', ')] as const,
  )
}

test('every computed figure of circuit, bay and comparison opens its working', async ({ page, ivent }) => {
  const heron = await ivent.build('Heron')
  await page.goto(`${heron}/circuit`)
  for (const tab of ['Lines', 'Parts', 'All states']) {
    await page.getByRole('tab', { name: new RegExp(`^${tab}`) }).click()
    await expect(page.getByRole('tabpanel')).toBeVisible()
    expect(await unopened(page)).toEqual([])
  }
  await page.goto(`${heron}/compare`)
  await expect(page.getByRole('row', { name: /^Weighed/ })).toBeVisible()
  const closed = await unopened(page)
  // sums over all cans, intervals and sentences: of plans that are not shown, their parts open at the stations
  expect(closed.filter((t) => /kPa \(/.test(t))).toEqual([])

  await page.goto(`${heron}/engine`)
  await expect(page.getByText(/^Bands hold/)).toBeVisible()
  // what the bands are is said under them
  expect((await unopened(page)).filter((t) => !t.startsWith('Bands hold'))).toEqual([])
  await page.goto(`${heron}/log`)
  await expect(page.getByTestId('check-by').first()).toBeVisible()
  // ranges are the tenth and ninetieth part of all that is likely; their middle opens
  expect((await unopened(page)).filter((t) => !/ to |^90 ml$|measuring cup/.test(t))).toEqual([])
  await page.goto(`${heron}/parts`)
  await expect(page.getByRole('heading', { name: /^Baffle under/ })).toBeVisible()
  // sizes of what is bought and cut are lists; the flow is the one that plates are compared at
  expect((await unopened(page)).filter((t) => /kPa|ml|m\/s|l\/min/.test(t) && !t.startsWith('99.7'))).toEqual([])
  await page.goto(`${await ivent.build('Godwit')}/bay`)
  await expect(page.getByText('How the separator drains')).toBeVisible()
  // asked gaps of the clearance table are facts of their kind
  const bay = await unopened(page)
  expect(bay.filter((t) => /kPa|l\/min|ml/.test(t))).toEqual([])
})

test('a working opens from switch, verdict, picture and table, and is followed to its last line', async ({
  page,
  ivent,
}) => {
  await page.goto(`${await ivent.build('Heron')}/circuit`)
  await page.keyboard.press('5')
  const sheet = page.getByRole('dialog', { name: 'Working' })
  for (const opener of [
    page.getByRole('button', { name: 'Crankcase in boost: the working' }),
    page.getByRole('button', { name: /^Catch can sees .*: the working$/ }),
    page.getByRole('button', { name: /^Manifold, .*: the working$/ }),
    page
      .getByRole('row', { name: /^Breather line/ })
      .getByRole('button', { name: /show the working/ })
      .first(),
  ]) {
    await opener.click()
    await expect(sheet.getByRole('list', { name: 'Lines of the working' })).toBeVisible()
    await expect(sheet.getByText('What moves it most')).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(sheet).toBeHidden()
  }
})
