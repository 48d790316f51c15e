/** Backups of the whole database as archives in the data folder: one a day, the last seven, and one before each migration and restore. */
import { createReadStream, createWriteStream, existsSync, readdirSync, rmSync, statSync } from 'node:fs'
import { mkdir, rename, rm } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { devicesAsNow } from './devices'
import { countBuilds, dataFolder, dumpStore, query, restoreStore, withSavesRefused } from './store'
import { changed } from './changed'
import type { Driver } from './driver'
import { TroubleError } from './trouble'

export type BackupKind = 'daily' | 'before-migration' | 'before-restore'
export type Backup = { readonly name: string; readonly kind: BackupKind; readonly at: string; readonly bytes: number }

const NAME = /^ivent-(\d{4}-\d{2}-\d{2}T\d{2}-\d{2}-\d{2})-(daily|before-migration|before-restore)\.tgz$/
/** How many of each kind are kept. */
const KEPT: Readonly<Record<BackupKind, number>> = { daily: 7, 'before-migration': 3, 'before-restore': 3 }

const backupFolder = (folder: string) => join(folder, 'backups')

/** Writes a file whole or not at all, synced to disk: what stood under its name stays until the new one is complete. */
export async function writeWhole(file: string, bytes: Readable): Promise<void> {
  await mkdir(dirname(file), { recursive: true })
  const beside = `${file}.part-${process.pid}`
  try {
    await pipeline(bytes, createWriteStream(beside, { mode: 0o600, flush: true }))
    await rename(beside, file)
  } catch (error) {
    bytes.destroy()
    await rm(beside, { force: true }).catch(() => undefined)
    throw error
  }
}

/** Newest first. */
export function listBackups(folder = dataFolder()): readonly Backup[] {
  const at = backupFolder(folder)
  if (!existsSync(at)) return []
  return readdirSync(at)
    .flatMap((name): Backup[] => {
      const m = NAME.exec(name)
      if (!m) return []
      const stat = statSync(join(at, name), { throwIfNoEntry: false })
      return stat ? [{ name, kind: m[2] as BackupKind, at: stat.mtime.toISOString(), bytes: stat.size }] : []
    })
    .toSorted((a, b) => b.name.localeCompare(a.name))
}

export const backupPath = (name: string, folder = dataFolder()): string => join(backupFolder(folder), name)

/** Keeps an archive under its kind and lets the oldest of that kind go. */
export async function keepBackup(kind: BackupKind, archive: Readable, folder = dataFolder()): Promise<string> {
  const name = `ivent-${new Date().toISOString().slice(0, 19).replaceAll(':', '-')}-${kind}.tgz`
  await writeWhole(backupPath(name, folder), archive)
  const old = listBackups(folder).filter((b) => b.kind === kind)
  for (const b of old.slice(KEPT[kind])) rmSync(backupPath(b.name, folder), { force: true })
  return name
}

export const backupBeforeMigration = async (db: Driver): Promise<void> => {
  await keepBackup('before-migration', db.dump())
}

/** Makes today's backup unless there is one, or nothing to keep. */
export async function backupDaily(): Promise<string | undefined> {
  const today = new Date().toISOString().slice(0, 10)
  if (listBackups().some((b) => b.kind === 'daily' && b.name.startsWith(`ivent-${today}`))) return undefined
  if ((await countBuilds({ query })) === 0) return undefined
  return keepBackup('daily', await dumpStore())
}

/** Puts one of the kept backups back; what is there now is kept as a backup first. Meanwhile nothing is saved, and no other is put back. */
export async function restoreBackup(name: string): Promise<number> {
  if (!NAME.test(name) || !existsSync(backupPath(name)))
    throw new TroubleError(404, 'There is no such backup. It may have been replaced by a newer one.')
  try {
    return await withSavesRefused(async () => {
      await keepBackup('before-restore', await dumpStore())
      return restoreStore(createReadStream(backupPath(name)), await devicesAsNow(query))
    })
  } finally {
    changed()
  }
}
