/**
 * The database's folder as one compressed archive, in pieces, while it is in use. What is copied is what a crash would leave: the control
 * file first, then the data, the write-ahead log last. The log holds every change since the checkpoint that the control file names, and
 * whole pages of what was being written, so opening the copy brings it up to the moment at which the log was read. That asks that no
 * checkpoint comes between, and the embedded database makes none while it is open.
 */
import { mkdir, open, readdir, writeFile, type FileHandle } from 'node:fs/promises'
import { dirname, join, normalize, sep } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { createGunzip, createGzip } from 'node:zlib'
import { extract, pack, type Pack } from 'tar-stream'

const CONTROL = join('global', 'pg_control')
const LOG = 'pg_wal'
/** What says which process has the folder open. */
const HOLDER = 'postmaster.pid'
const PIECE = 256 * 1024
/** Files that are read or written side by side. */
const AT_A_TIME = 96

type ArchiveEntry = { readonly path: string; readonly directory: boolean }

async function entriesIn(folder: string, below = ''): Promise<ArchiveEntry[]> {
  const entries: ArchiveEntry[] = []
  for (const e of await readdir(join(folder, below), { withFileTypes: true })) {
    const path = join(below, e.name)
    if (e.isDirectory()) entries.push({ path, directory: true }, ...(await entriesIn(folder, path)))
    else if (e.isFile() && path !== HOLDER) entries.push({ path, directory: false })
  }
  return entries
}

/** A file that is open, and as long as it was then. */
type OpenArchive = { readonly path: string; readonly size: number; readonly file: FileHandle; readonly first: Buffer }

/** A piece of a file; one that was cut meanwhile ends in zeros, since what was cut off is in the log. */
async function readPiece(file: FileHandle, size: number, at: number): Promise<Buffer> {
  const piece = Buffer.alloc(Math.min(PIECE, size - at))
  await file.read(piece, 0, piece.length, at)
  return piece
}

/** Opens a file and reads its first piece, which of most is all of it; undefined where it has gone since it was listed. */
async function openFile(folder: string, path: string): Promise<OpenArchive | undefined> {
  try {
    const file = await open(join(folder, path), 'r')
    const { size } = await file.stat()
    return { path, size, file, first: await readPiece(file, size, 0) }
  } catch (error) {
    if ((error as { code?: unknown }).code === 'ENOENT') return undefined
    throw error
  }
}

async function packFile(tar: Pack, { path, size, file, first }: OpenArchive): Promise<void> {
  const header = { name: path, size, mode: 0o600 }
  try {
    if (size <= PIECE) {
      // a stream for each of a thousand small files would take longer than all the reading
      await new Promise<void>((resolve, reject) => {
        tar.entry(header, first, (error) => (error ? reject(error) : resolve()))
      })
      return
    }
    const pieces = async function* () {
      yield first
      for (let at = PIECE; at < size; at += PIECE) yield await readPiece(file, size, at)
    }
    await pipeline(pieces, tar.entry(header))
  } finally {
    await file.close()
  }
}

/** Files into the archive, some at a time: each wait lets others work, and there are a thousand files. */
async function packFiles(tar: Pack, folder: string, paths: readonly string[], check: () => void): Promise<void> {
  for (let k = 0; k < paths.length; k += AT_A_TIME) {
    check()
    const opened = await Promise.all(paths.slice(k, k + AT_A_TIME).map((path) => openFile(folder, path)))
    await Promise.all(opened.map((one) => one && packFile(tar, one)))
  }
}

/**
 * The folder of an open database as a .tgz.
 * @param closed whether the database has been closed meanwhile: the archive then ends in an error, since it would not be whole
 */
export function packFolder(folder: string, closed: () => boolean): Readable {
  const tar = pack()
  const zipped = createGzip({ level: 1 })
  const check = () => {
    if (closed()) throw new Error('the database was closed while it was being copied')
  }
  const inLog = (path: string) => path.startsWith(LOG + sep)
  const fill = async () => {
    await packFiles(tar, folder, [CONTROL], check)
    const entries = await entriesIn(folder)
    for (const { path, directory } of entries) if (directory) tar.entry({ name: path, type: 'directory', mode: 0o700 })
    const files = entries.flatMap((e) => (e.directory || inLog(e.path) || e.path === CONTROL ? [] : [e.path]))
    await packFiles(tar, folder, files, check)
    const log = (await entriesIn(folder, LOG)).flatMap((e) => (e.directory ? [] : [e.path]))
    await packFiles(tar, folder, log, check)
    check()
    tar.finalize()
  }
  fill().catch((error: unknown) => tar.destroy(error as Error))
  // an error on either side ends both; whoever reads is told
  pipeline(tar, zipped).catch(() => undefined)
  return zipped
}

/** Waits for all, whatever becomes of them; fails as the first of them did. */
async function settle(all: readonly Promise<void>[]): Promise<void> {
  for (const one of await Promise.allSettled(all)) if (one.status === 'rejected') throw one.reason
}

/** Unpacks such an archive into a folder that is not there yet. Names that lead out of it are an error. Once it ends nothing is written any more. */
export async function unpackFolder(archive: Readable, folder: string): Promise<void> {
  await mkdir(folder, { recursive: true, mode: 0o700 })
  const made = new Set<string>()
  const makeFolder = async (path: string) => {
    if (made.has(path)) return
    await mkdir(join(folder, path), { recursive: true, mode: 0o700 })
    made.add(path)
  }
  const files = extract()
  const writing: Promise<void>[] = []
  const unpack = async () => {
    for await (const entry of files) {
      const { name, type } = entry.header
      const path = normalize(name.replace(/^\/+/, ''))
      if (path === '..' || path.startsWith(`..${sep}`)) throw new Error(`a name leads out of the archive: ${name}`)
      if (type === 'directory') {
        await makeFolder(path)
        entry.resume()
      } else if (type === 'file') {
        await makeFolder(dirname(path))
        const file = join(folder, path)
        const pieces = entry as AsyncIterable<Buffer>
        if ((entry.header.size ?? Infinity) > PIECE) await writeFile(file, pieces, { mode: 0o600 })
        else {
          const whole: Buffer[] = []
          for await (const piece of pieces) whole.push(piece)
          const one = writeFile(file, Buffer.concat(whole), { mode: 0o600 })
          // that it failed is told with the others
          one.catch(() => undefined)
          writing.push(one)
          if (writing.length >= AT_A_TIME) await settle(writing.splice(0))
        }
      } else throw new Error(`what is called ${name} in the archive is neither file nor folder`)
    }
  }
  // what ends the one ends the other: the files, first here, are nearer to the cause
  await settle([unpack(), pipeline(archive, createGunzip(), files)]).finally(() => settle(writing))
}
