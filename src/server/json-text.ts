/** Bytes as JSON, or why they are none: for requests, and for the worker that reads long files. */
import { fail, ok, type Result } from '@/core/result'

/** The line and column at which JSON ends to be JSON. */
export function jsonErrorPosition(text: string, error: unknown): string {
  const at = /position (\d+)/.exec(error instanceof Error ? error.message : '')?.[1]
  const before = text.slice(0, at === undefined ? text.length : Number(at)).split('\n')
  return `It breaks at line ${before.length}, column ${before.at(-1)!.length + 1}.`
}

/** NUL as JSON writes it: an escape whose backslash is not itself escaped. */
const NUL_ESCAPE = /(?<!\\)(?:\\\\)*\\u0000/

export function parseJson(bytes: Uint8Array): Result<unknown> {
  let text: string
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return fail('This is not UTF-8 text, so it is not read as a build. Nothing was changed.')
  }
  if (NUL_ESCAPE.test(text)) return fail('This holds a NUL character, which cannot be kept. Nothing was changed.')
  try {
    return ok(JSON.parse(text) as unknown)
  } catch (error) {
    return fail(
      `This is not whole JSON; the file may be cut off. Nothing was changed. ${jsonErrorPosition(text, error)}`.trim(),
    )
  }
}
