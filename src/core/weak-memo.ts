/** Answers kept as long as what was asked about. */

/**
 * `make`, asked once about each object: documents and what is worked out of them are never changed in place. It is state: whoever evaluates
 * owns it, no module does.
 * @example ((f, o) => f(o) === f(o))(weakMemo(() => ({})), {}) // true
 */
export function weakMemo<K extends object, V extends object>(make: (of: K) => V): (of: K) => V {
  const answers = new WeakMap<K, V>()
  return (of) => {
    let known = answers.get(of)
    if (!known) answers.set(of, (known = make(of)))
    return known
  }
}
