/** What belongs to a build and is no part of its document: recordings of a logger, photographs. */
import { RECORDING_TYPE } from '@/plan/document/bounds'
import type { Query } from './store'
import { yieldToOthers } from './yield'

/** Channels of a logger over time: seconds, and one column a channel in the unit that it names. */
export type Recording = {
  readonly name: string
  readonly startedAt: string
  readonly channels: readonly { readonly name: string; readonly unit: string }[]
  /** rows of seconds and a figure a channel */
  readonly samples: readonly (readonly number[])[]
}
export type Attachment = {
  readonly name: string
  readonly type: string
  readonly about: string
  /** bytes in base64 */
  readonly data: string
}

/** Kinds of picture that browsers show and that cannot hold a script. */
export const ATTACHMENT_TYPES = ['image/jpeg', 'image/png', 'image/webp'] as const
export const MAX_ATTACHMENT_BYTES = 3_000_000
const MAX_RECORDING_BYTES = 16_000_000
export const MAX_ATTACHMENTS = 60
export const MAX_RECORDINGS = 60
/** What recordings and pictures of a build may take up in its exported file, bytes: less than a file that is brought in may have. */
export const MAX_CARRIED = 48_000_000
export const MAX_SAMPLES = 200_000
const MAX_CHANNELS = 16

const text = (x: unknown, most: number): x is string => typeof x === 'string' && x.length > 0 && x.length <= most

/** Why something is no attachment, or undefined. The first bytes must be those of the type it claims. */
export function attachmentProblem(a: unknown): string | undefined {
  const { name, type, about, data } = (a ?? {}) as Partial<Record<keyof Attachment, unknown>>
  if (!text(name, 120)) return 'needs a name of at most 120 characters'
  if (about !== undefined && (typeof about !== 'string' || about.length > 200)) return 'has too long a note'
  const most = type === RECORDING_TYPE ? MAX_RECORDING_BYTES : MAX_ATTACHMENT_BYTES
  if (type !== RECORDING_TYPE && !ATTACHMENT_TYPES.some((t) => t === type))
    return `must be a picture (${ATTACHMENT_TYPES.join(', ')}) or a recording as Parquet`
  if (typeof data !== 'string' || !/^[A-Za-z\d+/]*={0,2}$/.test(data)) return 'has no bytes that can be read'
  const bytes = Buffer.from(data, 'base64')
  if (bytes.length > most) return `is larger than ${most / 1e6} MB`
  const starts = (hex: string, at = 0) => bytes.subarray(at, at + hex.length / 2).toString('hex') === hex
  const real = {
    'image/jpeg': starts('ffd8ff'),
    'image/png': starts('89504e47'),
    'image/webp': starts('57454250', 8),
    [RECORDING_TYPE]: starts('50415231'),
  }
  return real[type as keyof typeof real] ? undefined : 'is not of the kind that it says'
}

/** Why something is no recording, or undefined. */
export function recordingProblem(r: unknown): string | undefined {
  const { name, startedAt, channels, samples } = (r ?? {}) as Partial<Record<keyof Recording, unknown>>
  if (!text(name, 120)) return 'needs a name of at most 120 characters'
  if (!text(startedAt, 40) || Number.isNaN(Date.parse(startedAt))) return 'needs the time at which it started'
  if (!Array.isArray(channels) || channels.length === 0 || channels.length > MAX_CHANNELS)
    return `needs 1 to ${MAX_CHANNELS} channels`
  if (!channels.every((c) => text((c as { name?: unknown })?.name, 60) && text((c as { unit?: unknown })?.unit, 20)))
    return 'has a channel without name or unit'
  if (!Array.isArray(samples) || samples.length > MAX_SAMPLES) return `holds more than ${MAX_SAMPLES} samples`
  const columns = channels.length + 1
  const bad = samples.findIndex(
    (row) =>
      !Array.isArray(row) || row.length !== columns || !row.every((v) => typeof v === 'number' && Number.isFinite(v)),
  )
  return bad < 0 ? undefined : `has a sample, the ${bad + 1}th, that is not ${columns} numbers`
}

/** A recording as it is stored: its channels and samples as the text that they are exported as. */
export type StoredRecording = Pick<Recording, 'name' | 'startedAt'> & {
  readonly samples: number
  /** JSON of `channels` and `samples` */
  readonly data: string
}
/** A picture on its way to or from the store, which takes and gives text far faster than bytes. */
export type StoredAttachment = Omit<Attachment, 'data'> & { readonly base64: string }
export type StoredFiles = {
  readonly recordings: readonly StoredRecording[]
  readonly attachments: readonly StoredAttachment[]
}

