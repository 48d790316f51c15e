/** Runs in the worker: a logger's file read piece by piece, laid beside what the plan foretells, and made small enough to be drawn. */
import { scaled, type Job } from '@/core/job'
import { ok, type Result } from '@/core/result'
import type { Build } from '@/plan/document/schema'
import { engineModel } from '@/plan/model/engine'
import type { ColumnMeaning } from '@/plan/recordings/columns'
import { driveOf, type Drive } from '@/plan/recordings/drive'
import { packRecording } from '@/plan/recordings/parquet'
import {
  meaningOf,
  startReading,
  type FilePreview,
  type LoggerRecording,
  type ReadFile,
} from '@/plan/recordings/read-recording'
import { reportRecording, type ForetoldBand, type RecordingReport } from '@/plan/studies/recording-report'

/** Of workers alone, which the page's own types do not know. */
declare class FileReaderSync {
  readAsArrayBuffer(blob: Blob): ArrayBuffer
}

/** What is drawn: no more samples than can be told apart when drawn as wide as a screen ten times over; Pa gauge, Pa absolute. */
export type DrawnRecording = ForetoldBand & {
  readonly seconds: Float64Array
  readonly crankcase: Float32Array
  readonly manifoldPa: Float32Array
  readonly states: Int8Array
}
export type FileFacts = Omit<LoggerRecording, 'seconds' | 'channels'> & {
  readonly rows: number
  readonly lasts: number
  /** its first rows as they stand; none of one that was kept with the build */
  readonly preview: FilePreview | undefined
  /** columns as they were read: by hand where they were put right */
  readonly columns: readonly ColumnMeaning[]
}
export type StudiedRecording = {
  readonly file: FileFacts
  /** why it cannot be laid beside the plan, or what came of it */
  readonly found: Result<{ readonly report: RecordingReport; readonly drawn: DrawnRecording }>
}

/** Bytes of a file that are read at once. */
const PIECE = 4_000_000
/** Samples that are drawn at most. */
const MOST_DRAWN = 60_000

/** Of each stretch the samples with the lowest and the highest crankcase, so that no peak is lost. */
function drawn(drive: Drive, foretold: ForetoldBand): DrawnRecording {
  const n = drive.seconds.length
  const stride = Math.max(1, Math.ceil((2 * n) / MOST_DRAWN))
  const kept: number[] = []
  for (let from = 0; from < n; from += stride) {
    const end = Math.min(n, from + stride)
    let [low, high] = [from, from]
    for (let k = from; k < end; k++) {
      if (drive.crankcase[k]! < drive.crankcase[low]!) low = k
      if (drive.crankcase[k]! > drive.crankcase[high]!) high = k
    }
    kept.push(...(low === high ? [low] : [Math.min(low, high), Math.max(low, high)]))
  }
  const at = <T extends Float64Array | Float32Array | Int8Array>(from: T): T =>
    (from.constructor as unknown as { from: (x: ArrayLike<number>) => T }).from(kept.map((k) => from[k]!))
  return {
    seconds: at(drive.seconds),
    crankcase: at(drive.crankcase),
    manifoldPa: at(drive.manifoldPa),
    states: at(drive.states),
    middle: at(foretold.middle),
    low: at(foretold.low),
    high: at(foretold.high),
  }
}

/** Reads a file; `columns` are those that were put right by hand. */
function* readFile(file: Blob, columns: readonly ColumnMeaning[] | undefined): Job<Result<ReadFile>> {
  // in a worker a file is read at once, piece by piece
  const reader = new FileReaderSync()
  const decoder = new TextDecoder()
  const reading = startReading(columns)
  for (let at = 0; at < file.size; at += PIECE) {
    const piece = reader.readAsArrayBuffer(file.slice(at, at + PIECE))
    if (!reading.push(decoder.decode(piece, { stream: true }))) break
    yield Math.min(1, (at + PIECE) / file.size)
  }
  return reading.end()
}

/** A file as the bytes in which it is kept with the build. */
export function* packFile(file: Blob, columns: readonly ColumnMeaning[]): Job<Result<ArrayBuffer>> {
  const read = yield* scaled(readFile(file, columns), 0, 0.8)
  return read.ok ? ok(packRecording(read.value.recorded)) : read
}

/** Read, foretold, fitted: a file, or one that was kept with the build. */
export function* studyRecording(
  build: Build,
  source: Blob | LoggerRecording,
  columns?: readonly ColumnMeaning[],
): Job<Result<StudiedRecording>> {
  const read =
    source instanceof Blob
      ? yield* scaled(readFile(source, columns), 0, 0.35)
      : ok({ preview: undefined, recorded: source })
  if (!read.ok) return read
  const { preview, recorded } = read.value
  const { seconds, channels, ...rest } = recorded
  const facts: FileFacts = {
    ...rest,
    rows: seconds.length,
    lasts: seconds.at(-1)!,
    preview,
    columns: columns ?? preview?.columns ?? channels.map(meaningOf),
  }
  const engine = engineModel(build)
  const drive = driveOf(recorded, engine.facts, engine.amb)
  if (!drive.ok) return ok({ file: facts, found: drive })
  const { report, foretold } = yield* scaled(reportRecording(build, drive.value), 0.35, 0.65)
  return ok({ file: facts, found: ok({ report, drawn: drawn(drive.value, foretold) }) })
}
