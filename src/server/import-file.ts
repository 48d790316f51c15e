/** One exported file taken apart again: the document, and the files that travel with it. */
import { validateBuild, type Problem } from '@/plan/document/validate'
import type { Build } from '@/plan/document/schema'
import {
  attachmentProblem,
  MAX_ATTACHMENTS,
  MAX_RECORDINGS,
  recordingProblem,
  type Attachment,
  carriedProblem,
  storedAttachment,
  storedRecording,
  type Recording,
  type StoredFiles,
} from './files'

export type Taken =
  | { readonly ok: true; readonly build: Build; readonly files: StoredFiles }
  | { readonly ok: false; readonly problems: readonly Problem[] }

function checked(list: unknown, path: string, most: number, problemOf: (x: unknown) => string | undefined): Problem[] {
  if (list === undefined) return []
  if (!Array.isArray(list)) return [{ path, message: 'must be a list' }]
  if (list.length > most) return [{ path, message: `has more than ${most}` }]
  return list.flatMap((x, i) => {
    const message = problemOf(x)
    return message === undefined ? [] : [{ path: `${path} › ${i + 1}`, message }]
  })
}

export function splitImport(value: unknown): Taken {
  if (value === null || typeof value !== 'object' || Array.isArray(value)) {
    const valid = validateBuild(value)
    return { ok: false, problems: valid.ok ? [] : valid.problems }
  }
  const { recordings, attachments, ...document } = value as Record<string, unknown>
  const valid = validateBuild(document)
  const problems = [
    ...(valid.ok ? [] : valid.problems),
    ...checked(recordings, 'recordings', MAX_RECORDINGS, recordingProblem),
    ...checked(attachments, 'attachments', MAX_ATTACHMENTS, attachmentProblem),
  ]
  if (!valid.ok || problems.length > 0) return { ok: false, problems }
  const files = {
    recordings: ((recordings ?? []) as Recording[]).map(storedRecording),
    attachments: ((attachments ?? []) as Attachment[]).map(storedAttachment),
  }
  const message = carriedProblem(files)
  if (message !== undefined) return { ok: false, problems: [{ path: 'recordings and attachments', message }] }
  return { ok: true, build: valid.build, files }
}
