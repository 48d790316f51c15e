/** The bay: a tape sheet typed in, a can moved, a separator that comes to drain. */
import { expect, test } from './server'

test('a separator that never drains is raised until it does: by the tape, by the keys, by the fix', async ({
  page,
  ivent,
}) => {
  await page.goto(`${await ivent.build('Godwit')}/bay`)
  const rail = page.getByRole('region', { name: 'Verdicts' })
  await expect(rail.getByText(/Separator (drains only|does not drain)/)).toBeVisible()

  // typed from the tape, in any unit: under the return it never drains
  const up = page.getByLabel('Separator, floor, up')
  await up.fill('-500')
  await expect(rail.getByText('Separator never drains')).toBeVisible()

  // by the keys: a step of ten millimetres, in the view from the left
  const can = page.getByRole('button', { name: /^Separator: .*Arrow keys move it/ }).first()
  await can.focus()
  await page.keyboard.press('Shift+ArrowUp')
  await expect(up).toHaveValue('-490')

  // the fix says by how much, and then it drains in every state
  await rail.getByRole('button', { name: /^Raise the separator by/ }).click()
  await expect(rail.getByText(/Separator (never drains|drains only|does not drain)/)).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(rail.getByText('Separator never drains')).toBeVisible()
})

test('a bay starts from a ready one, and the length of a line follows the tape', async ({ page, ivent }) => {
  await page.goto(`${await ivent.build('Heron')}/bay`)
  await expect(page.getByText('The bay has not been measured yet')).toBeVisible()
  await page.getByRole('button', { name: /Transverse engine/ }).click()
  const row = page.getByRole('row', { name: /^Breather line/ })
  const before = (await row.textContent())!
  await page.getByLabel('Cam cover, breather nipple, ahead').fill('12 in')
  await expect(row).not.toHaveText(before)
  await expect(page.getByText(/1 of \d+ measured/)).toBeVisible()
  // led over a point it gets a bend, or says why it cannot
  await row.getByRole('button', { name: 'Lead it by a point' }).click()
  await page.getByLabel('Breather line, point 1, up').fill('150')
  await expect(row).toContainText(/° at|too short for its bends/)
  expect(await page.locator('body').innerText()).not.toMatch(/NaN|Infinity|undefined/)
})

test('what stands in the bay and the bonnet over it are typed as measured, and what comes too near is told', async ({
  page,
  ivent,
}) => {
  await page.goto(`${await ivent.build('Godwit')}/bay`)
  const rail = page.getByRole('region', { name: 'Verdicts' })
  // the bonnet lower than the lid of the separator
  for (const n of [1, 2, 3]) await page.getByLabel(`Bonnet ${n}, up`).fill('-150')
  await expect(rail.getByText(/meets the bonnet/).first()).toBeVisible()
  for (const n of [1, 2, 3]) await page.getByLabel(`Bonnet ${n}, up`).fill('200')
  await expect(rail.getByText(/meets the bonnet/)).toHaveCount(0)
  // the exhaust where the return runs
  await page.getByLabel('Exhaust housing, left').fill('-400')
  await page.getByLabel('Exhaust housing, up').fill('-330')
  await expect(rail.getByText(/Return, to the turbo drain (meets|passes).*Exhaust housing/)).toBeVisible()
  await page.getByRole('button', { name: 'Take Exhaust housing out of the bay' }).click()
  await expect(rail.getByText(/Exhaust housing/)).toHaveCount(0)
})