export const storedRecording = ({ name, startedAt, channels, samples }: Recording): StoredRecording => ({
  name,
  startedAt,
  samples: samples.length,
  data: JSON.stringify({ channels, samples }),
})
export const storedAttachment = ({ name, type, about, data }: Attachment): StoredAttachment => ({
  name,
  type,
  about: about ?? '',
  // written anew: what is read leniently, without its padding, the database would refuse
  base64: Buffer.from(data, 'base64').toString('base64'),
})

/** What a file takes up in an export: text as it is, bytes in base64. */
const carriedBytes = (file: StoredRecording | StoredAttachment) =>
  'data' in file ? file.data.length : file.base64.length

/** Why files are more than one export can carry; undefined where they are not. */
export function carriedProblem({ recordings, attachments }: StoredFiles): string | undefined {
  const bytes = [...recordings, ...attachments].reduce((sum, file) => sum + carriedBytes(file), 0)
  return bytes > MAX_CARRIED
    ? `hold more than ${MAX_CARRIED / 1e6} MB together, more than one file can carry`
    : undefined
}

/**
 * Why a build can take no more, so that what it holds can be exported and brought in again; undefined where it can. Holds the build's row,
 * so that two that come at once are counted one after another.
 */
async function roomProblem(
  q: Query,
  build: string,
  file: StoredRecording | StoredAttachment,
): Promise<string | undefined> {
  await q('select id from build where id = $1 for update', [build])
  const [held] = await q<{ recordings: number; attachments: number; carried: string }>(
    `select (select count(*)::int from recording where build_id = $1) as recordings,
            (select count(*)::int from attachment where build_id = $1) as attachments,
            (select coalesce(sum(bytes), 0) from recording where build_id = $1)
          + (select coalesce(sum(length(bytes)), 0) * 4 / 3 from attachment where build_id = $1) as carried`,
    [build],
  )
  const [count, most, what] =
    'data' in file ? [held!.recordings, MAX_RECORDINGS, 'recordings'] : [held!.attachments, MAX_ATTACHMENTS, 'pictures']
  if (count >= most)
    return `This build holds ${count} ${what} already, as many as one exported file carries. Nothing was changed. Take one away first.`
  if (Number(held!.carried) + carriedBytes(file) > MAX_CARRIED)
    return `With this, recordings and pictures of the build would be more than ${MAX_CARRIED / 1e6} MB, which is what one exported file carries. Nothing was changed. Take some away first, or make it smaller.`
  return undefined
}

async function insertRecording(q: Query, build: string, r: StoredRecording): Promise<string> {
  const rows = await q<{ id: string }>(
    'insert into recording (build_id, name, started_at, data, samples, bytes) values ($1, $2, $3, $4, $5, $6) returning id',
    [build, r.name, r.startedAt, r.data, r.samples, r.data.length],
  )
  return rows[0]!.id
}

async function insertAttachment(q: Query, build: string, a: StoredAttachment): Promise<string> {
  const rows = await q<{ id: string }>(
    "insert into attachment (build_id, name, type, about, bytes) values ($1, $2, $3, $4, decode($5, 'base64')) returning id",
    [build, a.name, a.type, a.about, a.base64],
  )
  return rows[0]!.id
}

/** Writes one down, without counting what there is. */
export const insertFile = (q: Query, build: string, file: StoredRecording | StoredAttachment): Promise<string> =>
  'data' in file ? insertRecording(q, build, file) : insertAttachment(q, build, file)

export type Added = { readonly ok: true; readonly id: string } | { readonly ok: false; readonly reason: string }

/** Adds one to a build, unless it holds as much as can be carried. */
export async function addFile(q: Query, build: string, file: StoredRecording | StoredAttachment): Promise<Added> {
  const reason = await roomProblem(q, build, file)
  if (reason !== undefined) return { ok: false, reason }
  return { ok: true, id: await insertFile(q, build, file) }
}

export type ListedFile = { readonly id: string; readonly name: string; readonly about: string; readonly size: number }
/** Newest first; names and sizes, not the contents. */
export const listRecordings = (q: Query, build: string): Promise<ListedFile[]> =>
  q<ListedFile>(
    'select id, name, started_at as about, samples as size from recording where build_id = $1 order by started_at desc, id limit $2',
    [build, MAX_RECORDINGS],
  )
