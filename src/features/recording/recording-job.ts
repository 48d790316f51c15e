/** Runs in the worker: a logger's file read piece by piece, laid beside what the plan predicts, and made small enough to be drawn. */
import { scaled, type Job } from '@/core/job'
import { fail, ok, type Result } from '@/core/result'
import type { Build } from '@/plan/document/schema'
import { engineModel } from '@/plan/model/engine'
import { headKey, type ColumnMeaning } from '@/plan/recordings/columns'
import { driveOf, type Drive } from '@/plan/recordings/drive'
import { trimmed } from '@/plan/recordings/lay-beside'
import { packRecording } from '@/plan/recordings/parquet'
import { recordingCsv } from '@/plan/recordings/write-recording'
import { joinRecordings, type JoinedRecording } from '@/plan/studies/join-recordings'
import {
  meaningOf,
  startReading,
  type FilePreview,
  type LoggerRecording,
  type ReadFile,
} from '@/plan/recordings/read-recording'
import {
  driveStates,
  reportRecording,
  type DrivenState,
  type PredictedBand,
  type RecordingReport,
} from '@/plan/studies/recording-report'

/** Of workers alone, which the page's own types do not know. */
declare class FileReaderSync {
  readAsArrayBuffer(blob: Blob): ArrayBuffer
}

/** What is drawn: no more samples than can be told apart when drawn as wide as a screen ten times over; Pa gauge, Pa absolute. */
export type DrawnRecording = PredictedBand & {
  readonly seconds: Float64Array
  readonly rpm: Float32Array
  readonly crankcase: Float32Array
  readonly manifoldPa: Float32Array
  readonly states: Int8Array
}
export type FileFacts = Omit<LoggerRecording, 'seconds' | 'channels'> & {
  readonly rows: number
  readonly lasts: number
  /** its first rows as they stand; none of one that was kept with the build */
  readonly preview: FilePreview | undefined
  readonly beside: BesideFacts | undefined
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
function drawn(drive: Drive, predicted: PredictedBand): DrawnRecording {
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
    rpm: at(drive.rpm),
    crankcase: at(drive.crankcase),
    manifoldPa: at(drive.manifoldPa),
    states: at(drive.states),
    middle: at(predicted.middle),
    low: at(predicted.low),
    high: at(predicted.high),
  }
}

/** Reads a file; `known` is what is known of its columns. */
function* readFile(
  file: Blob,
  known: (preview: FilePreview) => readonly ColumnMeaning[] | undefined,
): Job<Result<ReadFile>> {
  // in a worker a file is read at once, piece by piece
  const reader = new FileReaderSync()
  const decoder = new TextDecoder()
  const reading = startReading(known)
  for (let at = 0; at < file.size; at += PIECE) {
    const piece = reader.readAsArrayBuffer(file.slice(at, at + PIECE))
    if (!reading.push(decoder.decode(piece, { stream: true }))) break
    yield Math.min(1, (at + PIECE) / file.size)
  }
  return reading.end()
}

/** What is opened: a file or a recording, put right by hand, with another logger's beside it, cut to a stretch of it. */
export type RecordingSource = {
  readonly of: Blob | LoggerRecording
  readonly columns?: readonly ColumnMeaning[] | undefined
  /** what was put right of other files, by their heads */
  readonly remembered?: Readonly<Record<string, readonly ColumnMeaning[]>> | undefined
  readonly beside?: Blob | LoggerRecording | undefined
  readonly trim?: { readonly from: number; readonly to: number } | undefined
}
/** How a second logger's recording was laid beside the first. */
export type BesideFacts = Pick<JoinedRecording, 'shift' | 'skew' | 'match' | 'by'>
type Assembled = {
  readonly recorded: LoggerRecording
  readonly preview: FilePreview | undefined
  readonly beside: BesideFacts | undefined
}

function* readWhole(
  of: Blob | LoggerRecording,
  columns: RecordingSource['columns'],
  remembered: RecordingSource['remembered'],
): Job<Result<ReadRecording>> {
  if (of instanceof Blob) return yield* readFile(of, (preview) => columns ?? remembered?.[headKey(preview.columns)])
  const channels = columns ? of.channels.map((c, k) => ({ ...c, ...columns[k] })) : of.channels
  return ok({ preview: undefined, recorded: { ...of, channels } })
}
type ReadRecording = Omit<ReadFile, 'preview'> & { readonly preview: FilePreview | undefined }

function* assemble(build: Build, { of, columns, remembered, beside, trim }: RecordingSource): Job<Result<Assembled>> {
  const first = yield* scaled(readWhole(of, columns, remembered), 0, beside ? 0.5 : 1)
  if (!first.ok) return first
  let { recorded } = first.value
  let laid: BesideFacts | undefined
  if (beside) {
    const second = yield* scaled(readWhole(beside, undefined, remembered), 0.5, 0.4)
    if (!second.ok) return second
    const joined = joinRecordings(build, recorded, second.value.recorded)
    if (!joined.ok) return joined
    const { shift, skew, match, by } = joined.value
    recorded = joined.value.recorded
    laid = { shift, skew, match, by }
  }
  if (trim) recorded = trimmed(recorded, trim.from, trim.to)
  if (recorded.seconds.length < 2) return fail('There are fewer than two rows in this stretch.')
  return ok({ recorded, preview: first.value.preview, beside: laid })
}

/** A recording as the bytes in which it is kept with the build. */
export function* packSource(build: Build, source: RecordingSource): Job<Result<ArrayBuffer>> {
  const read = yield* scaled(assemble(build, source), 0, 0.8)
  return read.ok ? ok(packRecording(read.value.recorded)) : read
}
/** A recording as CSV. */
export function* csvOfSource(build: Build, source: RecordingSource): Job<Result<string>> {
  const read = yield* scaled(assemble(build, source), 0, 0.6)
  return read.ok ? ok(recordingCsv(read.value.recorded)) : read
}
/** The states of a recording as they were driven, beside the same plan: no fit, which takes its time. */
export function* statesOfSource(build: Build, source: RecordingSource): Job<Result<readonly DrivenState[]>> {
  const read = yield* scaled(assemble(build, source), 0, 0.5)
  if (!read.ok) return read
  const engine = engineModel(build)
  const drive = driveOf(read.value.recorded, engine.facts, engine.amb)
  return drive.ok ? ok(yield* scaled(driveStates(build, drive.value), 0.5, 0.5)) : drive
}

/** Read, predicted, fitted: a file, or one that was kept with the build. */
export function* studyRecording(build: Build, source: RecordingSource): Job<Result<StudiedRecording>> {
  const read = yield* scaled(assemble(build, source), 0, 0.35)
  if (!read.ok) return read
  const { preview, recorded, beside } = read.value
  const { seconds, channels, ...rest } = recorded
  const facts: FileFacts = {
    ...rest,
    rows: seconds.length,
    lasts: seconds.at(-1)!,
    preview,
    beside,
    columns: source.columns ?? preview?.columns ?? channels.map(meaningOf),
  }
  const engine = engineModel(build)
  const drive = driveOf(recorded, engine.facts, engine.amb)
  if (!drive.ok) return ok({ file: facts, found: drive })
  const { report, predicted } = yield* scaled(reportRecording(build, drive.value), 0.35, 0.65)
  return ok({ file: facts, found: ok({ report, drawn: drawn(drive.value, predicted) }) })
}
