/** Three jobs of a shop, each from a new build to its list, its card and its files: bungs, a deleted regulator, a separator with its return. */
import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import type { Answers } from '@/plan/schools/new-build'
import { newBuild } from '@/plan/schools/new-build'
import { expect, withServer } from './server'

const test = withServer()

/** Opens a plan that was sent in as a file. */
async function opened(
  page: Page,
  url: string,
  answers: Pick<Answers, 'name' | 'engineClass' | 'school'> & Partial<Answers>,
) {
  const made = await page.request.post(`${url}/api/builds`, {
    headers: { origin: url },
    data: newBuild({ use: 'street-track', ambientC: 10, units: 'metric', ...answers }),
  })
  const { id } = (await made.json()) as { id: string }
  return `${url}/builds/${id}`
}

/** Presses what makes a file, and reads its first bytes. */
async function fileOf(page: Page, button: string): Promise<string> {
  const coming = page.waitForEvent('download')
  await page.getByRole('button', { name: button, exact: true }).first().click()
  return readFileSync(await (await coming).path(), 'latin1')
}

test('vented twin covers with bungs: bought by size and metal, welded with the cover off, tested, spot found', async ({
  page,
  ivent,
}) => {
  const url = await opened(page, ivent.url, { name: 'Snipe', engineClass: 'v8-dry', school: 'vented-can' })
  await page.goto(`${url}/parts`)
  const buy = page.getByRole('region', { name: 'To buy' })
  await expect(buy.getByText(/^Weld bung, /).first()).toBeVisible()
  await expect(buy.getByText(/of the cover’s own metal/i).first()).toBeVisible()
  await page.getByText('A bung in a cover').click()
  for (const [label, mm] of [
    ['Baffle begins, from the front', '80'],
    ['and ends', '180'],
    ['begins, from the right edge', '20'],
    ['and ends there', '90'],
  ] as const) {
    await page.getByLabel(label, { exact: true }).fill(mm)
    await page.getByLabel(label, { exact: true }).press('Enter')
  }
  await expect(page.getByText(/^Its middle 130 mm from the front and 55 mm from the right edge/)).toBeVisible()
  await page.goto(`${url}/fit`)
  for (const step of [/^Weld the bung into/, /^Test the weld of/, /^Put the .* cover back/])
    await expect(page.getByRole('checkbox', { name: step }).first()).toBeVisible()
  expect(await fileOf(page, 'As PDF')).toMatch(/^%PDF/)
})

test('a deleted regulator: its ports closed in their sizes, the tee bought, codes read before and after', async ({
  page,
  ivent,
}) => {
  const url = await opened(page, ivent.url, {
    name: 'Teal',
    engineClass: 'i6-turbo',
    engine: { freshAir: 'regulator' },
    school: 'regulator-delete',
  })
  await page.goto(`${url}/parts`)
  const buy = page.getByRole('region', { name: 'To buy' })
  await expect(buy.getByText(/^Tee, three ends of/)).toBeVisible()
  await expect(buy.getByText(/^Cap with clamp for a nipple of \d/).first()).toBeVisible()
  // prices, hours and tax make an estimate
  await page.getByText('Estimate for a customer').click()
  await page.getByLabel('An hour costs').fill('50')
  await page.getByLabel('An hour costs').press('Enter')
  await page.getByLabel('Hours', { exact: true }).fill('4')
  await page.getByLabel('Hours', { exact: true }).press('Enter')
  await expect(page.getByText('200.00').first()).toBeVisible()
  expect(await fileOf(page, 'The estimate as PDF')).toMatch(/^%PDF/)
  expect(await fileOf(page, 'The list as CSV')).toContain('must be')
  await page.goto(`${url}/fit`)
  await expect(page.getByRole('checkbox', { name: /^Read the fault codes and note them/ })).toBeVisible()
  await expect(page.getByRole('checkbox', { name: /^Read the fault codes after the first drive/ })).toBeVisible()
})

test('a separator with its own return: drilled where the plan says, a plate put in the plan, a template printed', async ({
  page,
  ivent,
}) => {
  const url = await opened(page, ivent.url, { name: 'Rail', engineClass: 'v8-direct', school: 'separator-return' })
  await page.goto(`${url}/parts`)
  await expect(page.getByText(/Crankcase, oil return, block or pan:/)).toBeVisible()
  await page.getByRole('button', { name: 'Put it in the plan' }).click()
  await expect(page.getByText(/, in the plan$/)).toBeVisible()
  expect(await fileOf(page, '1:1 on A4')).toMatch(/^%PDF/)
  await page.goto(`${url}/fit`)
  const drilled = page.getByRole('checkbox', { name: /^Drill / })
  await expect(drilled).toHaveCount(1)
  await expect(drilled).toHaveAccessibleName(/crankcase, oil return/)
  await expect(page.getByRole('checkbox', { name: /^Make the baffle for/ })).toBeVisible()
  // a step's drawing opens with it
  await page
    .getByRole('button', { name: /^Push the breather line/ })
    .first()
    .click()
  await expect(page.getByRole('img', { name: 'Drawing: clamp' })).toBeVisible()
})
