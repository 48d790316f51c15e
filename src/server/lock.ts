/**
 * One process owns a data folder: two would lose acknowledged rows without a word (measured with PGlite 0.5).
 * The lock is a file, linked into place whole, that names its holder by process id and start time, so that a lock left by a killed process is known
 * at once for what it is. (A lock kept fresh by a timer would look stale while the database blocks the event loop.)
 */
import { linkSync, mkdirSync, readFileSync, renameSync, unlinkSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

export type Holder = { readonly pid: number; readonly born: string; readonly since: string }

export class FolderHeldError extends Error {
  constructor(
    readonly folder: string,
    readonly holder: Holder,
  ) {
    super(
      `The data folder ${folder} is in use by process ${holder.pid} since ${holder.since}. Stop that Ivent first, or give this one another folder with IVENT_DATA. Nothing was changed.`,
    )
    this.name = 'FolderHeldError'
  }
}

/** State letter and start time (clock ticks since boot) of a process; undefined where it does not run or /proc is missing. */
function processAt(pid: number): { state: string; born: string } | undefined {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8')
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ')
    return { state: fields[0] ?? '', born: fields[19] ?? '' }
  } catch {
    return undefined
  }
}

function alive(h: Holder): boolean {
  try {
    process.kill(h.pid, 0)
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EPERM') return false
  }
  const now = processAt(h.pid)
  if (!now) return true
  // killed, but its parent has not yet taken note of it; or the id was given to another process since
  return now.state !== 'Z' && now.state !== 'X' && (h.born === '' || now.born === h.born)
}

function readHolder(file: string): Holder | undefined {
  try {
    const h = JSON.parse(readFileSync(file, 'utf8')) as Partial<Holder>
    return typeof h.pid === 'number'
      ? { pid: h.pid, born: String(h.born ?? ''), since: String(h.since ?? 'unknown') }
      : undefined
  } catch {
    return undefined
  }
}

/** Takes the folder's lock and returns how to give it back. Throws FolderHeldError while a living process has it. */
export function takeLock(folder: string): () => void {
  mkdirSync(folder, { recursive: true })
  const file = join(folder, 'ivent.lock')
  const own = `${file}.${process.pid}`
  const mine: Holder = { pid: process.pid, born: processAt(process.pid)?.born ?? '', since: new Date().toISOString() }
  // written under a name of its own and linked into place: nobody ever reads a lock that is half written
  writeFileSync(own, JSON.stringify(mine), { mode: 0o600 })
  try {
    for (let attempt = 0; attempt < 5; attempt++) {
      try {
        linkSync(own, file)
        return () => {
          if (readHolder(file)?.pid === process.pid) unlinkSync(file)
        }
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
      }
      const holder = readHolder(file)
      if (holder && alive(holder)) throw new FolderHeldError(folder, holder)
      clearStale(file)
    }
  } finally {
    unlinkSync(own)
  }
  throw new Error(`The lock of ${folder} could not be taken.`)
}

/** Moves a stale lock away; what turns out to be the fresh lock of a start that was quicker is put back. */
function clearStale(file: string): void {
  const aside = `${file}.stale-${process.pid}`
  try {
    renameSync(file, aside)
    const moved = readHolder(aside)
    if (moved && alive(moved)) linkSync(aside, file)
    unlinkSync(aside)
  } catch {
    // another start was quicker; look again
  }
}
