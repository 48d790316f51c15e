/** Who may have a data folder. */
import { existsSync, mkdtempSync, readFileSync, rmSync, statSync, unlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { FolderHeldError, takeLock, type LockHolder } from './lock'

let folder: string
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'ivent-lock-'))
})
afterEach(() => rmSync(folder, { recursive: true, force: true }))

/** The lock as this process writes it, changed. */
function left(change: Partial<LockHolder>): string {
  const file = join(folder, 'ivent.lock')
  const lock = takeLock(folder)
  const mine = JSON.parse(readFileSync(file, 'utf8')) as LockHolder
  lock.release()
  writeFileSync(file, JSON.stringify({ ...mine, ...change }))
  return file
}

test("a living process keeps it; it is its user's alone", () => {
  const lock = takeLock(folder)
  expect(() => takeLock(folder)).toThrow(FolderHeldError)
  expect(statSync(join(folder, 'ivent.lock')).mode & 0o077).toBe(0)
  lock.release()
  expect(existsSync(join(folder, 'ivent.lock'))).toBe(false)
})

test.each([
  ['a process that is gone', { pid: 2 ** 22 + 1 }],
  ['another that took its number', { born: 'another time' }],
  ['process 0', { pid: 0 }],
  ['process -1, which would be every process', { pid: -1 }],
  ['this machine before it was started again', { boot: 'another boot' }],
])('what %s left is taken over', (_, change) => {
  left(change)
  takeLock(folder).release()
})

test.each([
  ['another container of this machine', { space: 'pid:[1]' }],
  ['another machine', { boot: 'another boot', host: 'elsewhere' }],
])('what %s holds cannot be seen dead, and is refused with the way out', (_, change) => {
  const file = left(change)
  expect(() => takeLock(folder)).toThrow(/cannot be seen from here.*delete .*ivent\.lock/s)
  expect(existsSync(file)).toBe(true)
})

test("one that was deleted by hand, or is another's by now, is no longer held and not taken away from that other", () => {
  const file = join(folder, 'ivent.lock')
  const lock = takeLock(folder)
  expect(lock.held()).toBe(true)
  unlinkSync(file)
  expect(lock.held()).toBe(false)
  const other = takeLock(folder)
  expect([lock.held(), other.held()]).toEqual([false, true])
  lock.release()
  expect(other.held()).toBe(true)
  other.release()
})
