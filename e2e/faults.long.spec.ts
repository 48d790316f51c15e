/** From a complaint to its cause and the cure, in the browser. */
import type { Page } from '@playwright/test'
import { expect, withServer } from './server'

const test = withServer()
const rows = (page: Page) =>
  page.getByRole('group', { name: 'What was read, against what each fault would show' }).getByRole('button')
const shareOf = async (page: Page, name: string): Promise<number> =>
  Number(
    /: (\d+) in 100/.exec(
      (await page.getByRole('button', { name: new RegExp(`^${name}: `) }).getAttribute('aria-label'))!,
    )?.[1] ?? 0,
  )

test('a complaint with readings: the fault leads with its reason, its card is noted as done, and asked after', async ({
  page,
  ivent,
}) => {
  const url = await ivent.build('Wren')
  await page.goto(`${url}/circuit`)
  await page.getByRole('region', { name: 'Verdicts' }).getByRole('link', { name: 'Find the fault' }).click()
  await expect(page).toHaveTitle(/Faults/)
  await expect(rows(page).first()).toHaveAttribute('aria-label', /^PCV valve stuck open: \d\d in 100$/)
  const card = page.getByRole('region', { name: 'PCV valve stuck open' })
  await expect(card).toContainText('stand out, as with this')
  await expect(card).toContainText('blow through it both ways: passes both ways')
  // another fault by key, and back
  await rows(page).nth(1).focus()
  await page.keyboard.press('Enter')
  await expect(rows(page).nth(1)).toHaveAttribute('aria-pressed', 'true')
  await rows(page).first().click()
  await card.getByRole('button', { name: 'Show it on the circuit' }).click()
  await expect(page.getByText(/PCV valve stuck open/).first()).toBeVisible()
  await expect(page).toHaveURL(/\/circuit/)
  await page.goto(`${url}/faults`)
  await card.getByRole('button', { name: 'Mended: note it in the log' }).click()
  const past = page.getByRole('region', { name: 'Earlier complaints' })
  await expect(past).toContainText('PCV valve stuck open')
  await past.getByRole('button', { name: 'yes' }).click()
  await expect(past).toContainText('fixed')
  await page.goto(`${url}/log`)
  await expect(page.getByText('Mended: PCV valve stuck open.')).toBeVisible()
  await page.goto(`${url}/faults`)
  await past.getByRole('button', { name: 'Open again' }).click()
  await expect(past).toHaveCount(0)
})

test('nothing known: odds are flat; what is ticked, looked at and read moves them at once, and is taken back', async ({
  page,
  ivent,
}) => {
  await page.goto(`${await ivent.build('Godwit')}/faults`)
  await expect(page.getByText('Nothing was read yet, so the odds are those of the trade.')).toBeVisible()
  await expect(rows(page).first()).toHaveAttribute('aria-label', /^Nothing is wrong: /)
  // those that no reading tells apart carry one letter, and their odds together
  await expect(page.getByText('No reading of a running engine tells faults of one letter apart')).toBeVisible()
  await expect(page.getByText(/^A: \d+ faults, \d+ in 100 together$/)).toBeVisible()
  const next = page.getByRole('region', { name: 'Measure next', exact: true })
  await next.getByRole('button', { name: 'Read the oil level: above full' }).click()
  await expect.poll(() => shareOf(page, 'Oil overfull by a tenth of the sump')).toBeGreaterThan(40)
  const found = page.getByRole('region', { name: 'Found so far' })
  await found.getByRole('button', { name: 'Take back' }).click()
  await expect(found).toHaveCount(0)
  await expect(rows(page).first()).toHaveAttribute('aria-label', /^Nothing is wrong: /)
  const idle = next.getByRole('textbox', { name: 'Crankcase, idle, read' })
  await idle.fill('nonsense')
  await idle.press('Enter')
  await expect(next.getByRole('alert')).toBeVisible()
  await idle.fill('-0.4')
  await idle.press('Enter')
  await expect(page.getByText('Nothing was read yet')).toHaveCount(0)
  await expect(rows(page).first()).not.toHaveAttribute('aria-label', /^Nothing is wrong: (9|100)/)
  await page
    .getByRole('group', { name: 'Lean code, or a high or hunting idle' })
    .getByRole('button', { name: 'seen', exact: true })
    .click()
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await page.reload()
  await expect(
    page
      .getByRole('group', { name: 'Lean code, or a high or hunting idle' })
      .getByRole('button', { name: 'seen', exact: true }),
  ).toHaveAttribute('aria-pressed', 'true')
})

test('on a phone the picture and the steps fit its width, and a reading is entered without scrolling sideways', async ({
  page,
  ivent,
}) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto(`${await ivent.build('Heron')}/faults`)
  const steps = page.getByRole('region', { name: 'Steps' })
  await expect(steps.getByRole('textbox').first()).toBeVisible()
  const overhang = (e: Element) => e.scrollWidth - e.clientWidth
  expect(await steps.evaluate(overhang)).toBe(0)
  const picture = page.getByRole('group', { name: 'What was read, against what each fault would show' })
  await expect.poll(() => picture.evaluate((e) => e.parentElement!.scrollWidth - e.parentElement!.clientWidth)).toBe(0)
  const field = (await steps.getByRole('textbox').first().boundingBox())!
  expect(field.x + field.width).toBeLessThan(390)
  await expect(steps).toContainText('takes')
})
