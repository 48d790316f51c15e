/** Runs in a worker thread: files that come in, read and checked whole, so that a long one keeps nobody waiting. */
import { fail, ok, type Result } from '@/core/result'
import { recordingProblem, storedRecording, type Recording, type StoredRecording } from './files'
import { splitImport, type Taken } from './import-file'
import { parseJson } from './json-text'

export type FileTask = { readonly what: 'build' | 'recording'; readonly bytes: Uint8Array }
/** A failure is bytes that are no JSON; what is wrong with what they say stands in the value. */
export type ReadBuildFile = Result<Taken>
export type ReadRecordingFile = Result<{ readonly recording: StoredRecording } | { readonly problem: string }>

export default function read({ what, bytes }: FileTask): ReadBuildFile | ReadRecordingFile {
  const parsed = parseJson(bytes)
  if (!parsed.ok) return fail(parsed.reason)
  if (what === 'build') return ok(splitImport(parsed.value))
  const problem = recordingProblem(parsed.value)
  return ok(problem === undefined ? { recording: storedRecording(parsed.value as Recording) } : { problem })
}
