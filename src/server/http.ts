/** Answers of the API: JSON in, JSON out, errors as sentences. */
import { validateBuild, type Problem } from '@/plan/document/validate'
import type { Build } from '@/plan/document/schema'
import { reported } from './trouble'

/** Largest body of a request, bytes; a file that is brought in may carry pictures and recordings. */
export const MAX_BODY = 4_000_000
export const MAX_FILE = 24_000_000

/** A route handler whose every failure is an answer: a reason in words, and nothing of a document in the log. */
export const answering =
  <A extends readonly unknown[]>(handler: (...args: A) => Promise<Response>) =>
  async (...args: A): Promise<Response> => {
    try {
      return await handler(...args)
    } catch (error) {
      const { status, words } = reported(error)
      return refuse(status, words)
    }
  }

/** Infinity (a can that never fills) has no JSON; it becomes null. */
export const json = (data: unknown, status = 200): Response =>
  Response.json(data, { status, headers: { 'cache-control': 'no-store' } })
export const refuse = (status: number, message: string, problems: readonly Problem[] = []): Response =>
  json({ error: message, problems }, status)
export const gone = () => refuse(404, 'There is no such build here. It may have been removed.')

type Read<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly response: Response }

const tooLarge = (most: number) =>
  ({ ok: false, response: refuse(413, `The file is larger than ${most / 1e6} MB. Nothing was changed.`) }) as const

/** Body of a request, refused as soon as more than `most` bytes have come, whatever length it claims. */
async function readBody(request: Request, most: number): Promise<Read<Uint8Array>> {
  if (Number(request.headers.get('content-length') ?? 0) > most) return tooLarge(most)
  const reader = request.body?.getReader()
  const chunks: Uint8Array[] = []
  let size = 0
  for (;;) {
    const step = await reader?.read()
    if (!step || step.done) break
    size += step.value.byteLength
    if (size > most) {
      await reader?.cancel()
      return tooLarge(most)
    }
    chunks.push(step.value)
  }
  return { ok: true, value: Buffer.concat(chunks) }
}

/** Body of a request as JSON, within the size limit; or the answer that refuses it. */
export async function readJson(request: Request, most = MAX_BODY): Promise<Read<unknown>> {
  const no = (status: number, message: string) => ({ ok: false, response: refuse(status, message) }) as const
  const type = request.headers.get('content-type') ?? ''
  // a form of another page can send text, but no JSON without being asked for leave
  if (!/^application\/json\b/i.test(type)) return no(415, 'Send JSON, with content-type: application/json.')
  const body = await readBody(request, most)
  if (!body.ok) return body
  let text: string
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(body.value)
  } catch {
    return no(400, 'This is not UTF-8 text, so it is not read as a build. Nothing was changed.')
  }
  if (NUL_ESCAPE.test(text)) return no(400, 'This holds a NUL character, which cannot be kept. Nothing was changed.')
  try {
    return { ok: true, value: JSON.parse(text) as unknown }
  } catch (error) {
    return no(
      400,
      `This is not whole JSON; the file may be cut off. Nothing was changed. ${whereItBreaks(text, error)}`.trim(),
    )
  }
}
/** The line and column at which JSON ends to be JSON. */
export function whereItBreaks(text: string, error: unknown): string {
  const at = /position (\d+)/.exec(error instanceof Error ? error.message : '')?.[1]
  const before = text.slice(0, at === undefined ? text.length : Number(at)).split('\n')
  return `It breaks at line ${before.length}, column ${before.at(-1)!.length + 1}.`
}

/** NUL as JSON writes it: an escape whose backslash is not itself escaped. */
const NUL_ESCAPE = /(?<!\\)(?:\\\\)*\\u0000/

/** A build from a request's JSON, or the answer that lists what is wrong with it. */
export function readBuildFrom(value: unknown): { ok: true; build: Build } | { ok: false; response: Response } {
  const valid = validateBuild(value)
  return valid.ok ? valid : { ok: false, response: unsound(valid.problems) }
}
export const unsound = (problems: readonly Problem[]): Response =>
  refuse(
    422,
    `This build has ${problems.length === 1 ? 'a problem' : `${problems.length} problems`}. Nothing was changed.`,
    problems,
  )
