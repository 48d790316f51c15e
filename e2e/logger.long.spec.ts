/** A logger that sends as it reads: at the Log and at Fit, through a broken line, and by the program that the protocol's page prints. */
import { execFile, spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import type { Page } from '@playwright/test'
import { expect, Ivent, withServer } from './server'

const test = withServer()

let folder: string
let running: ChildProcess[] = []
test.beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'ivent-logger-'))
  running = []
})
test.afterEach(() => {
  // with what it started in turn
  for (const { pid } of running)
    try {
      if (pid) process.kill(-pid, 'SIGKILL')
    } catch {
      // it has ended by itself
    }
  rmSync(folder, { recursive: true, force: true })
})

/** A build as a file, as the logger takes it. */
async function fileOf(url: string): Promise<string> {
  const answer = await fetch(url.replace('/builds/', '/api/builds/'))
  const { document } = (await answer.json()) as { document: object }
  const file = join(folder, 'build.json')
  writeFileSync(file, JSON.stringify(document))
  return file
}
const addressOf = (url: string) => `${url.replace('/builds/', '/api/builds/')}/logger`
/** A logger under way; what it says to a person is read as it comes. */
function startLogger(file: string, to: string, ...options: readonly string[]): { readonly said: () => string } {
  const child = spawn('./ivent', ['logger', file, '--to', to, ...options], { detached: true })
  running.push(child)
  let said = ''
  child.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()))
  return { said: () => said }
}
const gauge = (page: Page) => page.getByRole('region', { name: /^Logger/ })
const lines = async (page: Page) => Number(/(\d+) lines/.exec(await gauge(page).innerText())?.[1] ?? 0)
async function toRecordings(page: Page): Promise<void> {
  await expect(async () => {
    await page.locator('main').hover()
    await page.mouse.wheel(0, 3000)
    await expect(page.getByRole('region', { name: /^Recording/ })).toBeVisible({ timeout: 500 })
  }).toPass()
}

test('lines come in through a broken line: nothing twice, nothing lost; opened as a recording they are all there', async ({
  page,
}) => {
  const ivent = new Ivent()
  try {
    expect(await ivent.start()).toBe('answers')
    const url = await ivent.build('Heron')
    await page.goto(`${url}/log`)
    await toRecordings(page)
    const logger = startLogger(await fileOf(url), addressOf(url), '--drive', 'idle', '--seconds', '300')
    await expect.poll(() => lines(page)).toBeGreaterThan(20)
    await expect(gauge(page)).toContainText('idle, predicted')
    await ivent.stop('SIGKILL')
    await expect.poll(logger.said).toContain('No answer')
    const before = await lines(page)
    expect(await ivent.start('start')).toBe('answers')
    await expect.poll(logger.said).toContain('The line is back.')
    await expect.poll(() => lines(page)).toBeGreaterThan(before + 40)
    await expect(gauge(page)).not.toContainText('did not come')
    // numbers that the bench holds since then follow on what the page had before
    const held = (await (await fetch(addressOf(url))).json()) as { last: number; lines: string[] }
    const numbers = held.lines.map((l) => Number(l.split(' ')[0]))
    expect(numbers).toEqual(Array.from(numbers, (_, k) => numbers[0]! + k))
    expect(numbers[0]!).toBeLessThanOrEqual(before + 1)
    await gauge(page).getByRole('button', { name: 'Open as a recording' }).click()
    const panel = page.getByRole('region', { name: /^Recording idle-/ })
    await expect(panel.getByRole('application')).toBeVisible()
    const rows = Number(/([\d ]+) rows/.exec(await panel.innerText())![1]!.replaceAll(' ', ''))
    expect(rows).toBeGreaterThan(before)
    await expect(panel).not.toContainText('gap')
  } finally {
    await ivent.end()
  }
})

test('at Fit the needle stands on what is expected, and a steady reading is taken into the log', async ({
  page,
  ivent,
}) => {
  const url = await ivent.build('Heron')
  await page.goto(`${url}/fit`)
  // the step that proves the fitting, whatever is ticked before it
  await page
    .getByRole('button', { name: /^Read the crankcase/ })
    .or(page.getByRole('button', { name: /gauge/i }))
    .first()
    .click()
  startLogger(await fileOf(url), addressOf(url), '--drive', 'idle', '--seconds', '120')
  await expect(gauge(page)).toContainText('kPa idle')
  await gauge(page)
    .getByRole('button', { name: /^Steady: take .* at idle$/ })
    .click()
  await expect(gauge(page)).toContainText(/Noted: .* at idle/)
  await expect
    .poll(async () => {
      const answer = await fetch(url.replace('/builds/', '/api/builds/'))
      const { document } = (await answer.json()) as { document: { log: { note?: string }[] } }
      return document.log.filter((e) => e.note?.startsWith('Of the logger')).length
    })
    .toBe(1)
})

test('the program that the protocol’s page prints does what it says', async ({ page, ivent }) => {
  const url = await ivent.build('Heron')
  const { port } = new URL(ivent.url)
  const program = /```python\n([\s\S]*?)```/.exec(readFileSync('docs/logger.md', 'utf8'))![1]!
  const file = join(folder, 'sensor.py')
  writeFileSync(file, program.replace('4180', port).replace('ID-OF-THE-BUILD', url.split('/').at(-1)!))
  running.push(spawn('python3', [file], { detached: true }))
  await page.goto(`${url}/log`)
  await toRecordings(page)
  await expect(gauge(page)).toContainText('−0.40 kPa')
  await expect(gauge(page)).toContainText('as the switch above has it')
  await expect.poll(() => lines(page)).toBeGreaterThan(30)
  await expect(gauge(page)).not.toContainText('did not come')
})

test('lines of a serial port or a file are handed on, those that are none left out', async ({ ivent }) => {
  const url = await ivent.build('Heron')
  const file = join(folder, 'port.txt')
  const text = [
    'boot ok',
    'ivent-logger 1 x7',
    'columns crankcase[kPa]',
    '1 0.0 -0.4',
    '2 0.1 -0.4',
    '\u0000\u0001',
    '3 0.2 -0.5',
  ]
  writeFileSync(file, `${text.join('\n')}\n`)
  // without blocking: a connection that the server closes meanwhile has to be seen as closed, or the next question fails on it
  await promisify(execFile)('./ivent', ['logger', '--from', file, '--to', addressOf(url)])
  const held = (await (await fetch(addressOf(url))).json()) as object
  expect(held).toMatchObject({
    head: { run: 'x7' },
    last: 3,
    missing: 0,
    lines: ['1 0.0 -0.4', '2 0.1 -0.4', '3 0.2 -0.5'],
  })
  // no page elsewhere can send such lines, and what is none is refused with words
  const send = (type: string, body: string, headers = {}) =>
    fetch(addressOf(url), { method: 'POST', headers: { 'content-type': type, ...headers }, body })
  expect((await send('text/plain', text.join('\n'))).status).toBe(415)
  expect((await send('application/x-ivent-lines', 'a', { origin: 'http://elsewhere' })).status).toBe(403)
  const refused = await send('application/x-ivent-lines', 'hello')
  expect([refused.status, await refused.text()]).toEqual([422, expect.stringMatching(/^wrong The first line must be/)])
})
