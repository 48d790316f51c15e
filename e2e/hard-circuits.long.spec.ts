/** Circuits that are hard to plumb, each built from stock by what the screen offers. */
import { expect, test } from './server'
import type { Page } from '@playwright/test'

type Step = readonly [kind: 'Lines' | 'Parts', row: string, action: string]
const CIRCUITS: readonly { readonly name: string; readonly steps: readonly Step[]; readonly shows: readonly Step[] }[] =
  [
    {
      name: 'a can that drains back to the block',
      steps: [
        ['Lines', 'Breather line', 'Put a can into the breather line'],
        ['Parts', 'Catch can', 'Lead a return from the catch can to the block or pan'],
      ],
      shows: [['Lines', 'Return', '']],
    },
    {
      name: 'a return into the turbo drain',
      steps: [
        ['Lines', 'Breather line', 'Put a can into the breather line'],
        ['Parts', 'Catch can', 'Lead a return from the catch can to the turbo drain'],
      ],
      shows: [['Lines', 'Return', '']],
    },
    {
      name: 'a return into the filler neck',
      steps: [
        ['Lines', 'Breather line', 'Put a can into the breather line'],
        ['Parts', 'Catch can', 'Lead a return from the catch can to the filler neck of the cam cover'],
      ],
      shows: [['Lines', 'Return', '']],
    },
    {
      name: 'a hose led to a can that stands there',
      steps: [
        ['Lines', 'Suction line', 'Put a can into the suction line'],

        ['Parts', 'Cam cover', 'Lead a hose from the cam cover to the catch can as well'],
      ],
      shows: [['Lines', 'Hose to the catch can', '']],
    },
    {
      name: 'a separator in place of the filler cap',
      steps: [['Parts', 'Cam cover', 'Fit a separator in place of the filler cap of the cam cover']],
      shows: [['Parts', 'Filler-cap separator', '']],
    },
    {
      name: 'an oil tank with a scavenge stage',
      steps: [['Parts', 'Crankcase', 'Fit an oil tank with a scavenge stage']],
      shows: [
        ['Parts', 'Oil tank', ''],
        ['Lines', 'Scavenge line', ''],
      ],
    },
    {
      name: 'a tee in the vacuum line that other things hang on',
      steps: [['Parts', 'Intake manifold', 'Tee into the vacuum line that brake or fuel regulator hang on']],
      shows: [['Lines', 'Vacuum line', '']],
    },
    {
      name: 'a fresh-air hose of its own',
      steps: [
        ['Lines', 'Breather line', 'Take the breather line off and cap both ends'],
        ['Parts', 'Inlet, ahead of compressor', 'Lead a hose from the inlet, ahead of compressor to the cam cover'],
      ],
      shows: [['Lines', 'Hose to the cam cover', '']],
    },
  ]

const start = (name: string) => new RegExp(`^${name.replaceAll(/[^\w ,-]/g, '.')}`)
async function look(page: Page, [kind, row]: Step) {
  await page.getByRole('tab', { name: new RegExp(`^${kind}, `) }).click()
  return page.getByRole('row', { name: start(row) }).first()
}

for (const { name, steps, shows } of CIRCUITS)
  test(`by editing from stock: ${name}`, async ({ page, ivent }) => {
    await page.goto(`${await ivent.build('Heron')}/circuit`)
    await page.getByRole('button', { name: /^Plan:/ }).click()
    await page.getByRole('button', { name: 'Add a school' }).click()
    await page.getByRole('dialog').getByRole('button', { name: 'As the maker laid it', exact: true }).click()
    for (const step of steps) {
      const row = await look(page, step)
      await row
        .getByRole('button', { name: start(step[1]) })
        .first()
        .click()
      await page.getByRole('button', { name: 'Change it…' }).click()
      const offered = page.getByRole('dialog', { name: 'What can be done here' })
      await offered.getByRole('button', { name: step[2], exact: true }).click()
      await expect(offered).toHaveCount(0)
    }
    for (const step of shows) await expect(await look(page, step)).toBeVisible()
    // in the picture, with an answer in every state, and a verdict on it
    await expect(page.getByRole('group', { name: /^Schematic in/ })).toBeVisible()
    expect(await page.locator('body').innerText()).not.toMatch(/no answer|NaN|Infinity|undefined/)
    await expect(page.getByRole('region', { name: 'Verdicts' }).getByRole('listitem').first()).toBeVisible()
    for (let i = 0; i <= steps.length; i++) await page.getByRole('button', { name: 'Undo' }).click()
    await expect(page.getByRole('button', { name: /^Plan: As the maker laid it/ })).toHaveCount(0)
    // the next test finds this build as it was
    await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  })
