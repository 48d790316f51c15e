/** Whether the bench answers. Nobody asks while it does; once it has not, it is asked every few seconds until it does again. */
import { useSyncExternalStore } from 'react'

export type Connection =
  | { readonly up: true }
  /** as of when the page is that is shown, where it is one that the device had kept (ms) */
  | { readonly up: false; readonly keptAt: number | undefined }

const ASK_MS = 3000
const PATIENCE_MS = 5000
const UP: Connection = { up: true }

let connection: Connection = UP
let asking: ReturnType<typeof setTimeout> | undefined
const listeners = new Set<() => void>()

function set(next: Connection): void {
  connection = next
  for (const listener of listeners) listener()
}

async function answers(): Promise<boolean> {
  const response = await fetch('/api/health', { cache: 'no-store', signal: AbortSignal.timeout(PATIENCE_MS) }).catch(
    () => undefined,
  )
  // whatever it answers: one that has been put out is refused, not cut off
  return response !== undefined
}

async function ask(): Promise<void> {
  clearTimeout(asking)
  if (await answers()) connectionBack()
  else if (!connection.up) asking = setTimeout(() => void ask(), ASK_MS)
}

/** Something was asked of the bench and it did not answer. */
export function connectionLost(keptAt?: number): void {
  if (!connection.up) return
  set({ up: false, keptAt })
  clearTimeout(asking)
  asking = setTimeout(() => void ask(), ASK_MS)
}

/** Something went wrong that may have been the connection: it is asked for. */
export async function doubtConnection(): Promise<void> {
  if (connection.up && !(await answers())) connectionLost()
}

/** The bench has answered. */
export function connectionBack(): void {
  clearTimeout(asking)
  if (connection.up) return
  // what is shown from now on is the bench's again
  delete document.documentElement.dataset.keptAt
  set(UP)
}

/** Watches the connection from when a page is there; how old the page is that was kept on the device stands in its head. */
export function watchConnection(): () => void {
  const kept = Date.parse(document.documentElement.dataset.keptAt ?? '')
  if (Number.isFinite(kept)) {
    connectionLost(kept)
    void ask()
  }
  const down = () => connectionLost()
  const maybe = () => {
    if (!connection.up) void ask()
  }
  addEventListener('offline', down)
  addEventListener('online', maybe)
  document.addEventListener('visibilitychange', maybe)
  return () => {
    removeEventListener('offline', down)
    removeEventListener('online', maybe)
    document.removeEventListener('visibilitychange', maybe)
  }
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}
export const useConnection = (): Connection =>
  useSyncExternalStore(
    subscribe,
    () => connection,
    () => UP,
  )

/** Does something each time that the bench answers again. */
export function onConnectionBack(doing: () => void): () => void {
  let was = connection.up
  return subscribe(() => {
    if (connection.up && !was) doing()
    was = connection.up
  })
}
