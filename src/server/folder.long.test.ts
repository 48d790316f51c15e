/**
 * Whatever moment a start or a restore is cut off at, the next start finds a whole database; backups; what is said
 * when it does not open.
 */
import {
  cpSync,
  createReadStream,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { gzipSync } from 'node:zlib'
import { newBuild } from '@/plan/schools/new-build'
import { backupDaily, keepBackup, listBackups, restoreBackup, writeWhole } from './backups'
import { createBuild, listHeads, readBuild, removeBuild } from './builds'
import { saveChanges } from './changes'
import { closeStore, dumpStore, openStore, query } from './store'
import { folderTrouble, troubleOf } from './trouble'

let folder: string
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'ivent-folder-'))
  process.env.IVENT_DATA = folder
})
afterEach(async () => {
  await closeStore()
  rmSync(folder, { recursive: true, force: true })
})

const add = (name: string) =>
  createBuild(newBuild({ name, engineClass: 'i4-na', use: 'street', ambientC: 10, units: 'metric' }))
const names = async () => (await listHeads()).map((h) => h.name)
const at = (name: string) => join(folder, name)

test('an unpacking that was cut off is cleared and done again, also one that an earlier version did in place', async () => {
  mkdirSync(at('pg.making'))
  writeFileSync(join(at('pg.making'), 'PG_VERSION'), '17')
  mkdirSync(at('pg'))
  writeFileSync(join(at('pg'), 'postgresql.conf'), '')
  expect(await names()).toEqual([])
  expect(existsSync(at('pg.making'))).toBe(false)
  await add('One')
  await closeStore()
  expect(await names()).toEqual(['One'])
})

test('a restore cut off before, between and after its two renames', async () => {
  await add('Old')
  await closeStore()
  cpSync(at('pg'), at('whole'), { recursive: true })
  // before: the new one is dropped, the old one stands
  cpSync(at('whole'), at('pg.made'), { recursive: true })
  await add('Newer')
  await closeStore()
  expect(await names()).toEqual(['Old', 'Newer'])
  expect(existsSync(at('pg.made'))).toBe(false)
  await closeStore()
  // between: the new one is put in its place
  renameSync(at('pg'), at('pg.before-2026-01-01'))
  cpSync(at('whole'), at('pg.made'), { recursive: true })
  expect(await names()).toEqual(['Old'])
  await closeStore()
  // as earlier versions were cut off: nothing in its place, the old one beside
  rmSync(at('pg'), { recursive: true })
  expect(await names()).toEqual(['Old', 'Newer'])
})

test('leftovers of failed restores go, and of what stood there before only the last stays', async () => {
  await add('One')
  await closeStore()
  for (const name of ['pg.restoring-1', 'pg.before-2026-01-01', 'pg.before-2026-02-01']) mkdirSync(at(name))
  await openStore()
  expect(
    readdirSync(folder)
      .filter((n) => n.startsWith('pg'))
      .toSorted(),
  ).toEqual(['pg', 'pg.before-2026-02-01'])
})

test("everything is its user's alone", async () => {
  await add('One')
  await keepBackup('daily', await dumpStore())
  // what is made while it runs is barred by the folder, and closed at the next start
  expect(statSync(folder).mode & 0o077).toBe(0)
  await closeStore()
  await openStore()
  const open = (path: string): string[] => {
    const stat = statSync(path)
    const here = stat.mode & 0o077 ? [path] : []
    return stat.isDirectory() ? [...here, ...readdirSync(path).flatMap((n) => open(join(path, n)))] : here
  }
  expect(open(folder)).toEqual([])
})

test('a backup of the day is made once, the last seven are kept, and one is put back while Ivent runs', async () => {
  expect(await backupDaily()).toBeUndefined()
  const made = await add('One')
  expect(await backupDaily()).toMatch(/-daily\.tgz$/)
  expect(await backupDaily()).toBeUndefined()
  for (let day = 1; day <= 9; day++) writeFileSync(at(`backups/ivent-2026-01-0${day}T00-00-00-daily.tgz`), 'old')
  const [newest] = listBackups()
  await keepBackup('daily', createReadStream(at(`backups/${newest!.name}`)))
  expect(listBackups().filter((b) => b.kind === 'daily')).toHaveLength(7)

  await saveChanges(made.id, 1, [
    { id: crypto.randomUUID(), name: 'n', edits: [{ op: 'set', path: ['name'], value: 'Later' }] },
  ])
  expect((await readBuild(made.id))!.document.name).toBe('Later')
  expect(await restoreBackup(newest!.name)).toBe(1)
  expect((await readBuild(made.id))!.document.name).toBe('One')
  // what is remembered of the other database is not taken for this one's
  await saveChanges(made.id, 1, [
    { id: crypto.randomUUID(), name: 'n', edits: [{ op: 'set', path: ['name'], value: 'Other' }] },
  ])
  expect((await readBuild(made.id))!.document.name).toBe('Other')
  const before = listBackups().find((b) => b.kind === 'before-restore')!
  await restoreBackup(before.name)
  expect((await readBuild(made.id))!.document.name).toBe('Later')
  await expect(restoreBackup('../../etc/passwd')).rejects.toThrow(/no such backup/)
})