export const listAttachments = (q: Query, build: string): Promise<ListedFile[]> =>
  q<ListedFile>(
    'select id, name, about, length(bytes) as size from attachment where build_id = $1 order by saved_at desc, id limit $2',
    [build, MAX_ATTACHMENTS],
  )

/** A recording as JSON: the very text that was stored, since a long one takes its time to be read and written again. */
export async function readRecording(q: Query, build: string, id: string): Promise<string | undefined> {
  const rows = await q<{ name: string; started_at: string; data: string }>(
    'select name, started_at, data::text as data from recording where build_id = $1 and id = $2',
    [build, id],
  )
  return rows[0] && recordingText(rows[0])
}
const recordingText = ({ name, started_at: startedAt, data }: { name: string; started_at: string; data: string }) =>
  `${JSON.stringify({ name, startedAt }).slice(0, -1)},${data.slice(1)}`

type AttachmentRow = { id: string; name: string; type: string; about: string; size: number }
export async function readAttachment(
  q: Query,
  build: string,
  id: string,
): Promise<{ readonly type: string; readonly bytes: Buffer } | undefined> {
  const rows = await q<{ type: string; base64: string }>(
    "select type, encode(bytes, 'base64') as base64 from attachment where build_id = $1 and id = $2",
    [build, id],
  )
  return rows[0] && { type: rows[0].type, bytes: Buffer.from(rows[0].base64, 'base64') }
}

/** Longest name of a file. */
const MOST_NAME = 120
/** Names an attachment anew; false where there is none. */
export async function renameAttachment(q: Query, build: string, id: string, name: string): Promise<boolean> {
  const rows = await q('update attachment set name = $3 where build_id = $1 and id = $2 returning id', [
    build,
    id,
    name,
  ])
  return rows.length > 0
}
/** Why a file cannot have this name, or undefined. */
export const nameProblem = (name: unknown): string | undefined =>
  typeof name === 'string' && name.trim() !== '' && name.length <= MOST_NAME
    ? undefined
    : `A name has 1 to ${MOST_NAME} letters.`

/** Takes one away; false where there is none. */
export async function removeFile(
  q: Query,
  table: 'recording' | 'attachment',
  build: string,
  id: string,
): Promise<boolean> {
  return (await q(`delete from ${table} where build_id = $1 and id = $2 returning id`, [build, id])).length > 0
}

/** Bytes of a picture that are read at once: a multiple of three, so that its base64 can be written in pieces. */
const PIECE = 240_000

async function* picture(q: Query, { id, name, type, about, size }: AttachmentRow): AsyncGenerator<string> {
  yield `${JSON.stringify({ name, type, about }).slice(0, -1)},"data":"`
  for (let at = 0; at < size; at += PIECE) {
    const [row] = await q<{ piece: string }>(
      "select encode(substr(bytes, $2, $3), 'base64') as piece from attachment where id = $1",
      [id, at + 1, PIECE],
    )
    // taken away meanwhile: an export must not end in half a picture
    if (!row) throw new Error('a picture was taken away while it was exported')
    yield row.piece.replaceAll('\n', '')
    await yieldToOthers()
  }
  yield '"}'
}

/** The lists of an exported file, in pieces of a build's files: one at a time, so that others get their turn between. */
export async function* exportedFiles(q: Query, build: string): AsyncGenerator<string> {
  const recordings = await q<{ id: string }>('select id from recording where build_id = $1 order by started_at, id', [
    build,
  ])
  for (const [i, { id }] of recordings.entries()) {
    yield i === 0 ? ',\n "recordings": [\n' : ',\n'
    const text = await readRecording(q, build, id)
    if (text === undefined) throw new Error('a recording was taken away while it was exported')
    yield text
  }
  if (recordings.length > 0) yield '\n ]'
  const pictures = await q<AttachmentRow>(
    'select id, name, type, about, length(bytes) as size from attachment where build_id = $1 order by saved_at, id',
    [build],
  )
  for (const [i, row] of pictures.entries()) {
    yield i === 0 ? ',\n "attachments": [\n' : ',\n'
    yield* picture(q, row)
  }
  if (pictures.length > 0) yield '\n ]'
}
