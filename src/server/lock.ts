/**
 * One process owns a data folder: two would lose acknowledged rows without a word (measured with PGlite 0.5).
 * The lock is a file made with O_EXCL that names its holder by process id and start time, so that a lock left by a killed process is known
 * at once for what it is. (A lock kept fresh by a timer would look stale while the database blocks the event loop.)
 */
import { closeSync, mkdirSync, openSync, readFileSync, renameSync, unlinkSync, writeSync } from 'node:fs'
import { join } from 'node:path'

export type Holder = { readonly pid: number; readonly born: string; readonly since: string }

export class FolderHeldError extends Error {
  constructor(readonly folder: string, readonly holder: Holder) {
    super(`The data folder ${folder} is in use by process ${holder.pid} since ${holder.since}. Stop that Ivent first, or give this one another folder with IVENT_DATA. Nothing was changed.`)
    this.name = 'FolderHeldError'
  }
}

/** Start time of a process in clock ticks since boot, or '' where it does not run or /proc is missing. */
function bornAt(pid: number): string {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8')
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? ''
  } catch {
    return ''
  }
}

function alive(h: Holder): boolean {
  try {
    process.kill(h.pid, 0)
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EPERM') return false
  }
  const born = bornAt(h.pid)
  return born === '' || h.born === '' || born === h.born // the id may have been given to another process since
}

function readHolder(file: string): Holder | undefined {
  try {
    const h = JSON.parse(readFileSync(file, 'utf8')) as Partial<Holder>
    return typeof h.pid === 'number' ? { pid: h.pid, born: String(h.born ?? ''), since: String(h.since ?? 'unknown') } : undefined
  } catch {
    return undefined
  }
}

/** Takes the folder's lock and returns how to give it back. Throws FolderHeldError while a living process has it. */
export function takeLock(folder: string): () => void {
  mkdirSync(folder, { recursive: true })
  const file = join(folder, 'ivent.lock')
  const mine: Holder = { pid: process.pid, born: bornAt(process.pid), since: new Date().toISOString() }
  for (let attempt = 0; attempt < 5; attempt++) {
    try {
      const fd = openSync(file, 'wx', 0o600)
      writeSync(fd, JSON.stringify(mine))
      closeSync(fd)
      return () => { if (readHolder(file)?.pid === process.pid) unlinkSync(file) }
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
    }
    const holder = readHolder(file)
    if (holder && alive(holder)) throw new FolderHeldError(folder, holder)
    // stale: moved away under a name of our own first, so that of two that find it only one removes it
    try {
      renameSync(file, `${file}.stale-${process.pid}`)
      unlinkSync(`${file}.stale-${process.pid}`)
    } catch {
      // another start was quicker; look again
    }
  }
  throw new Error(`The lock of ${folder} could not be taken.`)
}
