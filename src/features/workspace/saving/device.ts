'use client'
/** What waits on this device: changes that the server has not acknowledged, and the steps of undo. Kept in the browser's own database. */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { Change } from '@/plan/edit/edit'
import type { UndoStep } from '../store'

export type KeptOnDevice = {
  /** build and window that it belongs to */
  readonly key: string
  readonly build: string
  readonly window: string
  /** revision that the first pending change was made on */
  readonly base: number
  readonly pending: readonly Change[]
  readonly past: readonly UndoStep[]
  readonly future: readonly UndoStep[]
  readonly at: number
}
interface DeviceStore extends DBSchema {
  kept: { key: string; value: KeptOnDevice; indexes: { build: string } }
}

/** Steps of undo that nobody comes back for. */
const OLD_MS = 30 * 24 * 3600 * 1000

let opened: Promise<IDBPDatabase<DeviceStore>> | undefined
const database = () =>
  (opened ??= openDB<DeviceStore>('ivent', 1, {
    upgrade: (db) => {
      db.createObjectStore('kept', { keyPath: 'key' }).createIndex('build', 'build')
    },
  }))

/** This window's name, the same after a reload. */
function windowName(): string {
  const key = 'ivent-window'
  const known = sessionStorage.getItem(key)
  if (known) return known
  const made = crypto.randomUUID()
  sessionStorage.setItem(key, made)
  return made
}
const lockOf = (window: string) => `ivent-window-${window}`

/** Holds this window's lock while it lives, so that others know that what it keeps is still its own. */
export function holdWindow(): void {
  void navigator.locks?.request(lockOf(windowName()), () => new Promise(() => undefined))
}

async function living(): Promise<ReadonlySet<string>> {
  const state = await navigator.locks?.query()
  return new Set((state?.held ?? []).flatMap((l) => (l.name === undefined ? [] : [l.name])))
}

export async function remember(kept: Omit<KeptOnDevice, 'key' | 'window' | 'at'>): Promise<void> {
  const window = windowName()
  const db = await database()
  // committed with the write itself: a page that is left a moment later would take an open transaction back
  const writing = db.transaction('kept', 'readwrite')
  void writing.store.put({ ...kept, window, key: `${kept.build} ${window}`, at: Date.now() })
  writing.commit()
  await writing.done
}

/**
 * What this window kept of a build, and changes of windows that were closed before they could be saved, oldest first. Once they are kept as
 * this window's own, `takenOver` lets theirs go.
 */
export async function readKeptChanges(build: string): Promise<{
  readonly own: KeptOnDevice | undefined
  readonly left: readonly KeptOnDevice[]
  readonly takenOver: () => Promise<void>
}> {
  const db = await database()
  const all = await db.getAllFromIndex('kept', 'build', build)
  const window = windowName()
  const alive = await living()
  const closed = all.filter((k) => k.window !== window && !alive.has(lockOf(k.window)))
  const left = closed.filter((k) => k.pending.length > 0).toSorted((a, b) => a.at - b.at)
  const old = closed.filter((k) => k.pending.length === 0 && Date.now() - k.at > OLD_MS)
  await Promise.all(old.map((k) => db.delete('kept', k.key)))
  return {
    own: all.find((k) => k.window === window),
    left,
    takenOver: async () => {
      await Promise.all(left.map((k) => db.delete('kept', k.key)))
    },
  }
}

/** What became of changes that were sent: saved; not to be saved as things are, so that a person must look; or no answer. */
export type SentChange = 'saved' | 'look' | 'unanswered'
/** Changes of a build that wait on this device, and whether a person must look at them before they can be saved. */
export type Waiting = { readonly changes: number; readonly look: boolean }

/**
 * What windows that are no longer open left unsaved, and what this one did: sent through `send`, build by build, the oldest first. What is
 * saved waits no longer; returns what still does, by build.
 */
export async function sendWaiting(
  send: (kept: KeptOnDevice) => Promise<SentChange>,
): Promise<ReadonlyMap<string, Waiting>> {
  const db = await database()
  const alive = await living()
  const own = windowName()
  const waiting = new Map<string, Waiting>()
  const all = (await db.getAll('kept')).filter((k) => k.pending.length > 0)
  for (const k of all.toSorted((x, y) => x.at - y.at)) {
    const free = k.window === own || !alive.has(lockOf(k.window))
    // what comes after something that is stuck waits behind it
    const before = waiting.get(k.build)
    const sent = free && !before ? await send(k) : 'unanswered'
    if (sent === 'saved') await db.put('kept', { ...k, pending: [] })
    else
      waiting.set(k.build, {
        changes: (before?.changes ?? 0) + k.pending.length,
        look: before?.look === true || sent === 'look',
      })
  }
  return waiting
}
