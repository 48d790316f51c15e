/**
 * The database's place in the data folder. A new one (a first start, a backup put back) is made beside, closed, synced and only then
 * renamed into place; whatever moment a crash takes, the next start finds either the old one or the new one whole.
 */
import { chmodSync, closeSync, existsSync, fsyncSync, openSync, readdirSync, renameSync, rmSync } from 'node:fs'
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { unpackFolder } from './archive'
import { openPglite, type Driver } from './driver'
import { TroubleError, troubleOf } from './trouble'

/** The database; one that is being made; one that is whole and waits to be put in its place. */
const PLACE = 'pg'
const MAKING = 'pg.making'
const MADE = 'pg.made'
/** What stood there before a backup was put back, with its time. */
const BEFORE = 'pg.before-'
/** What earlier versions left when they were interrupted. */
const LEFTOVERS = [MAKING, 'pg.restoring-']

export const placeIn = (folder: string): string => join(folder, PLACE)
/** Whether a database stands there that was once whole. */
export const hasStore = (folder: string): boolean =>
  existsSync(join(folder, PLACE, 'PG_VERSION')) && existsSync(join(folder, PLACE, 'global', 'pg_control'))

const dateName = () => new Date().toISOString().replaceAll(/[:.]/g, '-')
const remove = (path: string) => rmSync(path, { recursive: true, force: true })
const named = (folder: string, prefix: string) =>
  readdirSync(folder)
    .filter((n) => n.startsWith(prefix))
    .toSorted()

/** Everything written so far onto the disk, before a name says that it is there: one call of the system for all files. */
function sync(folder: string): void {
  if (spawnSync('sync', ['-f', folder]).status === 0) return
  const fd = openSync(folder, 'r')
  try {
    fsyncSync(fd)
  } finally {
    closeSync(fd)
  }
}

/** The embedded database makes its files readable and writable for all; here they are their user's alone. */
export function closeToOthers(path: string): void {
  chmodSync(path, 0o700)
  for (const e of readdirSync(path, { withFileTypes: true })) {
    if (e.isDirectory()) closeToOthers(join(path, e.name))
    else if (e.isFile()) chmodSync(join(path, e.name), 0o600)
  }
}

/** Puts right what an interrupted start or restore left. Needs the folder's lock. */
export function settleFolder(folder: string): void {
  chmodSync(folder, 0o700)
  for (const prefix of LEFTOVERS) for (const name of named(folder, prefix)) remove(join(folder, name))
  const place = placeIn(folder)
  const made = join(folder, MADE)
  // an unpacking that earlier versions did in place and that was cut off: it never was a database
  if (existsSync(place) && !hasStore(folder)) renameSync(place, join(folder, `pg.unfinished-${dateName()}`))
  if (existsSync(made)) {
    // cut off between the two renames of a restore: go on; before the first of them: it has not begun
    if (existsSync(place)) remove(made)
    else renameSync(made, place)
  }
  const before = named(folder, BEFORE)
  // an earlier version was cut off between its two renames and left an empty garage
  if (!existsSync(place) && before.length > 0) renameSync(join(folder, before.pop()!), place)
  // the last one that stood here is kept, older ones are what backups are for
  for (const name of before.slice(0, -1)) remove(join(folder, name))
}

/** An archive that does not unpack or open is itself at fault, unless the disk or the right to write there is. */
function archiveTrouble(error: unknown): unknown {
  if ([503, 507].includes(troubleOf(error).status)) return error
  return new TroubleError(
    422,
    'This backup is damaged, was cut off, or is none: it does not open. Nothing was changed, and the data folder is sound. Take another one.',
  )
}

/**
 * Makes a database beside, of an archive where one is given, and sees that it opens; `fill` is done to it before it is closed. What fails
 * leaves nothing behind.
 */
export async function makeStore<T>(
  folder: string,
  archive: Readable | undefined,
  fill: (db: Driver) => Promise<T>,
): Promise<T> {
  const making = join(folder, MAKING)
  remove(making)
  remove(join(folder, MADE))
  try {
    const opened = async () => {
      if (archive) await unpackFolder(archive, making)
      const db = await openPglite(making)
      try {
        return await fill(db)
      } finally {
        await db.close()
      }
    }
    const done = await opened().catch((error: unknown) => {
      throw archive ? archiveTrouble(error) : error
    })
    sync(making)
    renameSync(making, join(folder, MADE))
    sync(folder)
    return done
  } catch (error) {
    remove(making)
    throw error
  }
}

/** Puts what was made into the place of what stands there, which is kept beside. Nobody may have it open. */
export function takePlace(folder: string): void {
  const place = placeIn(folder)
  if (existsSync(place)) {
    for (const name of named(folder, BEFORE)) remove(join(folder, name))
    renameSync(place, join(folder, BEFORE + dateName()))
  }
  renameSync(join(folder, MADE), place)
  sync(folder)
}
