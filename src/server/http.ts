/** Answers of the API: JSON in, JSON out, errors as sentences. */
import { validateBuild, type Problem } from '@/plan/document/validate'
import type { Build } from '@/plan/document/schema'

export const MAX_BODY = 4_000_000

/** Infinity (a can that never fills) has no JSON; it becomes null. */
export const json = (data: unknown, status = 200): Response =>
  Response.json(data, { status, headers: { 'cache-control': 'no-store' } })
export const refuse = (status: number, message: string, problems: readonly Problem[] = []): Response =>
  json({ error: message, problems }, status)

/** Body of a request as JSON, within the size limit; or the answer that refuses it. */
export async function readJson(
  request: Request,
): Promise<{ ok: true; value: unknown } | { ok: false; response: Response }> {
  if (Number(request.headers.get('content-length') ?? 0) > MAX_BODY)
    return { ok: false, response: refuse(413, 'The file is larger than 4 MB. Nothing was changed.') }
  const text = await request.text()
  if (text.length > MAX_BODY)
    return { ok: false, response: refuse(413, 'The file is larger than 4 MB. Nothing was changed.') }
  try {
    return { ok: true, value: JSON.parse(text) as unknown }
  } catch (error) {
    const where = error instanceof SyntaxError ? error.message.replace(/^.*? in JSON/, 'It breaks') : ''
    return {
      ok: false,
      response: refuse(400, `This is not whole JSON; the file may be cut off. Nothing was changed. ${where}`.trim()),
    }
  }
}

/** A build from a request's JSON, or the answer that lists what is wrong with it. */
export function readBuildFrom(value: unknown): { ok: true; build: Build } | { ok: false; response: Response } {
  const valid = validateBuild(value)
  return valid.ok
    ? valid
    : {
        ok: false,
        response: refuse(
          422,
          `This build has ${valid.problems.length === 1 ? 'a problem' : `${valid.problems.length} problems`}. Nothing was changed.`,
          valid.problems,
        ),
      }
}
