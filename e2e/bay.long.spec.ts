/** The bay: a tape sheet typed in, a can moved, a separator that comes to drain. */
import { newBuild } from '@/plan/schools/new-build'
import { expect, test, type Ivent } from './server'

/** Address of a build that has no bay yet. */
async function bringIn(ivent: Ivent, engineClass: 'i4-na' | 'v8-na', school: string, name: string): Promise<string> {
  const build = newBuild({ name, engineClass, use: 'track', ambientC: 10, units: 'metric', school })
  const sent = await fetch(`${ivent.url}/api/import`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: ivent.url },
    body: JSON.stringify(build),
  })
  if (!sent.ok) throw new Error(await sent.text())
  return ivent.build(name)
}

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
  await page.goto(`${await bringIn(ivent, 'i4-na', 'stock', 'Plover')}/bay`)
  await expect(page.getByText('The bay has not been measured yet')).toBeVisible()
  await page.getByRole('button', { name: /Transverse engine.*suits this engine/ }).click()
  const row = page.getByRole('row', { name: /^Breather line/ })
  await expect(page.getByText(/0 of \d+ measured/)).toBeVisible()
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
  const spots = await page.getByLabel(/^Bonnet \d+, up$/).count()
  const over = Array.from({ length: spots }, (_, i) => i + 1)
  for (const n of over) await page.getByLabel(`Bonnet ${n}, up`).fill('-250')
  await expect(rail.getByText(/meets the bonnet/).first()).toBeVisible()
  for (const n of over) await page.getByLabel(`Bonnet ${n}, up`).fill('200')
  await expect(rail.getByText(/meets the bonnet/)).toHaveCount(0)
  // the exhaust where the return runs
  for (const way of ['ahead', 'left', 'up']) {
    const typed = (of: string) => page.getByLabel(`${of}, ${way}`).inputValue().then(Number)
    const halfWay = ((await typed('Separator, floor')) + (await typed('Crankcase, oil return, block or pan'))) / 2
    await page.getByLabel(`Exhaust housing, ${way}`).fill(String(Math.round(halfWay)))
  }
  await expect(rail.getByText(/Return, to the turbo drain (meets|passes).*Exhaust housing/)).toBeVisible()
  await page.getByRole('button', { name: 'Take Exhaust housing out of the bay' }).click()
  await expect(rail.getByText(/Exhaust housing/)).toHaveCount(0)
})

test('placed by its best spot, led by a way that is found, turned by the keys, and taken away as files', async ({
  page,
  ivent,
}) => {
  await page.goto(`${await ivent.build('Godwit')}/bay`)
  const up = page.getByLabel('Separator, floor, up')
  await up.fill('-500')
  const rail = page.getByRole('region', { name: 'Verdicts' })
  await expect(rail.getByText('Separator never drains')).toBeVisible()
  await page.getByRole('button', { name: 'Best spots for the separator' }).click()
  await page.getByRole('button', { name: 'Put it there' }).first().click()
  await expect(rail.getByText(/Separator (never drains|drains only|does not drain)/)).toHaveCount(0)
  await expect(up).not.toHaveValue('-500')

  const row = page.getByRole('row', { name: /^Return, to the turbo drain|^Return/ }).last()
  await row.getByRole('button', { name: 'Find a way' }).click()
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled()
  await expect(row.getByRole('button', { name: 'Find a way' })).toBeVisible()
  await expect(rail.getByText(/Return.* (meets|passes)/)).toHaveCount(0)

  // a port that points up asks for a bent end
  await page.getByLabel('Cam cover, breather nipple, points').click()
  await page.getByRole('option', { name: 'up', exact: true }).click()
  await expect(page.getByText(/° hose end at its (start|end)/).first()).toBeVisible()

  // seen from the front, and in space by the keys
  await page.getByRole('radio', { name: 'From the front' }).click()
  await expect(page.getByRole('group', { name: 'The bay from the front' })).toBeVisible()
  await page.getByRole('radio', { name: 'In space' }).click()
  const space = page.getByRole('application', { name: /^The bay in space/ })
  await expect(space.locator('canvas')).toBeVisible()
  await space.focus()
  await page.keyboard.press('ArrowLeft')

  const file = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Points of the ways as CSV' }).click()
  expect((await file).suggestedFilename()).toBe('Godwit, ways.csv')
  await page.getByLabel('Read points in').setInputFiles({
    name: 'ways.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('line,point,ahead_mm,left_mm,up_mm\nnowhere,1,1,2,3'),
  })
  await expect(
    page.getByText(/ways.csv was not read, nothing was changed. Line 2: this plan has no line nowhere/),
  ).toBeVisible()
})

