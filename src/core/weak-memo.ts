/** Answers kept as long as what was asked about. */

/**
 * `make`, asked once about each object: documents and what is worked out of them are never changed in place. It is state: whoever evaluates
 * owns it, no module does.
 *
 * @example
 * import { weakMemo } from '@/core/weak-memo'
 *
 * const sizeOf = weakMemo((of: readonly number[]) => ({ size: of.length }))
 * const list = [1, 2]
 * console.log(sizeOf(list) === sizeOf(list)) // true
 */
export function weakMemo<K extends object, V extends object>(make: (of: K) => V): (of: K) => V {
  const answers = new WeakMap<K, V>()
  return (of) => {
    let known = answers.get(of)
    if (!known) answers.set(of, (known = make(of)))
    return known
  }
}
