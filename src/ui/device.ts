/** The device that this browser was let in as, from the cookie that says so; what it may do is decided where it is saved. */
import { useSyncExternalStore } from 'react'
import { isRights, type Rights } from '@/plan/edit/rights'

export type ThisDevice = { readonly name: string; readonly rights: Rights }

let last: { readonly cookie: string; readonly device: ThisDevice | undefined } | undefined

function parse(cookie: string): ThisDevice | undefined {
  const value = /(?:^|;\s*)ivent-device=([^;]+)/.exec(cookie)?.[1]
  if (value === undefined) return undefined
  try {
    const { name, rights } = JSON.parse(decodeURIComponent(value)) as { name?: unknown; rights?: unknown }
    return typeof name === 'string' && isRights(rights) ? { name, rights } : undefined
  } catch {
    return undefined
  }
}

/** Undefined at the bench. */
export function thisDevice(): ThisDevice | undefined {
  const cookie = typeof document === 'undefined' ? '' : document.cookie
  if (last?.cookie !== cookie) last = { cookie, device: parse(cookie) }
  return last.device
}

/** At the bench everything may be done. */
export const ownRights = (): Rights => thisDevice()?.rights ?? 'all'

const onFocus = (changed: () => void) => {
  addEventListener('focus', changed)
  return () => removeEventListener('focus', changed)
}
export const useThisDevice = (): ThisDevice | undefined => useSyncExternalStore(onFocus, thisDevice, () => undefined)
