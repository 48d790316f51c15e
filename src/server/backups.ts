/** Backups of the whole database as archives in the data folder: one a day, the last seven, and one before each migration and restore. */
import {
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeSync,
} from 'node:fs'
import { dirname, join } from 'node:path'
import { countBuilds, dataFolder, dumpStore, query, restoreStore } from './store'
import { changing } from './changed'
import type { Driver } from './driver'
import { TroubleError } from './trouble'

export type BackupKind = 'daily' | 'before-migration' | 'before-restore'
export type Backup = { readonly name: string; readonly kind: BackupKind; readonly at: string; readonly bytes: number }

const NAME = /^ivent-(\d{4}-\d{2}-\d{2}T\d{2}-\d{2}-\d{2})-(daily|before-migration|before-restore)\.tgz$/
/** How many of each kind are kept. */
const KEPT: Readonly<Record<BackupKind, number>> = { daily: 7, 'before-migration': 3, 'before-restore': 3 }

const backupFolder = (folder: string) => join(folder, 'backups')

/** Writes a file whole or not at all, synced to disk: what stood under its name stays until the new one is complete. */
export function writeWhole(file: string, bytes: Buffer): void {
  mkdirSync(dirname(file), { recursive: true })
  const beside = `${file}.part-${process.pid}`
  try {
    const fd = openSync(beside, 'w', 0o600)
    try {
      for (let at = 0; at < bytes.length;) at += writeSync(fd, bytes, at)
      fsyncSync(fd)
    } finally {
      closeSync(fd)
    }
    renameSync(beside, file)
  } catch (error) {
    rmSync(beside, { force: true })
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
export function keepBackup(kind: BackupKind, archive: Buffer, folder = dataFolder()): string {
  const name = `ivent-${new Date().toISOString().slice(0, 19).replaceAll(':', '-')}-${kind}.tgz`
  writeWhole(backupPath(name, folder), archive)
  const old = listBackups(folder).filter((b) => b.kind === kind)
  for (const b of old.slice(KEPT[kind])) rmSync(backupPath(b.name, folder), { force: true })
  return name
}

export const backupBeforeMigration = async (db: Driver): Promise<void> => {
  keepBackup('before-migration', await db.dump())
}

/** Makes today's backup unless there is one, or nothing to keep. */
export async function backupDaily(): Promise<string | undefined> {
  const today = new Date().toISOString().slice(0, 10)
  if (listBackups().some((b) => b.kind === 'daily' && b.name.startsWith(`ivent-${today}`))) return undefined
  if ((await countBuilds({ query })) === 0) return undefined
  return keepBackup('daily', await dumpStore())
}

/** Puts one of the kept backups back; what is there now is kept as a backup first. */
export async function restoreBackup(name: string): Promise<number> {
  if (!NAME.test(name) || !existsSync(backupPath(name)))
    throw new TroubleError(404, 'There is no such backup. It may have been replaced by a newer one.')
  const archive = readFileSync(backupPath(name))
  keepBackup('before-restore', await dumpStore())
  return changing(
    undefined,
    () => restoreStore(archive),
    () => true,
  )
}
