/** A computation either gives a value or a reason a person can act on. Nothing in core throws for bad input. */
export type Result<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly reason: string; readonly at?: string }

/**
 * A result that is there; `fail` is its counterpart.
 *
 * @example
 * import { ok } from '@/core/result'
 *
 * console.log(ok(2)) // { ok: true, value: 2 }
 */
export const ok = <T>(value: T): Result<T> => ({ ok: true, value })
/**
 * A result that is not there, and why: a reason that a person can act on, at the place that it concerns.
 *
 * @example
 * import { fail } from '@/core/result'
 *
 * console.log(fail('No can is fitted.').ok) // false
 */
export const fail = (
  reason: string,
  at?: string,
): { readonly ok: false; readonly reason: string; readonly at?: string } => ({ ok: false, reason, at })
