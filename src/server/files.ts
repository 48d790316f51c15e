/** What belongs to a build and is no part of its document: recordings of a logger, photographs. */
import type { Query } from './store'

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
export type Files = { readonly recordings: readonly Recording[]; readonly attachments: readonly Attachment[] }

/** Kinds of picture that browsers show and that cannot hold a script. */
export const ATTACHMENT_TYPES = ['image/jpeg', 'image/png', 'image/webp'] as const
export const MAX_ATTACHMENT_BYTES = 3_000_000
export const MAX_ATTACHMENTS = 60
export const MAX_RECORDINGS = 60
export const MAX_SAMPLES = 200_000
const MAX_CHANNELS = 16

const text = (x: unknown, most: number): x is string => typeof x === 'string' && x.length > 0 && x.length <= most

/** Why something is no attachment, or undefined. The first bytes must be those of the type it claims. */
export function attachmentProblem(a: unknown): string | undefined {
  const { name, type, about, data } = (a ?? {}) as Partial<Record<keyof Attachment, unknown>>
  if (!text(name, 120)) return 'needs a name of at most 120 characters'
  if (about !== undefined && (typeof about !== 'string' || about.length > 200)) return 'has too long a note'
  if (!ATTACHMENT_TYPES.some((t) => t === type)) return `must be a picture: ${ATTACHMENT_TYPES.join(', ')}`
  if (typeof data !== 'string' || !/^[A-Za-z\d+/]*={0,2}$/.test(data)) return 'has no bytes that can be read'
  const bytes = Buffer.from(data, 'base64')
  if (bytes.length > MAX_ATTACHMENT_BYTES) return `is larger than ${MAX_ATTACHMENT_BYTES / 1e6} MB`
  const starts = (hex: string, at = 0) => bytes.subarray(at, at + hex.length / 2).toString('hex') === hex
  const real = { 'image/jpeg': starts('ffd8ff'), 'image/png': starts('89504e47'), 'image/webp': starts('57454250', 8) }
  return real[type as keyof typeof real] ? undefined : 'is not the kind of picture that it says'
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

type RecordingRow = { id: string; name: string; started_at: string; data: Pick<Recording, 'channels' | 'samples'> }
type AttachmentRow = { id: string; name: string; type: string; about: string; bytes: Uint8Array }

export async function addRecording(q: Query, build: string, r: Recording): Promise<string> {
  const { name, startedAt, channels, samples } = r
  const rows = await q<{ id: string }>(
    'insert into recording (build_id, name, started_at, data) values ($1, $2, $3, $4) returning id',
    [build, name, startedAt, JSON.stringify({ channels, samples })],
  )
  return rows[0]!.id
}

export async function addAttachment(q: Query, build: string, a: Attachment): Promise<string> {
  const rows = await q<{ id: string }>(
    'insert into attachment (build_id, name, type, about, bytes) values ($1, $2, $3, $4, $5) returning id',
    [build, a.name, a.type, a.about ?? '', Buffer.from(a.data, 'base64')],
  )
  return rows[0]!.id
}

export async function addFiles(q: Query, build: string, files: Files): Promise<void> {
  for (const r of files.recordings) await addRecording(q, build, r)
  for (const a of files.attachments) await addAttachment(q, build, a)
}

export type Listed = { readonly id: string; readonly name: string; readonly about: string; readonly size: number }
/** Newest first; names and sizes, not the contents. */
export const listRecordings = (q: Query, build: string): Promise<Listed[]> =>
  q<Listed>(
    "select id, name, started_at as about, json_array_length(data -> 'samples') as size from recording where build_id = $1 order by started_at desc, id limit $2",
    [build, MAX_RECORDINGS],
  )
export const listAttachments = (q: Query, build: string): Promise<Listed[]> =>
  q<Listed>(
    'select id, name, about, length(bytes) as size from attachment where build_id = $1 order by saved_at desc, id limit $2',
    [build, MAX_ATTACHMENTS],
  )

export async function readRecording(q: Query, build: string, id: string): Promise<Recording | undefined> {
  const row = (
    await q<RecordingRow>('select id, name, started_at, data from recording where build_id = $1 and id = $2', [
      build,
      id,
    ])
  )[0]
  return row && { name: row.name, startedAt: row.started_at, ...row.data }
}
export async function readAttachment(q: Query, build: string, id: string): Promise<AttachmentRow | undefined> {
  const rows = await q<AttachmentRow>(
    'select id, name, type, about, bytes from attachment where build_id = $1 and id = $2',
    [build, id],
  )
  return rows[0]
}

/** Takes one away; false where there is none. */
export async function removeFile(
  q: Query,
  table: 'recording' | 'attachment',
  build: string,
  id: string,
): Promise<boolean> {
  return (await q(`delete from ${table} where build_id = $1 and id = $2 returning id`, [build, id])).length > 0
}

/** Everything, contents too, as an exported file holds it. */
export async function filesOf(q: Query, build: string): Promise<Files> {
  const recordings = await q<RecordingRow>(
    'select id, name, started_at, data from recording where build_id = $1 order by started_at, id',
    [build],
  )
  const attachments = await q<AttachmentRow>(
    'select id, name, type, about, bytes from attachment where build_id = $1 order by saved_at, id',
    [build],
  )
  return {
    recordings: recordings.map((r) => ({ name: r.name, startedAt: r.started_at, ...r.data })),
    attachments: attachments.map(({ name, type, about, bytes }) => ({
      name,
      type,
      about,
      data: Buffer.from(bytes).toString('base64'),
    })),
  }
}
