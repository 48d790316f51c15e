/** Archives made while the database is in use, and put back while others save. */
import { createReadStream, mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { setImmediate } from 'node:timers/promises'
import { createGzip } from 'node:zlib'
import { pack } from 'tar-stream'
import { newBuild } from '@/plan/schools/new-build'
import { unpackFolder } from './archive'
import { backupPath, keepBackup, listBackups, restoreBackup } from './backups'
import { createBuild, readBuild } from './builds'
import { saveChanges } from './changes'
import { openPglite } from './driver'
import { closeStore, dumpStore, query } from './store'
import { TroubleError } from './trouble'

let folder: string
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'ivent-hot-'))
  process.env.IVENT_DATA = folder
})
afterEach(async () => {
  await closeStore()
  rmSync(folder, { recursive: true, force: true })
})

const add = (name: string) =>
  createBuild(newBuild({ name, engineClass: 'i4-na', use: 'street', ambientC: 10, units: 'metric' }))
const rename = (id: string, base: number, name: string) =>
  saveChanges(id, base, [{ id: crypto.randomUUID(), name: 'n', edits: [{ op: 'set', path: ['name'], value: name }] }])
/** Saves one name after another until it is told to stop; those that were acknowledged. */
function saving(id: string) {
  const [acknowledged, refused]: [string[], unknown[]] = [[], []]
  const over = new AbortController()
  const run = async () => {
    for (let n = 1; !over.signal.aborted; n++) {
      // the embedded database answers without a turn of the event loop: others get theirs here
      await setImmediate()
      const head = (await readBuild(id))!
      try {
        const saved = await rename(id, head.revision, `n${n}`)
        if (saved.status === 'saved') acknowledged.push(`n${n}`)
      } catch (error) {
        refused.push(error)
        await new Promise((resolve) => setTimeout(resolve, 5))
      }
    }
  }
  const running = run()
  const stop = () => {
    over.abort()
    return running
  }
  return { acknowledged, refused, stop }
}

/** Longest that the main thread was away, milliseconds. */
function watched() {
  let [last, longest] = [performance.now(), 0]
  const timer = setInterval(() => {
    const now = performance.now()
    longest = Math.max(longest, now - last - 5)
    last = now
  }, 5)
  return () => {
    clearInterval(timer)
    return longest
  }
}

test('an archive made while others save opens, and holds everything that was acknowledged before it was begun', async () => {
  const made = await add('One')
  const others = saving(made.id)
  while (others.acknowledged.length < 20) await new Promise((resolve) => setTimeout(resolve, 5))
  const before = others.acknowledged.length
  const name = await keepBackup('daily', await dumpStore())
  const during = others.acknowledged.length
  await others.stop()
  // nobody waited for it
  expect(during).toBeGreaterThan(before)
  expect(others.refused).toEqual([])
  const there = join(folder, 'there')
  await unpackFolder(createReadStream(backupPath(name)), there)
  const db = await openPglite(there)
  const notes = await db.query<{ note: string }>('select note from revision where build_id = $1', [made.id])
  const heads = await db.query<{ name: string }>('select name from build')
  await db.close()
  // as of one moment while it was made: so many saves, and the head is the last of them
  expect(notes.length - 1).toBeGreaterThanOrEqual(before)
  expect(notes.length - 1).toBeLessThanOrEqual(during + 1)
  expect(heads).toEqual([{ name: `n${notes.length - 1}` }])
})

test('many photographs are packed in pieces: the main thread is away for a small part of it at most', async () => {
  const made = await add('One')
  for (let n = 0; n < 12; n++)
    await query(
      `insert into attachment (build_id, name, type, bytes)
       select $1, 'bay.jpg', 'image/jpeg', decode('ffd8ff' || string_agg(md5(random()::text), ''), 'hex') from generate_series(1, 125000)`,
      [made.id],
    )
  const begin = performance.now()
  const longest = watched()
  let bytes = 0
  for await (const piece of await dumpStore()) bytes += (piece as Buffer).length
  const away = longest()
  expect(bytes).toBeGreaterThan(12 * 2_000_000)
  // all of it when it was packed at once
  expect(away).toBeLessThan((performance.now() - begin) / 4)
})

test('while a backup is put back saves are refused in words, none that was acknowledged is lost, and only one is put back', async () => {
  const made = await add('One')
  const name = await keepBackup('daily', await dumpStore())
  const others = saving(made.id)
  while (others.acknowledged.length < 10) await new Promise((resolve) => setTimeout(resolve, 5))
  // one that is being made when another is put in its place ends in an error, not as a whole one
  const cutOff = await dumpStore()
  const results = await Promise.allSettled([restoreBackup(name), restoreBackup(name), restoreBackup(name)])
  await others.stop()
  await expect(cutOff.toArray()).rejects.toThrow()
  expect(results.map((r) => r.status)).toEqual(['fulfilled', 'rejected', 'rejected'])
  for (const r of results.slice(1))
    expect((r as PromiseRejectedResult).reason).toMatchObject({
      status: 409,
      message: expect.stringMatching(/already.*Nothing was changed/) as string,
    })
  expect(others.refused.length).toBeGreaterThan(0)
  for (const error of others.refused) {
    expect(error).toBeInstanceOf(TroubleError)
    expect(error).toMatchObject({
      status: 503,
      message: expect.stringMatching(/being put back.*nothing was changed/) as string,
    })
  }
  // everything acknowledged before is in what was kept, everything after is there now
  const now = (await query<{ note: string }>('select note from revision where build_id = $1', [made.id])).map(
    (r) => r.note,
  )
  const kept = listBackups().find((b) => b.kind === 'before-restore')!
  expect(readdirSync(folder).some((n) => n.startsWith('pg.before-'))).toBe(true)
  await restoreBackup(kept.name)
  const then = (await query<{ note: string }>('select note from revision where build_id = $1', [made.id])).map(
    (r) => r.note,
  )
  // a save is a revision: those there now but the first, and those that were kept
  expect(now.length - 1 + (then.length - 1)).toBe(others.acknowledged.length)
})

test('once an archive that is none is refused nothing of it is written any more: its folder can be taken away', async () => {
  const unpacked = join(folder, 'unpacked')
  const tar = pack()
  for (let k = 0; k < 40; k++) tar.entry({ name: `file-${k}` }, Buffer.alloc(60_000, k))
  tar.entry({ name: '../out' }, 'x')
  tar.finalize()
  const unpacking = unpackFolder(Readable.from(tar.pipe(createGzip())), unpacked)
  await expect(unpacking).rejects.toThrow(/leads out/)
  expect(readdirSync(unpacked).map((name) => statSync(join(unpacked, name)).size)).toEqual(Array(40).fill(60_000))
})

test('names that lead out of an archive are refused', async () => {
  for (const name of ['../out', 'a/../../out', '/../out']) {
    const tar = pack()
    tar.entry({ name }, 'x')
    tar.finalize()
    await expect(unpackFolder(Readable.from(tar.pipe(createGzip())), join(folder, 'unpacked'))).rejects.toThrow(
      /leads out/,
    )
  }
  expect(readdirSync(folder)).toEqual(['unpacked'])
})
