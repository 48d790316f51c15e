/** What should I build: asked, stopped, asked otherwise, taken as a plan up to its list to buy. */
import { expect, withServer } from './server'

const test = withServer()

test('plans are tried, stopped, gone on with and sorted anew under other wishes; an offer becomes a plan with its list', async ({
  page,
  ivent,
}) => {
  const url = await ivent.build('Heron')
  await page.goto(`${url}/circuit`)
  await page.getByRole('button', { name: /^Plan:/ }).click()
  await page.getByRole('link', { name: 'What should I build?' }).click()
  await expect(page).toHaveTitle(/Proposals/)
  await page.getByRole('button', { name: 'Try plans' }).click()
  // stopped while plans are tried: what there is stays, and is judged
  const crossed = page.getByRole('region', { name: 'Crossed out' })
  await expect(crossed).toContainText(/[1-9][\d\s]* plans considered/)
  await page.getByRole('button', { name: 'Stop' }).click()
  const more = page.getByRole('button', { name: /^Try .* more$/ })
  await expect(more).toBeVisible()
  const offers = page.getByRole('region', { name: 'Really different' })
  await expect(offers.getByRole('listitem')).not.toHaveCount(0)
  await expect(offers.getByText(/was not looked for/).first()).toBeVisible()
  // another wish: what was tried is sorted anew, and tried on
  await page.getByRole('checkbox', { name: 'no welding' }).check()
  await expect(crossed).toContainText('ask for what you will not do')
  await crossed.getByText('ask for what you will not do').click()
  await expect(crossed.getByText(/it would do with .*welding/)).toBeVisible()
  await page.getByRole('textbox', { name: 'Parts, at most' }).fill('200')
  await expect(crossed).toContainText('cost too much in parts')
  await expect(more).toBeVisible()
  await expect(offers.getByText(/In your bay: it fits/).first()).toBeVisible()
  for (const price of await offers.getByText(/^\d+ parts$/).allTextContents())
    expect(parseInt(price)).toBeLessThanOrEqual(200)
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

test('the page answers while plans are tried', async ({ page, ivent }) => {
  await page.goto(`${await ivent.build('Godwit')}/proposals`)
  await page.getByRole('button', { name: 'Try plans' }).click()
  const trying = page.getByText(/plans considered/)
  await expect(trying).toBeVisible()
  // a key is heard and drawn before the search is over
  await page.keyboard.press('5')
  await expect(page.getByRole('radio', { name: /Boost/ })).toBeChecked()
  expect(await trying.count()).toBe(1)
  await page.getByRole('button', { name: 'Stop' }).click()
})

test('stopped again while it judges, it ends with what was judged and does not say that nothing came through', async ({
  page,
  ivent,
}) => {
  await page.goto(`${await ivent.build('Heron')}/proposals`)
  await page.getByRole('button', { name: 'Try plans' }).click()
  await expect(page.getByRole('region', { name: 'Crossed out' })).toContainText(/[1-9][\d\s]* plans considered/)
  await page.getByRole('button', { name: 'Stop' }).click()
  await expect(page.getByText('judging what stands at the front')).toBeVisible()
  await page.getByRole('button', { name: 'Stop' }).click()
  await expect(page.getByRole('button', { name: /^Try .* more$/ })).toBeVisible()
  await expect(
    page.getByText(/was not looked for: try more plans|^Stopped before a plan that keeps to all/).first(),
  ).toBeVisible()
  await expect(page.getByText('Nothing came through')).toHaveCount(0)
})

test('from New build to its proposals; the plan as it stands is sized alone', async ({ page, ivent }) => {
  await page.goto(`${ivent.url}/new`)
  await page.getByRole('textbox', { name: 'Name of the build' }).fill('Sandpiper')
  const propose = page.getByRole('button', { name: 'Lay it out, and let Ivent propose what to build' })
  await expect(propose).toBeEnabled()
  await propose.click()
  await expect(page).toHaveURL(/\/proposals/)
  await expect(page.getByText('Assumed, until you change it.')).toBeVisible()
  await page.getByRole('combobox', { name: 'What may change' }).click()
  await page.getByRole('option', { name: 'this circuit, its sizes' }).click()
  await page.getByRole('button', { name: 'Try plans' }).click()
  await expect(page.getByRole('button', { name: /^Try .* more$/ })).toBeVisible()
  await page.getByText('Each circuit, and why it is or is not here').click()
  const circuits = page.getByRole('group').filter({ hasText: 'Each circuit, and why' }).getByRole('listitem')
  await expect(circuits).toHaveCount(1)
})

test('the plan as it stands is mended by the fewest presses, and its can tried in other places', async ({
  page,
  ivent,
}) => {
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
  await page.getByRole('button', { name: 'Try places for its cans' }).click()
  const places = page.getByRole('region', { name: 'Places that were tried' })
  await expect(places.getByRole('row').filter({ hasText: 'as they stand now' })).toBeVisible()
  await places.getByRole('button', { name: 'Put it there' }).first().click()
  await expect(page.getByRole('button', { name: /^Undo/ })).toBeEnabled()
})
