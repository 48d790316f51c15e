/**
 * One process owns a data folder: two would lose acknowledged rows without a word (measured with PGlite 0.5).
 * The lock is a file, linked into place whole, that names its holder by process id and start time, so that a lock left by a killed process is known
 * at once for what it is. (A lock kept fresh by a timer would look stale while the database blocks the event loop.) A holder that this
 * process cannot see, in another container or on another machine, counts as living: guessing wrong would cost somebody's work.
 */
import { linkSync, mkdirSync, readFileSync, readlinkSync, renameSync, unlinkSync, writeFileSync } from 'node:fs'
import { randomUUID } from 'node:crypto'
import { hostname } from 'node:os'
import { join } from 'node:path'

export type LockHolder = {
  readonly pid: number
  /** start time, clock ticks since boot */
  readonly born: string
  readonly since: string
  /** where its process id means something: this boot of this machine, this space of process ids */
  readonly boot: string
  readonly space: string
  readonly host: string
  /** where it serves, if it does */
  readonly port?: string | undefined
  /** tells this lock from every other, of the same process too */
  readonly mark?: string
}

export class FolderHeldError extends Error {
  constructor(
    readonly folder: string,
    readonly holder: LockHolder,
    seen: boolean,
  ) {
    super(
      seen
        ? `The data folder ${folder} is in use by process ${holder.pid} since ${holder.since}. ` +
            'Stop that Ivent first, or give this one another folder with IVENT_DATA. Nothing was changed.'
        : `The data folder ${folder} is held by an Ivent on ${holder.host || 'another machine'} (process ${holder.pid}, since ${holder.since}), ` +
            'which cannot be seen from here: it may be running in another container or on another machine. Stop it there. ' +
            `If you are certain that it is gone, delete ${join(folder, 'ivent.lock')} and start again. Nothing was changed.`,
    )
    this.name = 'FolderHeldError'
  }
}

const read = (get: () => string): string => {
  try {
    return get().trim()
  } catch {
    return ''
  }
}
const here = {
  boot: read(() => readFileSync('/proc/sys/kernel/random/boot_id', 'utf8')),
  space: read(() => readlinkSync('/proc/self/ns/pid')),
  host: hostname(),
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

/** What is known of a holder from here. */
function fate(h: LockHolder): 'alive' | 'dead' | 'unseen' {
  if (!Number.isInteger(h.pid) || h.pid <= 0) return 'dead'
  if (h.boot !== '' && h.boot !== here.boot) return h.host === here.host ? 'dead' : 'unseen'
  if (h.space !== '' && h.space !== here.space) return 'unseen'
  try {
    process.kill(h.pid, 0)
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EPERM') return 'dead'
  }
  const now = processAt(h.pid)
  if (!now) return 'alive'
  // killed, but its parent has not yet taken note of it; or the id was given to another process since
  return now.state !== 'Z' && now.state !== 'X' && (h.born === '' || now.born === h.born) ? 'alive' : 'dead'
}

function readHolder(file: string): LockHolder | undefined {
  try {
    const h = JSON.parse(readFileSync(file, 'utf8')) as Partial<Record<keyof LockHolder, unknown>>
    if (typeof h.pid !== 'number') return undefined
    const text = (x: unknown, otherwise = '') => (typeof x === 'string' ? x : otherwise)
    return {
      pid: h.pid,
      born: text(h.born),
      since: text(h.since, 'unknown'),
      boot: text(h.boot),
      space: text(h.space),
      host: text(h.host),
      port: typeof h.port === 'string' ? h.port : undefined,
    }
  } catch {
    return undefined
  }
}

export type Lock = {
  /** gives the folder back */
  readonly release: () => void
  /** false once somebody has taken the lock away or put another in its place */
  readonly held: () => boolean
}

/** Takes the folder's lock. Throws FolderHeldError while another process has it, or may have it. */
export function takeLock(folder: string, port?: string): Lock {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const file = join(folder, 'ivent.lock')
  refuseHeld(folder, file)
  const own = `${file}.${process.pid}`
  const mine: LockHolder = {
    pid: process.pid,
    born: processAt(process.pid)?.born ?? '',
    since: new Date().toISOString(),
    ...here,
    port,
    mark: randomUUID(),
  }
  // written under a name of its own and linked into place: nobody ever reads a lock that is half written
  const text = JSON.stringify(mine)
  writeFileSync(own, text, { mode: 0o600 })
  const held = () => read(() => readFileSync(file, 'utf8')) === text
  try {
    for (let attempt = 0; attempt < 5; attempt++) {
      try {
        linkSync(own, file)
        return {
          held,
          release: () => {
            if (held()) unlinkSync(file)
          },
        }
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
      }
      refuseHeld(folder, file)
      clearStale(file)
    }
  } finally {
    unlinkSync(own)
  }
  throw new Error(`The lock of ${folder} could not be taken.`)
}

/** Throws where another has the folder, or may have it. */
function refuseHeld(folder: string, file: string): void {
  const holder = readHolder(file)
  const known = holder ? fate(holder) : 'dead'
  if (holder && known !== 'dead') throw new FolderHeldError(folder, holder, known === 'alive')
}

/** Moves a stale lock away; what turns out to be the fresh lock of a start that was quicker is put back. */
function clearStale(file: string): void {
  const aside = `${file}.stale-${process.pid}`
  try {
    renameSync(file, aside)
    const moved = readHolder(aside)
    if (moved && fate(moved) !== 'dead') linkSync(aside, file)
    unlinkSync(aside)
  } catch {
    // another start was quicker; look again
  }
}
