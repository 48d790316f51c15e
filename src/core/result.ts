/** A computation either gives a value or a reason a person can act on. Nothing in core throws for bad input. */
export type Result<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly reason: string; readonly at?: string }

export const ok = <T>(value: T): Result<T> => ({ ok: true, value })
export const fail = (
  reason: string,
  at?: string,
): { readonly ok: false; readonly reason: string; readonly at?: string } => ({ ok: false, reason, at })
