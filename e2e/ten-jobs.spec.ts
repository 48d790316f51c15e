/** Ten jobs of a builder, by the screens alone, at the bench and on a phone. */
import type { Page } from '@playwright/test'
import { unzipSync } from 'fflate'
import { readFileSync } from 'node:fs'
import { newBuild } from '@/plan/schools/new-build'
import { expect, withServer } from './server'

const test = withServer()
const SIZES = { bench: { width: 1280, height: 800 }, phone: { width: 390, height: 844 } }

type Sent = { readonly name: string; readonly school?: string; readonly [field: string]: unknown }
/** A build that is sent in as a file: of a school, with other fields set. */
async function sent(page: Page, url: string, { name, school = 'both-sides', ...more }: Sent): Promise<string> {
  const build = newBuild({ name, engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric', school })
  const made = await page.request.post(`${url}/api/builds`, { headers: { origin: url }, data: { ...build, ...more } })
  return `${url}/builds/${((await made.json()) as { id: string }).id}`
}

/** The page takes input: what is typed is kept. */
const ready = (page: Page) => expect(page.locator('fieldset:disabled')).toHaveCount(0)

for (const [size, viewport] of Object.entries(SIZES)) {
  test.describe(size, () => {
    test.use({ viewport })

    test('1 from nothing to list, cuts, card and expected reading, in 13 clicks and 3 values', async ({
      page,
      ivent,
    }) => {
      let [clicks, values] = [0, 0]
      const click = async (target: ReturnType<Page['getByRole']>) => {
        clicks++
        await target.click()
      }
      const fill = async (label: string, value: string) => {
        values++
        await page.getByLabel(label, { exact: true }).fill(value)
      }
      await page.goto(ivent.url)
      await click(page.getByRole('link', { name: 'New build' }))
      await fill('Name of the build', `Knot ${size}`)
      await fill('Boost at rated speed', '90')
      await click(page.getByText('Fast road', { exact: true }))
      await click(page.getByRole('button', { name: 'Lay out the circuit' }))
      await page.waitForURL(/\/circuit/)
      await click(page.getByRole('link', { name: 'Bay', exact: false }).filter({ visible: true }).first())
      await click(page.getByRole('button', { name: /suits this engine/ }))
      await expect(page.getByText(/\d of \d+ measured/)).toBeVisible()
      await click(page.getByRole('link', { name: 'Parts' }).filter({ visible: true }).first())
      await expect(page.getByRole('region', { name: 'To buy' }).getByRole('row').nth(3)).toBeVisible()
      await expect(page.getByRole('region', { name: 'To cut' }).getByRole('row').nth(1)).toContainText(/\d+ mm/)
      await click(page.getByRole('link', { name: 'Fit' }).filter({ visible: true }).first())
      await expect(page.getByRole('checkbox').nth(8)).toBeAttached()
      await click(page.getByRole('button', { name: /^Read the crankcase/ }).first())
      await expect(page.getByText(/^Idle: expect/)).toBeVisible()
      expect(clicks).toBeLessThanOrEqual(13)
      expect(values).toBeLessThanOrEqual(3)
    })

    test('2 a verdict is mended at one press and taken back, by keyboard', async ({ page, ivent }) => {
      const url = await sent(page, ivent.url, { name: `Mended ${size}` })
      await page.goto(`${url}/circuit`)
      await ready(page)
      const rail = page.getByRole('region', { name: 'Verdicts' })
      const fix = rail.getByRole('button', { name: /^Fit a check valve/ })
      await fix.focus()
      await page.keyboard.press('Enter')
      await expect(fix).toHaveCount(0)
      await page.keyboard.press('Control+z')
      await expect(fix).toBeVisible()
    })

    test('3 the palette answers what is typed, and says before it changes anything', async ({ page, ivent }) => {
      await page.goto(`${await sent(page, ivent.url, { name: `Asked ${size}` })}/fit`)
      await ready(page)
      const wish = page.getByPlaceholder('What do you want to do?')
      const ask = async (what: string) => {
        await expect(async () => {
          await page.keyboard.press('Control+k')
          await expect(wish).toBeVisible({ timeout: 3000 })
        }).toPass()
        await wish.fill(what)
      }
      await ask('imperial')
      await page.keyboard.press('Enter')
      await expect(page.getByRole('radio', { name: /Idle.*crankcase/ })).toContainText('inHg')
      await ask('undo')
      await page.keyboard.press('Enter')
      await expect(page.getByRole('radio', { name: /Idle.*crankcase/ })).toContainText('kPa')
      await ask('no such thing at all')
      await expect(page.getByText('Nothing here has that name.')).toBeVisible()
    })

    test('4 help on ?, and the way back leads where one was: station, state and what was chosen', async ({
      page,
      ivent,
    }) => {
      const url = await sent(page, ivent.url, { name: `Found ${size}` })
      await page.goto(`${url}/circuit?state=boost&line=dirty`)
      await ready(page)
      await expect(page).toHaveTitle(new RegExp(`^Found ${size}: Circuit, .*, boost, Dirty line · Ivent$`))
      await expect(page.getByRole('radio', { name: /Boost.*crankcase/ })).toBeChecked()
      await page.keyboard.press('?')
      await expect(page.getByRole('heading', { name: /^Help/ })).toBeVisible()
      await page.goBack()
      await expect(page).toHaveURL(/\/circuit\?.*state=boost&line=dirty$/)
      await expect(page.getByRole('radio', { name: /Boost.*crankcase/ })).toBeChecked()
      // a link goes where it says although the address has just been written
      await page.keyboard.press('1')
      await page.getByRole('link', { name: 'Log' }).filter({ visible: true }).first().click()
      await expect(page).toHaveURL(/\/log\?.*state=idle/)
      await page.goBack()
      await expect(page).toHaveURL(/\/circuit\?.*state=idle/)
    })

    test('5 fitted at the car: noted with its odometer, and the other can says that it is not', async ({
      page,
      ivent,
    }) => {
      const url = await sent(page, ivent.url, { name: `Fitted ${size}` })
      await page.goto(`${url}/log`)
      await ready(page)
      await page.getByLabel('Odometer').fill('42000')
      await page.getByLabel('Which can').selectOption({ label: 'Breather can' })
      await page.getByRole('button', { name: 'Note it', exact: true }).click()
      await expect(page.getByText('Noted.')).toBeVisible()
      // until the server has it
      await expect
        .poll(async () =>
          JSON.stringify(await (await page.request.get(url.replace('/builds/', '/api/builds/'))).json()),
        )
        .toContain('42000')
      await page.goto(ivent.url)
      const ticket = page
        .getByRole('listitem')
        .filter({ has: page.getByRole('link', { name: `Fitted ${size}`, exact: true }) })
      await expect(ticket.getByText(/^Breather can: look within/)).toBeVisible()
      await expect(ticket.getByText('Catch can: not yet noted as fitted')).toBeVisible()
      await expect(ticket.getByText(/, on the car$/)).toBeVisible()
    })

    test('6 every field of an entry is put right, its can too', async ({ page, ivent }) => {
      const log = [
        { id: 'one', date: '2026-05-01', kind: 'fitted', odometerKm: 1000, part: 'can', plan: 'a' },
        { id: 'two', date: '2026-06-01', kind: 'emptied', odometerKm: 3000, part: 'can', plan: 'a', ml: 20 },
      ]
      const url = await sent(page, ivent.url, { name: `Righted ${size}`, school: 'both-sides', log })
      await page.goto(`${url}/log`)
      await ready(page)
      await page.getByRole('button', { name: /^Emptied catch can: 20 ml.*change it/ }).click()
      const form = page.getByRole('form', { name: /^The entry of/ })
      await form.getByLabel('Which can').selectOption({ label: 'Breather can' })
      await form.getByLabel('Came out, all').fill('12')
      await form.getByLabel('Day').fill('2026-06-03')
      await form.getByLabel('It looked').selectOption('milky')
      await form.getByRole('button', { name: 'Change it' }).click()
      await expect(page.getByRole('button', { name: /^Emptied breather can: 12 ml, milky/ })).toBeVisible()
    })

    test('7 an idea beside the plan on the car: the log stays with the car', async ({ page, ivent }) => {
      const log = [{ id: 'one', date: '2026-05-01', kind: 'fitted', odometerKm: 1000, part: 'can', plan: 'a' }]
      const url = await sent(page, ivent.url, { name: `Ideas ${size}`, school: 'vacuum-side-can', log })
      await page.goto(`${url}/log`)
      await ready(page)
      await page.getByRole('button', { name: /^Plan: .*on the car/ }).click()
      await page.getByRole('button', { name: 'Add a school' }).click()
      await page.getByRole('button', { name: 'Both sides, two cans' }).click()
      await expect(page.getByText(/^Both sides, two cans is an idea; on the car is /)).toBeVisible()
      await expect(page.getByRole('region', { name: 'Breather can', exact: true })).toHaveCount(0)
      await page.getByRole('button', { name: 'Both sides, two cans is on the car now' }).click()
      await expect(page.getByRole('region', { name: 'Breather can', exact: true })).toBeVisible()
      await expect(page.getByRole('button', { name: /^Plan: Both sides, two cans, on the car/ })).toBeVisible()
    })

    test('8 a leak test is judged, and its judgement stays in sight', async ({ page, ivent }) => {
      await page.goto(`${await sent(page, ivent.url, { name: `Tight ${size}` })}/fit`)
      await ready(page)
      await page
        .getByRole('button', { name: /^Blow 2.0 kPa/ })
        .first()
        .click()
      await page.getByLabel('Odometer').fill('500')
      await page.getByLabel('Odometer').press('Tab')
      await page.getByLabel('Blown to').fill('2')
      await page.getByLabel('left after a minute').fill('1.99')
      await page.getByRole('button', { name: 'Judge' }).click()
      await expect(
        page.getByText(/in a minute, as by a hole of .* It is tight\./).filter({ visible: true }),
      ).toBeVisible()
      await expect(page.getByLabel('Blown to').filter({ visible: true })).toHaveCount(0)
      await page.reload()
      await expect(page.getByText(/It is tight\./).filter({ visible: true })).toBeVisible()
    })

    test('9 a shop finds, tags, copies and puts away its builds', async ({ page, ivent }) => {
      for (const n of [1, 2, 3])
        await sent(page, ivent.url, { name: `Shop ${size} ${n}`, school: 'stock', tags: [`lane-${size}`] })
      await page.goto(`${ivent.url}/?find=%23lane-${size}`)
      await expect(page.getByRole('status').filter({ hasText: '3 of' })).toBeVisible()
      await page.getByRole('button', { name: `More to do with Shop ${size} 2` }).click()
      await page.getByRole('button', { name: 'Name and tags…' }).click()
      await page.getByLabel('Name', { exact: true }).fill(`Renamed ${size}`)
      await page.getByLabel(/^Tags/).fill('customer')
      await page.getByRole('button', { name: 'Save', exact: true }).click()
      await expect(page.getByRole('status').filter({ hasText: '2 of' })).toBeVisible()
      await page.getByRole('button', { name: `More to do with Shop ${size} 3` }).click()
      await page.getByRole('button', { name: 'Put away', exact: true }).click()
      await expect(page.getByRole('status').filter({ hasText: '1 of' })).toBeVisible()
      await page.getByRole('button', { name: /^Put away, \d/ }).click()
      await expect(page.getByRole('heading', { name: `Shop ${size} 3` })).toBeVisible()
      await page.getByRole('button', { name: 'Back to the list' }).click()
      await page.getByLabel('Find builds').fill(`renamed ${size} customer`)
      await page.getByRole('button', { name: `More to do with Renamed ${size}` }).click()
      await page.getByRole('button', { name: 'Duplicate' }).click()
      await expect(page.getByRole('heading', { name: `Renamed ${size} 2` })).toBeVisible()
    })

    test('10 all builds go out as one archive, and come in again; what is due goes to a calendar', async ({
      page,
      ivent,
    }) => {
      await sent(page, ivent.url, { name: `Packed ${size}` })
      await page.goto(ivent.url)
      const coming = page.waitForEvent('download')
      await page.getByRole('link', { name: 'Export all builds as one archive' }).click()
      const path = await (await coming).path()
      const files = Object.keys(unzipSync(readFileSync(path)))
      expect(files.length).toBe((await ivent.builds()).length)
      expect(files).toContain(`packed-${size}.ivent.json`)
      const before = (await ivent.builds()).length
      await page.getByLabel('Build files to bring in').setInputFiles([
        { name: 'all.zip', mimeType: 'application/zip', buffer: readFileSync(path) },
        { name: 'broken.json', mimeType: 'application/json', buffer: Buffer.from('{') },
      ])
      await expect(page.getByRole('dialog')).toContainText('broken.json was not brought in')
      await page.keyboard.press('Escape')
      await expect(page.getByText(`${files.length} builds are in the garage.`)).toBeVisible()
      expect((await ivent.builds()).length).toBe(before + files.length)
      const calendar = page.waitForEvent('download')
      await page.getByRole('button', { name: 'What is due, as a calendar file' }).click()
      expect(readFileSync(await (await calendar).path(), 'utf8')).toContain('DURATION:P1D\r\n')
    })
  })
}
