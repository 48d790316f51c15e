/** Files that come in with a request, read in their lane. */
import { MAX_FILE, MAX_UPLOAD, readBody, refuse } from './http'
import type { FileTask, ReadBuildFile, ReadRecordingFile } from './files.worker'
import { runIn } from './lane'
import { logged } from './trouble'

/** The largest file that is taken is read in less than a tenth of it. */
const BUDGET_MS = 30_000

type ReadResult<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly response: Response }

async function read<T>(request: Request, what: FileTask['what'], most: number): Promise<ReadResult<T>> {
  const no = (status: number, message: string) => ({ ok: false, response: refuse(status, message) }) as const
  const body = await readBody(request, most)
  if (!body.ok) return body
  const ran = await runIn<{ ok: true; value: T } | { ok: false; reason: string }>(
    'files',
    { what, bytes: body.value },
    BUDGET_MS,
  )
  if (ran.ended === 'done') return ran.value.ok ? ran.value : no(400, ran.value.reason)
  if (ran.ended === 'failed') console.error(`files: ${logged(ran.error)}`)
  return no(503, 'This file could not be read now. Nothing was changed. Try again in a moment.')
}

export const readBuildFile = (request: Request) =>
  read<Extract<ReadBuildFile, { ok: true }>['value']>(request, 'build', MAX_FILE)
export const readRecordingFile = (request: Request) =>
  read<Extract<ReadRecordingFile, { ok: true }>['value']>(request, 'recording', MAX_UPLOAD)
