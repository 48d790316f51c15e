/** Build files that come into the garage: one or many, alone or in an archive. */
import type { Problem } from '@/plan/document/validate'

export type RefusedFile = { readonly file: string; readonly error: string; readonly problems: readonly Problem[] }
export type BroughtIn = { readonly names: readonly string[]; readonly refused: readonly RefusedFile[] }

type NamedFile = { readonly name: string; readonly body: Blob }

/** The build files among those chosen, archives unpacked; an archive that cannot be read is refused. */
async function buildFiles(
  files: readonly File[],
): Promise<{ readonly files: NamedFile[]; readonly refused: RefusedFile[] }> {
  const found: NamedFile[] = []
  const refused: RefusedFile[] = []
  for (const file of files) {
    if (!/\.zip$/i.test(file.name)) {
      found.push({ name: file.name, body: file })
      continue
    }
    try {
      const { unzipSync } = await import('fflate')
      const inside = Object.entries(unzipSync(new Uint8Array(await file.arrayBuffer())))
      for (const [name, bytes] of inside)
        if (/\.json$/i.test(name)) found.push({ name, body: new Blob([bytes as Uint8Array<ArrayBuffer>]) })
    } catch {
      refused.push({
        file: file.name,
        error: 'This archive cannot be read. Nothing of it was brought in.',
        problems: [],
      })
    }
  }
  return { files: found, refused }
}

export const NO_ANSWER = 'Ivent does not answer. Nothing was changed.'

type SentBuild =
  | { readonly ok: true; readonly name: string | undefined }
  | { readonly ok: false; readonly error: string; readonly problems: readonly Problem[] }

/** Sends the text of one build file; its name, or why it was not taken. */
export async function sendBuild(body: Blob | string): Promise<SentBuild> {
  const response = await fetch('/api/import', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body,
  }).catch(() => undefined)
  const reply = (await response?.json().catch(() => ({}))) as
    { name?: string; error?: string; problems?: readonly Problem[] } | undefined
  return response?.ok
    ? { ok: true, name: reply?.name }
    : { ok: false, error: reply?.error ?? NO_ANSWER, problems: reply?.problems ?? [] }
}

/** Brings files in, one after another. @param say how far it is */
export async function bringIn(chosen: readonly File[], say: (note: string) => void): Promise<BroughtIn> {
  const { files, refused } = await buildFiles(chosen)
  const names: string[] = []
  for (const [i, { name, body }] of files.entries()) {
    say(files.length === 1 ? `Reading ${name}…` : `Reading ${i + 1} of ${files.length}: ${name}…`)
    const sent = await sendBuild(body)
    if (sent.ok) names.push(sent.name ?? name)
    else refused.push({ file: name, error: sent.error, problems: sent.problems })
  }
  return { names, refused }
}

/** What was brought in, in a sentence. */
export const broughtInText = ({ names, refused }: BroughtIn): string =>
  [
    ...(names.length === 1
      ? [`${names[0]} is in the garage.`]
      : names.length > 1
        ? [`${names.length} builds are in the garage.`]
        : []),
    ...(names.length > 0 && refused.length > 0
      ? [`${refused.length} ${refused.length === 1 ? 'file was' : 'files were'} not brought in.`]
      : []),
  ].join(' ')
