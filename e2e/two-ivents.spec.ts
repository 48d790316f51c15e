/** Two Ivents on one PostgreSQL database: what one changes is at the other; one killed, the server restarted, connections cut: nothing is lost. */
import { TestPostgres } from '../src/server/testing-postgres'
import { expect, Ivent } from './server'
import { logIds } from './siege'
import { test as base } from '@playwright/test'

type Two = { readonly postgres: TestPostgres; readonly url: string; readonly one: Ivent; readonly other: Ivent }
const test = base.extend<object, { two: Two }>({
  two: [
    // oxlint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const postgres = new TestPostgres()
      await postgres.start()
      const url = postgres.database('shop')
      const [one, other] = [new Ivent({ DATABASE_URL: url }), new Ivent({ DATABASE_URL: url })]
      for (const ivent of [one, other]) if ((await ivent.start()) !== 'answers') throw new Error(ivent.output)
      await use({ postgres, url, one, other })
      await Promise.all([one.end(), other.end()])
      postgres.end()
    },
    { scope: 'worker' },
  ],
})

const json = (body: unknown) => ({
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
})

/** Notes entries through both until it is told to stop; what was acknowledged, and what was answered otherwise. */
function write(ivents: readonly Ivent[], build: string, name: string) {
  const acknowledged = new Set<string>()
  const refused: { status: number; error: string }[] = []
  const end = new AbortController()
  const writer = async (ivent: Ivent, w: number) => {
    for (let n = 0; !end.signal.aborted; n++) {
      const id = `${name}w${w}n${n}`
      const entry = { id, date: '2026-05-01', kind: 'checked', odometerKm: 1000 + n, part: 'can' }
      const answer = await fetch(`${ivent.url}/api/builds/${build}/log`, json(entry)).catch(() => undefined)
      if (answer?.status === 201) acknowledged.add(id)
      else if (answer) refused.push({ status: answer.status, ...((await answer.json()) as { error: string }) })
      if (answer?.status !== 201) await new Promise((resolve) => setTimeout(resolve, 50))
    }
  }
  const going = ivents.map(writer)
  const stop = async () => {
    end.abort()
    await Promise.all(going)
  }
  return { acknowledged, refused, stop }
}

test('two browsers on two Ivents see each other’s ticks, and where the other is', async ({
  browser,
  two: { one, other },
}) => {
  expect((await one.builds()).map((b) => b.id)).toEqual((await other.builds()).map((b) => b.id))
  const path = `/builds/${(await one.builds()).find((b) => b.name === 'Heron')!.id}/fit`
  const [here, there] = await Promise.all([one, other].map(async () => (await browser.newContext()).newPage()))
  await here!.goto(one.url + path)
  await there!.goto(other.url + path)
  await expect(here!.getByText(/Bench: Fit, step \d+/)).toBeVisible()
  await expect(there!.getByText(/Bench: Fit, step \d+/)).toBeVisible()
  for (const [from, to] of [
    [here!, there!],
    [there!, here!],
  ] as const) {
    const box = from.getByRole('checkbox', { checked: false }).first()
    const name = (await box.getAttribute('aria-label'))!
    await box.click()
    await expect(to.getByRole('checkbox', { name, exact: true })).toBeChecked()
  }
  // a page that the other Ivent had drawn before is drawn anew
  const name = `Renamed ${Date.now()}`
  const id = path.split('/')[2]!
  const { revision } = (await (await fetch(`${one.url}/api/builds/${id}`)).json()) as { revision: number }
  const rename = { id: crypto.randomUUID(), name: 'renamed', edits: [{ op: 'set', path: ['name'], value: name }] }
  expect((await fetch(`${one.url}/api/builds/${id}/changes`, json({ base: revision, changes: [rename] }))).status).toBe(
    200,
  )
  await expect.poll(async () => (await fetch(other.url + path)).text()).toContain(name)
  for (const p of [here!, there!]) await p.context().close()
})

test('one of two killed, the server restarted, connections cut while both save: nothing acknowledged is lost, words instead of a stack', async ({
  two: { postgres, url, one, other },
}) => {
  const build = (await one.builds())[0]!.id
  const all = new Set<string>()
  const refused: { status: number; error: string }[] = []
  const during = async (name: string, trouble: () => Promise<void>) => {
    const writing = write([one, other, other], build, name)
    await expect.poll(() => writing.acknowledged.size).toBeGreaterThan(3)
    await trouble()
    const before = writing.acknowledged.size
    // it goes on by itself
    await expect.poll(() => writing.acknowledged.size).toBeGreaterThan(before + 3)
    await writing.stop()
    for (const id of writing.acknowledged) all.add(id)
    refused.push(...writing.refused)
  }
  await during('killed', async () => {
    await one.stop('SIGKILL')
    const started = await one.start('start')
    expect(started, one.output).toBe('answers')
  })
  await during('restarted', async () => {
    postgres.down()
    await new Promise((resolve) => setTimeout(resolve, 300))
    postgres.up()
  })
  await during('cut', async () => {
    postgres.cutConnections(url)
    await Promise.resolve()
  })
  const there = await logIds(other, build)
  expect([...all].filter((id) => !there.has(id))).toEqual([])
  expect(refused.length).toBeGreaterThan(0)
  for (const { status, error } of refused) {
    expect([409, 503], error).toContain(status)
    if (status === 503) expect(error).toMatch(/^The database does not answer\. What was saved before is safe/)
  }
  for (const ivent of [one, other]) expect(ivent.output).not.toMatch(/\n\s+at .*\(/)
  // what another changes is still heard of
  const name = `After all ${Date.now()}`
  const { revision } = (await (await fetch(`${one.url}/api/builds/${build}`)).json()) as { revision: number }
  const rename = { id: crypto.randomUUID(), name: 'renamed', edits: [{ op: 'set', path: ['name'], value: name }] }
  await fetch(`${one.url}/api/builds/${build}/changes`, json({ base: revision, changes: [rename] }))
  await expect.poll(async () => (await fetch(`${other.url}/builds/${build}/log`)).text()).toContain(name)
})
