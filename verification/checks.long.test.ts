import { readFileSync } from 'node:fs'
import { immediateChecks, workedCases } from './all'
import { passes, type Check } from './check'
import { epanetChecks } from './checks/epanet'

const nameOf = (c: Check) => `${c.group}: ${c.what}`

const immediate = immediateChecks()

test.each(immediate.map((c) => [nameOf(c), c] as const))('%s', (_, c) => {
  if (!passes(c)) throw new Error(`expected ${c.expected.toString()}, got ${c.got}; ${c.source}`)
})

test('docs/verification.md tells every comparison that is run', () => {
  const page = readFileSync('docs/verification.md', 'utf8')
  expect(immediate.map((c) => c.what).filter((what) => !page.includes(`| ${what}`))).toEqual([])
  expect(page).not.toContain('FAILS')
})

test('a six-unknown circuit agrees with epanet-js in every pressure and flow', async () => {
  for (const c of await epanetChecks()) expect([nameOf(c), passes(c)]).toEqual([nameOf(c), true])
})

describe('worked cases from independent software', () => {
  const results = workedCases()
  test.each(results.map((r) => [r.file, r] as const))('%s', (_, r) => expect(r).toMatchObject({ status: 'pass' }))
  test('every case was run', () => expect(results.filter((r) => r.status === 'pass').length).toBeGreaterThanOrEqual(25))
})
