import { mkdtempSync, writeFileSync, existsSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { newBuild } from '@/plan/schools/new-build'
import { createBuild, listBuilds, listRevisions, readBuild, readRevision, removeBuild, saveBuild } from './builds'
import { FolderHeldError, takeLock } from './lock'
import { closeStore, query } from './store'

const folder = mkdtempSync(join(tmpdir(), 'ivent-test-'))
const build = (name: string) =>
  newBuild({ name, engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })

beforeAll(() => {
  process.env.IVENT_DATA = folder
})
afterAll(async () => {
  await closeStore()
  rmSync(folder, { recursive: true, force: true })
})
jest.setTimeout(60_000)

test('a build comes back as it was written, through every revision', async () => {
  const made = await createBuild(build('One'))
  const changed = { ...made.document, name: 'Two' }
  expect(await saveBuild(made.id, 1, changed)).toEqual({ status: 'saved', revision: 2 })
  expect((await readBuild(made.id))!.document).toEqual(changed)
  expect(await readRevision(made.id, 1)).toEqual(made.document)
  expect((await listRevisions(made.id)).map((r) => r.number)).toEqual([2, 1])
  expect((await listBuilds()).map((b) => b.document.name)).toContain('Two')
})

test('a stale save is refused and neither side is lost', async () => {
  const made = await createBuild(build('Both'))
  const [mine, theirs] = [
    { ...made.document, name: 'Mine' },
    { ...made.document, name: 'Theirs' },
  ]
  expect(await saveBuild(made.id, 1, theirs)).toEqual({ status: 'saved', revision: 2 })
  expect(await saveBuild(made.id, 1, mine)).toEqual({ status: 'stale', theirs: 2, setAside: 3 })
  expect((await readBuild(made.id))!.document.name).toBe('Theirs')
  expect((await readRevision(made.id, 3))!.name).toBe('Mine')
  expect(await saveBuild(made.id, 2, mine)).toEqual({ status: 'saved', revision: 4 })
})

test('a removed build is gone from the garage and can be put back', async () => {
  const made = await createBuild(build('Gone'))
  expect(await removeBuild(made.id, true)).toBe(true)
  expect(await readBuild(made.id)).toBeUndefined()
  expect(await saveBuild(made.id, 1, made.document)).toEqual({ status: 'missing' })
  await removeBuild(made.id, false)
  expect((await readBuild(made.id))!.document).toEqual(made.document)
})

test('ids that are none are answered, not passed to the database', async () => {
  expect(await readBuild("'; drop table build; --")).toBeUndefined()
  expect(await saveBuild('nonsense', 1, build('X'))).toEqual({ status: 'missing' })
  expect(await readRevision('nonsense', 1)).toBeUndefined()
})

test('a second opener is told who holds the folder, and the data is untouched', async () => {
  await query('select 1')
  expect(() => takeLock(folder)).toThrow(FolderHeldError)
  expect(() => takeLock(folder)).toThrow(new RegExp(`in use by process ${process.pid}`))
})

test('the lock of a process that is gone, or of another that took its number, is recovered', () => {
  const other = mkdtempSync(join(tmpdir(), 'ivent-lock-'))
  const lock = join(other, 'ivent.lock')
  for (const holder of [
    { pid: 2 ** 22 + 1, born: '1', since: 'then' },
    { pid: process.pid, born: 'another time', since: 'then' },
    'not json',
  ]) {
    writeFileSync(lock, typeof holder === 'string' ? holder : JSON.stringify(holder))
    const release = takeLock(other)
    expect(existsSync(lock)).toBe(true)
    release()
    expect(existsSync(lock)).toBe(false)
  }
  rmSync(other, { recursive: true })
})

test('closed and opened again, everything is still there', async () => {
  const before = await listBuilds()
  await closeStore()
  expect(await listBuilds()).toEqual(before)
})
