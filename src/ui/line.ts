/** Whether the bench answers. Nobody asks while it does; once it has not, it is asked every few seconds until it does again. */
import { useSyncExternalStore } from 'react'

export type Line =
  | { readonly up: true }
  /** since when there is none, and as of when the page is that is shown, where it is one that the device had kept (ms) */
  | { readonly up: false; readonly since: number; readonly keptAt: number | undefined }

const ASK_MS = 3000
const PATIENCE_MS = 5000
const UP: Line = { up: true }

let line: Line = UP
let asking: ReturnType<typeof setTimeout> | undefined
const listeners = new Set<() => void>()

function set(next: Line): void {
  line = next
  for (const listener of listeners) listener()
}

async function answers(): Promise<boolean> {
  const response = await fetch('/api/health', { cache: 'no-store', signal: AbortSignal.timeout(PATIENCE_MS) }).catch(
    () => undefined,
  )
  return response?.ok === true
}

async function ask(): Promise<void> {
  clearTimeout(asking)
  if (await answers()) lineIsBack()
  else if (!line.up) asking = setTimeout(() => void ask(), ASK_MS)
}

/** Something was asked of the bench and it did not answer. */
export function lineIsDown(keptAt?: number): void {
  if (!line.up) return
  set({ up: false, since: Date.now(), keptAt })
  clearTimeout(asking)
  asking = setTimeout(() => void ask(), ASK_MS)
}

/** The bench has answered. */
export function lineIsBack(): void {
  clearTimeout(asking)
  if (!line.up) set(UP)
}

export const lineNow = (): Line => line

/** Watches the line from when a page is there; how old the page is that was kept on the device stands in its head. */
export function watchLine(): () => void {
  const kept = Date.parse(document.documentElement.dataset.keptAt ?? '')
  if (Number.isFinite(kept)) {
    lineIsDown(kept)
    void ask()
  }
  const down = () => lineIsDown()
  const maybe = () => {
    if (!line.up) void ask()
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
export const useLine = (): Line => useSyncExternalStore(subscribe, lineNow, () => UP)

/** Does something each time that the bench answers again. */
export function onLineBack(doing: () => void): () => void {
  let was = line.up
  return subscribe(() => {
    if (line.up && !was) doing()
    was = line.up
  })
}