test('a photograph is laid under a view by three touches and one distance', async ({ page, ivent }) => {
  await page.goto(`${await ivent.build('Godwit')}/bay`)
  const shot = await page.screenshot()
  await page.getByLabel('Photo from the left').setInputFiles({ name: 'bay.png', mimeType: 'image/png', buffer: shot })
  const dialog = page.getByRole('dialog', { name: 'Scale of the photo' })
  const photo = dialog.getByRole('button', { name: /^The photo/ })
  await expect(dialog.getByText('Touch the datum.')).toBeVisible()
  const box = (await photo.boundingBox())!
  for (const [x, y] of [
    [0.3, 0.5],
    [0.3, 0.6],
    [0.7, 0.6],
  ] as const)
    await page.mouse.click(box.x + x * box.width, box.y + y * box.height)
  await dialog.getByLabel('Distance').fill('none')
  await dialog.getByRole('button', { name: 'Lay it under' }).click()
  await expect(dialog.getByRole('alert')).toBeVisible()
  await dialog.getByLabel('Distance').fill('50 cm')
  await dialog.getByRole('button', { name: 'Lay it under' }).click()
  const left = page.getByRole('group', { name: 'The bay from the left' })
  await expect(left.locator('image')).toHaveCount(1)
  await page.reload()
  await expect(left.locator('image')).toHaveCount(1)
  await page.getByRole('button', { name: 'Take the photo away' }).click()
  await expect(left.locator('image')).toHaveCount(0)
})

test('a separator with its own return on an eight: from the tape sheet to drained in corners', async ({
  page,
  ivent,
}) => {
  await page.goto(`${await bringIn(ivent, 'v8-na', 'separator-return', 'Curlew')}/bay`)
  await page.getByRole('button', { name: /Longitudinal engine.*suits this engine/ }).click()
  const rail = page.getByRole('region', { name: 'Verdicts' })
  await expect(page.getByText(/0 of \d+ measured/)).toBeVisible()
  // as it opens nothing is too near to anything, and it drains
  await expect(rail.getByText('Separator drains in every state')).toBeVisible()
  await expect(rail.getByText(/meets|passes \d/)).toHaveCount(0)

  // by the tape: the return ends where it cannot fall to, the separator as low
  await page.getByLabel('Separator, floor, up').fill('-700')
  await expect(rail.getByText('Separator never drains')).toBeVisible()

  // a battery called out from the tape, copied, moved by the keys and taken out again
  const line = page.getByLabel(/From the tape in one line/)
  await line.fill('battery, 240 x 175')
  await page.getByRole('button', { name: 'Add it' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'Say its name' })).toBeVisible()
  await line.fill('Second battery, 240 x 175 x 190, corner at 150, 700, -250')
  await page.getByRole('button', { name: 'Add it' }).click()
  await expect(page.getByLabel('Second battery, left')).toHaveValue('787.5')
  await page.getByRole('button', { name: 'Copy Second battery' }).click()
  await expect(page.getByLabel('Second battery, copy, left')).toHaveValue('787.5')
  const above = page.getByRole('group', { name: 'The bay from above' })
  await above.getByRole('button', { name: /^Second battery, copy\./ }).focus()
  await page.keyboard.press('Shift+ArrowRight')
  await expect(page.getByLabel('Second battery, copy, ahead')).toHaveValue('280')
  await page.getByRole('button', { name: 'Take Second battery, copy out of the bay' }).click()

  // its best spot, hoses and all
  await page.getByRole('button', { name: 'Best spots for the separator' }).click()
  await expect(page.getByText('every hose finds its way').first()).toBeVisible()
  // a list that is complete is not still being looked for
  await expect(page.getByText(/Looking through the bay/)).toHaveCount(0)
  await page.getByRole('button', { name: 'Put it there' }).first().click()
  await expect(rail.getByText('Separator drains in every state')).toBeVisible()
  await expect(rail.getByText(/Oil leans off the return/)).toHaveCount(0)
  await expect(rail.getByText(/meets|passes \d/)).toHaveCount(0)

  // the same car the other way round
  await page.getByRole('button', { name: 'Drive on the other side' }).click()
  await expect(page.getByText(/Right-hand drive: brake servo and steering shaft/)).toBeVisible()
  await page.getByRole('button', { name: 'Mirror the whole bay' }).click()
  await expect(page.getByText(/measured from the right strut top now/)).toBeVisible()
  await expect(rail.getByText('Separator drains in every state')).toBeVisible()
  expect(await page.locator('body').innerText()).not.toMatch(/NaN|Infinity|undefined/)
})
