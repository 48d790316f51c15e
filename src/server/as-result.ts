/** For pages: what could not be done comes back as words, not as a broken page. */
import { fail, ok, type Result } from '@/core/result'
import { reported } from './trouble'

export async function asResult<T>(work: () => Promise<T>): Promise<Result<T>> {
  try {
    return ok(await work())
  } catch (error) {
    return fail(reported(error).words)
  }
}
