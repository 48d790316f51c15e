/** Practice: a lesson and a hunt played to the end, by keyboard, at the bench and on a phone. */
import type { Locator, Page } from '@playwright/test'
import { expect, withServer } from './server'

const test = withServer()

/** Presses Tab until something has the focus. */
async function tabTo(page: Page, target: Locator): Promise<void> {
  for (let k = 0; k < 200; k++) {
    if (await target.evaluate((el) => el === document.activeElement)) return
    await page.keyboard.press('Tab')
  }
  throw new Error('It was not reached by the Tab key.')
}
async function press(page: Page, target: Locator): Promise<void> {
  await expect(target).toBeEnabled()
  await tabTo(page, target)
  await page.keyboard.press('Enter')
}

for (const width of [1280, 390]) {
  test(`a lesson is played to its end by keyboard, and its progress kept (${width} px)`, async ({ page, ivent }) => {
    await page.setViewportSize({ width, height: 844 })
    await page.goto(`${ivent.url}/practice`)
    await press(page, page.getByRole('link', { name: /Is a can worth it for this customer/ }))
    await expect(page).toHaveURL(/lessons\/worth/)
    await expect(page).toHaveTitle(/worth it/)
    const questions = page.getByRole('group')
    const check = (k: number) => page.getByRole('listitem').nth(k).getByRole('button', { name: 'Check' })
    // a wrong answer first
    const number = questions.first().getByRole('textbox')
    await expect(page.getByText('Open its build in the stations')).toBeVisible()
    await tabTo(page, number)
    await page.keyboard.type('900')
    await press(page, check(0))
    await expect(page.getByText('Not so.')).toBeVisible()
    await tabTo(page, number)
    await page.keyboard.press('Control+A')
    await page.keyboard.type('60')
    await press(page, check(0))
    await expect(page.getByText(/The model says 66/)).toBeVisible()
    for (const [k, says] of [
      [1, 'It gains little'],
      [2, 'No, it stays sealed'],
    ] as const) {
      const radio = page.getByRole('radio', { name: says })
      await radio.focus()
      await page.keyboard.press('Space')
      await press(page, check(k))
    }
    await expect(page.getByText('All of it is right.')).toBeVisible()
    await page.goto(`${ivent.url}/practice`)
    await expect(page.getByRole('link', { name: /Is a can worth it/ })).toContainText('done')
    const wide = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)
    expect(wide).toBeLessThanOrEqual(0)
  })

  test(`a hunt is played to its end by keyboard, looked back on and taken away (${width} px)`, async ({
    page,
    ivent,
  }) => {
    await page.setViewportSize({ width, height: 844 })
    await page.goto(`${ivent.url}/practice`)
    await tabTo(page, page.getByRole('textbox', { name: 'Car number' }))
    await page.keyboard.type('12')
    await press(page, page.getByRole('link', { name: 'Deal car 12' }))
    await expect(page.getByText('75 of 75 minutes left')).toBeVisible()
    await press(page, page.getByRole('button', { name: /^Crankcase, pull/ }))
    await press(page, page.getByRole('button', { name: /^Drive and read alone/ }))
    const known = page.getByRole('region', { name: 'You know' })
    await expect(known.getByRole('listitem')).toHaveCount(1)
    await expect(known).toContainText('read alone at the wheel')
    await press(page, page.getByRole('button', { name: /^Feel along the breather line/ }))
    await press(page, page.getByRole('button', { name: /^Let it cool first, 25 min/ }))
    await expect(known).toContainText('folded or soft')
    // loaded again, what was done stands
    await page.reload()
    await expect(known.getByRole('listitem')).toHaveCount(2)
    await press(page, page.getByRole('combobox', { name: 'What is wrong' }))
    await expect(page.getByRole('option', { name: 'Breather line collapsed', exact: true })).toBeAttached()
    await page.keyboard.type('Breather line c', { delay: 40 })
    await expect(page.getByRole('option', { name: 'Breather line collapsed', exact: true })).toBeFocused()
    await page.keyboard.press('Enter')
    await expect(page.getByRole('combobox', { name: 'What is wrong' })).toContainText('Breather line collapsed')
    await press(page, page.getByRole('button', { name: 'That is it' }))
    await expect(page.getByRole('heading', { name: /Found. It was: Breather line collapsed/ })).toBeVisible()
    await expect(page.getByRole('region', { name: 'What each step told' }).getByRole('listitem')).toHaveCount(3)
    await expect(page.getByRole('region', { name: 'A careful fitter' })).toContainText('minutes, then')
    await page.goto(`${ivent.url}/practice`)
    await expect(page.getByRole('list', { name: 'Hunts so far' })).toContainText('found')
    await press(page, page.getByRole('button', { name: 'Take all progress away' }))
    await expect(page.getByRole('list', { name: 'Hunts so far' })).toHaveCount(0)
  })
}

test('a lesson’s build opens in the real stations', async ({ page, ivent }) => {
  await page.goto(`${ivent.url}/practice/lessons/drain`)
  await page.getByRole('button', { name: 'Open its build in the stations' }).click({ timeout: 60_000 })
  await expect(page).toHaveURL(/\/builds\/.*\/bay/)
  await expect(page).toHaveTitle(/Lesson: Will it drain\?/)
})
