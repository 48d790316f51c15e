/** The circuit: every school walked, edited by the job, failed and compared. */
import { expect, test } from './server'
import { SCHOOLS } from '../src/plan/schools/schools'
import type { Page } from '@playwright/test'

async function addSchool(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: /^Plan:/ }).click()
  await page.getByRole('button', { name: 'Add a school' }).click()
  await page.getByRole('dialog').getByRole('button', { name, exact: true }).click()
  await expect(page.getByRole('dialog')).toHaveCount(0)
}
const body = (page: Page) => page.locator('body').innerText()

/** Five schools a test: each has its own page and its own time. */
const FIVES = Array.from({ length: Math.ceil(SCHOOLS.length / 5) }, (_, k) => SCHOOLS.slice(5 * k, 5 * k + 5))
for (const schools of FIVES)
  test(`${schools.map((s) => s.key).join(', ')}: laid out on this engine, with an answer in every state`, async ({
    page,
    ivent,
  }) => {
    await page.goto(`${await ivent.build('Wren')}/circuit`)
    for (const school of schools) {
      await addSchool(page, school.name)
      await expect(page.getByRole('button', { name: new RegExp(`^Plan: ${school.name}`) })).toBeVisible()
      await expect(page.getByRole('group', { name: /^Schematic in/ })).toBeVisible()
      expect(await body(page)).not.toMatch(/no answer|NaN|Infinity|undefined/)
      // and away again, by undo
      await page.getByRole('button', { name: 'Undo' }).click()
    }
  })

test('a newcomer turns stock into one can with two checked outlets, by what is offered', async ({ page, ivent }) => {
  await page.goto(`${await ivent.build('Heron')}/circuit`)
  await addSchool(page, 'As the maker laid it')
  await page
    .getByRole('row', { name: /^Breather line/ })
    .getByRole('button', { name: /Breather line/ })
    .first()
    .click()
  await page.getByRole('button', { name: 'Change it…' }).click()
  const offered = page.getByRole('dialog', { name: 'What can be done here' })
  await offered.getByRole('button', { name: 'Put a can into the breather line' }).click()
  await page.getByRole('tab', { name: /^Parts, / }).click()
  await page
    .getByRole('row', { name: /^Catch can/ })
    .getByRole('button', { name: /Catch can/ })
    .first()
    .click()
  await page.getByRole('button', { name: 'Change it…' }).click()
  await page.getByRole('button', { name: 'Give the catch can a second, checked outlet to the manifold' }).click()
  await page.keyboard.press('5')
  await expect(page.getByRole('row', { name: /^Second outlet check.*shut/ })).toBeVisible()
  await expect(
    page.getByRole('region', { name: 'Verdicts' }).getByText('No boost reaches the crankcase'),
  ).toBeAttached()
  // all of it can be taken back, and done again
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('row', { name: /^Catch can/ })).toHaveCount(0)
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Redo' }).click()
  await expect(page.getByRole('row', { name: /^Second outlet check/ })).toBeVisible()
  // the next test finds the plan that was there
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: /^Plan: As the maker laid it/ })).toHaveCount(0)
})

test('a part that is dragged stays where it was put', async ({ page, ivent }) => {
  await page.goto(`${await ivent.build('Bittern')}/circuit`)
  const can = page.locator('svg[aria-label^="Schematic"] g.cursor-grab', {
    has: page.locator('title', { hasText: /^Catch can$/ }),
  })
  const before = (await can.boundingBox())!
  await page.mouse.move(before.x + 12, before.y + 30)
  await page.mouse.down()
  await page.mouse.move(before.x + 60, before.y - 10, { steps: 5 })
  await page.mouse.up()
  await expect.poll(async () => (await can.boundingBox())!.x - before.x).toBeGreaterThan(30)
  const put = (await can.boundingBox())!
  await page.getByLabel('Suction line, length').fill('480')
  expect(Math.abs((await can.boundingBox())!.x - put.x)).toBeLessThan(2)
})

test('what if: a stuck valve is tried in every picture and never saved', async ({ page, ivent }) => {
  const address = `${await ivent.build('Heron')}/circuit`
  await page.goto(address)
  await page.getByRole('button', { name: /^Plan:/ }).click()
  await page.getByRole('radio', { name: 'One can, two checked outlets' }).click()
  await page.keyboard.press('Escape')
  const boost = page.getByRole('radio', { name: /^5 ?Boost|Boost.*crankcase/ })
  const plan = (await boost.textContent())!
  await page.getByRole('tab', { name: 'What if' }).click()
  const row = page.getByRole('row', { name: /Check A stuck open/ })
  await expect(row).toContainText('of boost leaks out by the inlet')
  await row.getByRole('button', { name: 'Try it' }).click()
  await expect(page.getByText('This is not your plan; nothing of it is saved.')).toBeVisible()
  await expect(boost).not.toHaveText(plan)
  const exported = await (
    await fetch(address.replace('/builds/', '/api/builds/').replace('/circuit', '/export'))
  ).text()
  expect(exported).not.toContain('"stuck"')
  await page.getByRole('button', { name: 'Back to the plan' }).click()
  await expect(boost).toHaveText(plan)
  // the next test finds the plan that was there
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: /^Plan:/ })).not.toHaveAccessibleName(/One can, two checked outlets/)
})

test('plans are compared by number, picture and word, and go out as CSV', async ({ page, ivent }) => {
  await page.goto(`${await ivent.build('Heron')}/circuit`)
  await page.getByRole('button', { name: /^Plan:/ }).click()
  await page.getByRole('link', { name: 'Compare them' }).click()
  await expect(page.getByRole('row', { name: /^Oil to the intake/ })).toBeVisible()
  await expect(page.getByRole('img', { name: /oil to the intake, highest crankcase/ })).toBeVisible()
  await expect(
    page
      .getByRole('listitem')
      .filter({ hasText: /oil to the intake from .* to .* 000 km/ })
      .first(),
  ).toBeVisible()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'CSV' }).click()
  expect((await download).suggestedFilename()).toMatch(/plans\.csv$/)
  expect(await body(page)).not.toMatch(/NaN|Infinity|undefined/)
})

test('the rule behind a verdict is a page of the reference', async ({ page, ivent }) => {
  await page.goto(`${await ivent.build('Heron')}/circuit`)
  await page
    .getByRole('region', { name: 'Verdicts' })
    .getByRole('link', { name: /the rule/ })
    .first()
    .click()
  await page.waitForURL(/\/reference\?.*#/)
  await expect(page.getByRole('heading', { name: 'What the verdicts judge by' })).toBeVisible()
})

test('a single is judged over the turn of the crank, again after each change', async ({ page, ivent }) => {
  await page.goto(`${await ivent.build('Dunlin')}/circuit`)
  const rail = page.getByRole('region', { name: 'Verdicts' })
  // the server has followed it before the page came
  await expect(rail.getByText('means over a turn of the crank')).toBeVisible()
  await expect(page.getByText('The pistons push it, on the mean of a turn')).toBeVisible()
  const bore = page.getByLabel('Breather line, bore')
  await bore.fill('16')
  await bore.press('Enter')
  await expect(rail.getByText(/Still flow, until the turn of the crank is followed/)).toBeVisible()
  await expect(rail.getByText('means over a turn of the crank')).toBeVisible()
})
