/** Worked cases, whose answers come from elsewhere: each agrees within what it allows. */
import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { runCases } from './worked-cases'

const FOLDER = join('verification', 'cases')
const results = runCases(FOLDER)

test('every case of the folder was run', () => {
  expect(results.map((r) => r.file)).toEqual(
    readdirSync(FOLDER)
      .filter((f) => f.endsWith('.json'))
      .toSorted(),
  )
})

test.each(results.map((r) => [r.file, r] as const))('%s', (_, r) => {
  expect(r.status === 'error' ? r.reason : r).toMatchObject({ status: 'pass' })
})
