'use client'
/**
 * Builds as the server last had them, kept on the device: a page that opens without a connection may be older than what this device has saved
 * since. In a database of its own, apart from what waits to be saved: this can be had again.
 */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { Build } from '@/plan/document/schema'

export type KeptHead = {
  readonly build: string
  readonly revision: number
  readonly document: Build
  readonly at: number
}
interface HeadStore extends DBSchema {
  head: { key: string; value: KeptHead; indexes: { at: number } }
}

/** Builds that are kept: those last opened. */
export const MOST_KEPT = 8

let opened: Promise<IDBPDatabase<HeadStore>> | undefined
const database = () =>
  (opened ??= openDB<HeadStore>('ivent-heads', 1, {
    upgrade: (db) => {
      db.createObjectStore('head', { keyPath: 'build' }).createIndex('at', 'at')
    },
    // a later version of Ivent in another tab
    blocking: (_old, _new, event) => {
      ;(event.target as IDBDatabase).close()
      opened = undefined
    },
  }))

/** Keeps a build as of a revision; fails where the device's store is full. */
export async function storeHead(build: string, revision: number, document: Build): Promise<void> {
  const db = await database()
  await db.put('head', { build, revision, document, at: Date.now() })
  const all = await db.getAllKeysFromIndex('head', 'at')
  await Promise.all(all.slice(0, Math.max(0, all.length - MOST_KEPT)).map((key) => db.delete('head', key)))
}

export const storedHead = async (build: string): Promise<KeptHead | undefined> => (await database()).get('head', build)
