/** What was practised: kept, the last of each, read again, taken away; what is no progress refused in words. */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { readProgress } from '@/plan/practice/progress'
import { refusalForDevice } from './asker'
import { forgetPractice, keepPractice, listPractice } from './practice'
import { closeStore } from './store'

const folder = mkdtempSync(join(tmpdir(), 'ivent-practice-'))
beforeAll(() => {
  process.env.IVENT_DATA = folder
})
afterAll(async () => {
  await closeStore()
  rmSync(folder, { recursive: true, force: true })
})

test('the last of each is kept, the newest first; one is taken away, then all', async () => {
  await keepPractice('lesson worth', { kind: 'lesson', right: [true, false, false] })
  await keepPractice('hunt 12', { kind: 'hunt', isRight: true, minutes: 30, score: 90 })
  await keepPractice('lesson worth', { kind: 'lesson', right: [true, true, true] })
  const kept = await listPractice()
  expect(kept.map((k) => k.key)).toEqual(['lesson worth', 'hunt 12'])
  expect(kept[0]!.progress).toEqual({ kind: 'lesson', right: [true, true, true] })
  expect(new Date(kept[0]!.at).getTime()).toBeGreaterThan(0)
  expect(await forgetPractice('hunt 12')).toBe(1)
  expect(await forgetPractice('hunt 12')).toBe(0)
  expect(await forgetPractice()).toBe(1)
  expect(await listPractice()).toEqual([])
})

test.each([
  [undefined, 'key'],
  [{ key: 'lesson ../x', progress: {} }, 'key'],
  [{ key: 'lesson worth', progress: { kind: 'lesson', right: 'all' } }, 'right'],
  [{ key: 'hunt 3', progress: { kind: 'hunt', isRight: true, minutes: 'many', score: 1 } }, 'minutes'],
  [{ key: 'hunt 3', progress: { kind: 'lesson', right: [] } }, 'lesson or of a hunt'],
])('%j is refused with its reason', (value, says) => {
  const read = readProgress(value)
  expect(read.ok ? '' : read.reason).toContain(says)
})

test('a device that ticks and logs keeps its practice; one that looks does not; neither takes it away', () => {
  expect(refusalForDevice('log', 'PUT', '/api/practice')).toBeUndefined()
  expect(refusalForDevice('look', 'PUT', '/api/practice')).toContain('may look')
  expect(refusalForDevice('log', 'DELETE', '/api/practice')).toContain('ticks and logs')
})
