/** Answers of the API: JSON in, JSON out, errors as sentences. */
import { validateBuild, type Problem } from '@/plan/document/validate'
import type { Build } from '@/plan/document/schema'
import { isStillAllowed, PUT_OUT } from './asker'
import { parseJson } from './json-text'
import { reported } from './trouble'

/** Largest body of a request, bytes: a change or a build; a picture or recording; a file that is brought in with all that it carries. */
export const MAX_BODY = 4_000_000
export const MAX_UPLOAD = 24_000_000
export const MAX_FILE = 64_000_000

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

type BodyRead<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly response: Response }

const tooLarge = (most: number) =>
  ({ ok: false, response: refuse(413, `The file is larger than ${most / 1e6} MB. Nothing was changed.`) }) as const

/** Body of a request that says it is JSON or of another `type`, refused as soon as more than `most` bytes have come, whatever length it claims. */
export async function readBody(request: Request, most: number, type?: string): Promise<BodyRead<Uint8Array>> {
  // a form of another page can send text, but neither JSON nor a type of Ivent's own without being asked for leave
  const [says] = (request.headers.get('content-type') ?? '').toLowerCase().split(';')
  if (says?.trim() !== (type ?? 'application/json'))
    return {
      ok: false,
      response: refuse(
        415,
        type ? `Send it with content-type: ${type}.` : 'Send JSON, with content-type: application/json.',
      ),
    }
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
  // a long body takes its time: who sent it may have been put out meanwhile
  if (!(await isStillAllowed(request))) return { ok: false, response: refuse(401, PUT_OUT) }
  return { ok: true, value: Buffer.concat(chunks) }
}

/** Body of a request as JSON, within the size limit; or the answer that refuses it. */
export async function readJson(request: Request, most = MAX_BODY): Promise<BodyRead<unknown>> {
  const no = (status: number, message: string) => ({ ok: false, response: refuse(status, message) }) as const
  const body = await readBody(request, most)
  if (!body.ok) return body
  const parsed = parseJson(body.value)
  return parsed.ok ? parsed : no(400, parsed.reason)
}

/** A build from a request's JSON, or the answer that lists what is wrong with it. */
export function readBuildFrom(value: unknown): { ok: true; build: Build } | { ok: false; response: Response } {
  const valid = validateBuild(value)
  return valid.ok ? valid : { ok: false, response: invalidBuild(valid.problems) }
}
export const invalidBuild = (problems: readonly Problem[]): Response =>
  refuse(
    422,
    `This build has ${problems.length === 1 ? 'a problem' : `${problems.length} problems`}. Nothing was changed.`,
    problems,
  )
