/** What a device's holder should know of what is kept on it; shown by `offline-bar.tsx`, told by whoever notices. */
import { useSyncExternalStore } from 'react'
import type { NotKept } from './register'

export type OfflineNotes = {
  /** why nothing is kept for when there is no connection */
  readonly notKept?: NotKept
  /** a newer version waits; this lets it take over */
  readonly takeOver?: () => void
}

const NONE: OfflineNotes = {}
let notes = NONE
const listeners = new Set<() => void>()

export function noteOffline(more: OfflineNotes): void {
  notes = { ...notes, ...more }
  for (const listener of listeners) listener()
}

const subscribe = (listener: () => void) => {
  listeners.add(listener)
  return () => void listeners.delete(listener)
}
export const useOfflineNotes = (): OfflineNotes =>
  useSyncExternalStore(
    subscribe,
    () => notes,
    () => NONE,
  )

/** Whether something failed because the device's store is full. */
export const isFull = (error: unknown): boolean => error instanceof DOMException && error.name === 'QuotaExceededError'
