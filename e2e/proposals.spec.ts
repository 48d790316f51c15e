/** What should I build: asked, stopped, asked otherwise, taken as a plan up to its list to buy. */
import { expect, withServer } from './server'

const test = withServer()

test('plans are tried, wishes change what comes through, an offer becomes a plan with its list', async ({
  page,
  ivent,
}) => {
  const url = await ivent.build('Heron')
  await page.goto(`${url}/circuit`)
  await page.getByRole('button', { name: /^Plan:/ }).click()
  await page.getByRole('link', { name: 'What should I build?' }).click()
  await expect(page).toHaveTitle(/Proposals/)
  await page.getByRole('button', { name: 'Try plans' }).click()
  await page.getByRole('button', { name: 'Stop' }).click()
  await expect(page.getByRole('button', { name: 'Try plans' })).toBeVisible()
  await page.getByRole('checkbox', { name: 'no welding' }).check()
  await page.getByRole('button', { name: 'Try plans' }).click()
  const offers = page.getByRole('region', { name: 'Really different' })
  await expect(offers.getByRole('listitem')).not.toHaveCount(0)
  const crossed = page.getByRole('region', { name: 'Crossed out' })
  await expect(crossed).toContainText('asks for what you will not do')
  await expect(crossed).toContainText('plans looked at')
  // another wish: tried again under it at once
  await page.getByRole('textbox', { name: 'Parts, at most' }).fill('150')
  await expect(crossed).toContainText('parts cost too much')
  const picture = page.getByRole('group', { name: /^Plans tried:/ })
  const letters = picture.getByRole('button')
  await letters.last().focus()
  await page.keyboard.press('Enter')
  await expect(letters.last()).toHaveAttribute('aria-pressed', 'true')
  const name = (await letters.last().getAttribute('aria-label'))!.slice(3)
  await offers.getByRole('button', { name: 'Make it a plan' }).click()
  await expect(page).toHaveURL(/\/circuit/)
  await expect(page.getByRole('button', { name: /^Plan:/ })).toContainText(name.slice(0, 20))
  await page.goto(`${url}/parts`)
  await expect(page.getByRole('heading', { name: /buy/i }).first()).toBeVisible()
})

test('the plan as it stands is mended by the fewest presses', async ({ page, ivent }) => {
  await page.goto(`${await ivent.build('Wren')}/proposals`)
  await page.getByRole('button', { name: 'Find the least that does it' }).click()
  const mend = page.getByRole('region', { name: 'The plan as it stands, without a finding' })
  await expect(mend.getByText('Each is undone alone.')).toBeVisible()
  const steps = await mend.getByRole('listitem').count()
  expect(steps).toBeGreaterThan(0)
  await mend.getByRole('button', { name: /^Make/ }).click()
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  for (let k = 0; k < steps; k++) await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(page.getByRole('button', { name: /^Undo/ })).toBeDisabled()
})