test('an archive that is none changes nothing and leaves nothing', async () => {
  await add('One')
  const good = (await backupDaily())!
  const whole = readFileSync(at(`backups/${good}`))
  const spoilt = Buffer.from(whole)
  spoilt.fill(7, 2000, 4000)
  for (const bytes of [Buffer.from('no archive'), whole.subarray(0, whole.length / 2), spoilt, gzipSync('no tar')]) {
    const name = await keepBackup('before-migration', Readable.from([bytes]))
    await expect(restoreBackup(name)).rejects.toThrow(/backup is damaged.*data folder is sound/)
  }
  expect(await names()).toEqual(['One'])
  expect(readdirSync(folder).filter((n) => n.startsWith('pg.'))).toEqual([])
})

test('a file is written whole or not at all: the old one stays when the new one cannot be written', async () => {
  const file = at('all.tgz')
  writeFileSync(file, 'old')
  mkdirSync(at('all.tgz.part-' + process.pid))
  await expect(writeWhole(file, Readable.from(['new']))).rejects.toThrow()
  expect(readFileSync(file, 'utf8')).toBe('old')
  rmSync(at('all.tgz.part-' + process.pid), { recursive: true })
  await writeWhole(file, Readable.from(['new']))
  expect([readFileSync(file, 'utf8'), readdirSync(folder)]).toEqual(['new', ['all.tgz']])
})

test("a lock that was taken away ends the writing, and closing does not touch what is another's by now", async () => {
  await add('One')
  rmSync(at('ivent.lock'))
  await expect(add('Two')).rejects.toThrow(/lock of the data folder .* is gone/)
  await expect(names()).rejects.toThrow(/has stopped/)
  await closeStore()
  expect(await names()).toEqual(['One'])
})

test('removed builds stay and can be put back', async () => {
  const made = await add('One')
  await removeBuild(made.id, true)
  expect([await names(), await readBuild(made.id)]).toEqual([[], undefined])
  await removeBuild(made.id, false)
  expect(await names()).toEqual(['One'])
})

test('a power cut that takes every write but the synced ones loses nothing that was acknowledged', async () => {
  const made = await add('One')
  // the disk as of the last sync of everything…
  await closeStore()
  await openStore()
  cpSync(at('pg'), at('disk'), { recursive: true })
  for (let n = 1; n <= 5; n++)
    await saveChanges(made.id, n, [
      { id: crypto.randomUUID(), name: 'n', edits: [{ op: 'set', path: ['name'], value: `Name ${n}` }] },
    ])
  // …and the write-ahead log, which alone is synced with each answer; whatever else was written is gone
  cpSync(join(at('pg'), 'pg_wal'), join(at('disk'), 'pg_wal'), { recursive: true })
  await closeStore()
  rmSync(at('pg'), { recursive: true })
  renameSync(at('disk'), at('pg'))
  const found = await readBuild(made.id)
  expect([found?.revision, found?.document.name]).toEqual([6, 'Name 5'])
})

test('a damaged database is said in words, with the last backup and how to put it back', async () => {
  await add('One')
  await keepBackup('daily', await dumpStore())
  await closeStore()
  writeFileSync(join(at('pg'), 'global', 'pg_control'), Buffer.alloc(8192, 7))
  const error = await openStore().then(
    () => undefined,
    (e: unknown) => e,
  )
  expect(error).toBeDefined()
  const words = folderTrouble(error, folder, 'the.tgz')
  expect(words).toMatch(/does not open.*\.\/ivent restore the\.tgz/)
  expect(words).not.toMatch(/\n|at .*\.ts/)
})

test('a damaged block of one build leaves the others alone', async () => {
  const [one, two] = [await add('One'), await add('Two')]
  // a document that is no JSON any more, as a damaged page would give
  await query(
    "update pg_attribute set atttypid = 'text'::regtype where attrelid = 'revision'::regclass and attname = 'document'",
  )
  await query("update revision set document = '{' where build_id = $1", [one.id])
  await query(
    "update pg_attribute set atttypid = 'json'::regtype where attrelid = 'revision'::regclass and attname = 'document'",
  )
  expect(await names()).toEqual(['One', 'Two'])
  await expect(readBuild(one.id)).rejects.toThrow()
  expect((await readBuild(two.id))!.document.name).toBe('Two')
})

test.each([
  [{ code: 'ENOSPC' }, 507, /disk is full/],
  [{ code: '53100', message: 'could not extend file' }, 507, /disk is full/],
  [{ code: 'EROFS' }, 503, /cannot be written/],
  [{ code: 'XX001', message: 'invalid page in block 3' }, 500, /damaged.*backup/],
  [new Error('anything with a secret in it'), 500, /^(?!.*secret)Something went wrong/],
])('%j has its status and its words', (error, status, words) => {
  expect(troubleOf(error)).toEqual({ status, words: expect.stringMatching(words) as string })
})
