/** For pages: what could not be done comes back as words, not as a broken page. */
import { logged, troubleOf } from './trouble'

export type Told<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly reason: string }

export async function told<T>(work: () => Promise<T>): Promise<Told<T>> {
  try {
    return { ok: true, value: await work() }
  } catch (error) {
    const { status, words } = troubleOf(error)
    console.error(`${status} ${logged(error)}`)
    return { ok: false, reason: words }
  }
}
