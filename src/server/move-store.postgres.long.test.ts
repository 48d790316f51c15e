/** A store carried to a server and back: every row as it was, and nothing at all where it cannot be whole. */
import { mkdirSync, mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { newBuild } from '@/plan/schools/new-build'
import { createBuild, listBuilds, removeBuild } from './builds'
import { saveChanges } from './changes'
import { addDevice } from './devices'
import { openPglite, type Driver } from './driver'
import { addFile, storedAttachment, type Attachment } from './files'
import { placeIn } from './folder'
import { takeLock } from './lock'
import { addEntries } from './log'
import { moveFromServer, moveToServer } from './move-store'
import { openPostgres } from './postgres'
import { closeStore, query, transaction } from './store'
import { TestPostgres } from './testing-postgres'

const parent = mkdtempSync(join(tmpdir(), 'ivent-move-'))
const [folder, back] = [join(parent, 'own'), join(parent, 'back')]
const server = new TestPostgres()

/** One row more than go in one piece. */
const MANY = 501

beforeAll(async () => {
  for (const path of [folder, back]) mkdirSync(path)
  await server.start()
  process.env.IVENT_DATA = folder
  const build = (name: string) =>
    newBuild({ name, engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
  const made = await createBuild(build("Snipe “½ in” \\ 'quoted' 日本"))
  await saveChanges(made.id, 1, [
    { id: crypto.randomUUID(), name: 'renamed', edits: [{ op: 'set', path: ['name'], value: 'Line\nbreak\ttab' }] },
  ])
  const entry = (n: number) => ({
    id: `e${n}`,
    date: '2026-05-01',
    kind: 'checked' as const,
    odometerKm: 1000 + n / 3,
    part: 'can',
  })
  await transaction((q) =>
    addEntries(
      q,
      made.id,
      Array.from({ length: MANY }, (_, n) => entry(n)),
    ),
  )
  const photo = (kb: number): Attachment => ({
    name: `${kb}.jpg`,
    type: 'image/jpeg',
    about: 'a:part:can',
    data: Buffer.alloc(kb * 1000, 0xd8).toString('base64'),
  })
  for (const kb of [1, 1500, 1500, 1500]) await transaction((q) => addFile(q, made.id, storedAttachment(photo(kb))))
  await addDevice('Phone', 'log')
  const removed = await createBuild(build('Taken out'))
  await removeBuild(removed.id, true)
  await closeStore()
})
afterAll(() => {
  server.end()
  rmSync(parent, { recursive: true, force: true })
})

/** All that a database holds, as it writes it itself. */
async function contents({ query: ask }: Pick<Driver, 'query'>) {
  const found: Record<string, readonly string[]> = {}
  for (const table of ['build', 'revision', 'change', 'log_entry', 'recording', 'attachment', 'device', 'summary'])
    found[table] = (await ask<{ t: string }>(`select t::text as t from ${table} t order by 1`)).map((r) => r.t)
  return found
}
async function contentsOfFolder(path: string) {
  const db = await openPglite(placeIn(path))
  try {
    await db.query("set time zone 'UTC'")
    return await contents(db)
  } finally {
    await db.close()
  }
}
async function contentsOfServer(url: string) {
  const db = await openPostgres(url)
  try {
    return await db.transaction(async (ask) => {
      await ask("set local time zone 'UTC'")
      return contents({ query: ask })
    })
  } finally {
    await db.close()
  }
}

test('to a server and back into a folder, every row as it was', async () => {
  const url = server.database('whole')
  const before = await contentsOfFolder(folder)
  expect(before.log_entry).toHaveLength(MANY)
  const copied = await moveToServer(folder, url)
  expect(Object.fromEntries(copied.map((c) => [c.table, c.rows]))).toMatchObject({
    build: 2,
    log_entry: MANY,
    attachment: 4,
    device: 1,
  })
  expect(await contentsOfServer(url)).toEqual(before)
  // what was carried stays where it was
  expect(await contentsOfFolder(folder)).toEqual(before)
  process.env.DATABASE_URL = url
  expect((await listBuilds()).map((b) => b.document.name)).toEqual(['Line\nbreak\ttab'])
  await query("update build set name = 'at the server'")
  await closeStore()
  delete process.env.DATABASE_URL
  await moveFromServer(back, url)
  const after = await contentsOfFolder(back)
  expect(after.build?.every((row) => row.includes('at the server'))).toBe(true)
  expect({ ...after, build: [] }).toEqual({ ...before, build: [] })
})

test('back into a folder that holds a store: that one is kept beside', async () => {
  const url = server.database('kept')
  await moveToServer(folder, url)
  await moveFromServer(back, url)
  expect(await contentsOfFolder(back)).toEqual(await contentsOfFolder(folder))
  expect(readdirSync(back).filter((n) => n.startsWith('pg.before-'))).toHaveLength(1)
})

test('nothing where there is a store already, where it is in use, where there is none, or where no server is', async () => {
  const url = server.database('full')
  await moveToServer(folder, url)
  await expect(moveToServer(folder, url)).rejects.toThrow(/already\. Nothing was changed/)
  const user = await openPostgres(url)
  await expect(moveFromServer(back, url)).rejects.toThrow('An Ivent is using this database.')
  await user.close()
  const lock = takeLock(folder)
  await expect(moveToServer(folder, server.database('held'))).rejects.toThrow('is in use by process')
  lock.release()
  await expect(moveToServer(join(parent, 'nothing'), url)).rejects.toThrow('There is no Ivent data')
  await expect(moveFromServer(back, server.database('empty'))).rejects.toThrow('no Ivent store to carry over')
  await expect(moveToServer(folder, 'postgres://127.0.0.1:1/none')).rejects.toMatchObject({ code: 'ECONNREFUSED' })
})

test('one that arrives otherwise than it was sent is refused, and nothing of it stays', async () => {
  const url = server.database('spoilt')
  const db = await openPostgres(url)
  const { migrateDatabase } = await import('./migrations')
  await migrateDatabase(db)
  await db.script(`
    create function spoil() returns trigger language plpgsql as $$ begin new.odometer_km := new.odometer_km + 1; return new; end $$;
    create trigger spoil before insert on log_entry for each row when (new.id = 'e7') execute function spoil();`)
  await db.close()
  await expect(moveToServer(folder, url)).rejects.toThrow('log_entry did not arrive whole: 501 rows left, 501 came')
  expect((await contentsOfServer(url)).build).toEqual([])
})
