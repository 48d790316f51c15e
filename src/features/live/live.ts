'use client'
/**
 * What other devices do, as it happens. A device holds one connection, whatever windows it has open: the one that has the lock holds it,
 * and passes on what comes; when that one closes, the next takes over.
 */
import { useEffect, useMemo, useRef, useSyncExternalStore } from 'react'
import { connectionBack, doubtConnection } from '@/ui/connection'

/** Where a window of some device is. */
export type OtherPlace = {
  readonly window: string
  readonly connection: string
  readonly name: string
  readonly build: string
  readonly station: string
  readonly at?: string
  readonly says: string
}
export type OwnPlace = Pick<OtherPlace, 'build' | 'station' | 'at' | 'says'>

type LiveMessage =
  /** there is a connection; again, where this page has had another: what was missed is to be asked for */
  | { readonly kind: 'hello'; readonly connection: string; readonly again?: boolean }
  | { readonly kind: 'changed'; readonly build?: string }
  /** photographs of a build were added or taken away */
  | { readonly kind: 'photos'; readonly build: string }
  /** a logger sent lines for a build */
  | { readonly kind: 'logger'; readonly build: string }
  | { readonly kind: 'here'; readonly places: readonly OtherPlace[] }
/** What windows of one device say to each other: a new one asks which connection there is. */
type WindowMessage = LiveMessage | { readonly kind: 'which' }

const NAME = 'ivent-live'
const PAUSE_MS = 250
const NOBODY: readonly OtherPlace[] = []

let started = false
let channel: BroadcastChannel | undefined
let connection: string | undefined
let leads = false
let own: OwnPlace | undefined
let places = NOBODY
let saying: ReturnType<typeof setTimeout> | undefined
let windowId: string | undefined
const listeners = new Set<(message: LiveMessage) => void>()
const watchers = new Set<() => void>()

/** This window, for as long as its page lives. */
const ownWindow = () => (windowId ??= crypto.randomUUID())

function toOtherWindows(message: WindowMessage): void {
  // a channel reaches this origin's windows alone
  // oxlint-disable-next-line unicorn/require-post-message-target-origin
  channel?.postMessage(message)
}
const post = (place: OwnPlace | null): void => {
  if (connection === undefined) return
  void fetch('/api/live', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ connection, window: ownWindow(), place }),
    keepalive: true,
  })
    // read to its end: one that is not stays open
    .then((answer) => answer.text())
    .catch(() => undefined)
}
function say(): void {
  clearTimeout(saying)
  saying = setTimeout(() => post(own ?? null), PAUSE_MS)
}

function take(message: LiveMessage): void {
  const again = message.kind === 'hello' && connection !== undefined && connection !== message.connection
  if (message.kind === 'hello') {
    connection = message.connection
    if (own) say()
  }
  if (message.kind === 'here') {
    places = message.places
    for (const watcher of watchers) watcher()
  }
  const sent = message.kind === 'hello' ? { ...message, again } : message
  for (const listener of listeners) listener(sent)
}

/** Holds the device's connection until the window closes; the browser itself tries again when it is lost. */
function lead(): Promise<never> {
  leads = true
  const events = new EventSource('/api/live')
  events.addEventListener('message', ({ data }) => {
    const message = JSON.parse(String(data)) as LiveMessage
    toOtherWindows(message)
    take(message)
  })
  events.addEventListener('open', connectionBack)
  events.addEventListener('error', () => {
    // one that is refused for good was put out: it is told so by what it asks next
    if (events.readyState === EventSource.CONNECTING) void doubtConnection()
  })
  return new Promise(() => undefined)
}

function start(): void {
  if (started || typeof BroadcastChannel === 'undefined' || !('locks' in navigator)) return
  started = true
  channel = new BroadcastChannel(NAME)
  channel.addEventListener('message', ({ data }) => {
    const message = data as WindowMessage
    if (message.kind !== 'which') return take(message)
    if (leads && connection !== undefined) {
      toOtherWindows({ kind: 'hello', connection })
      toOtherWindows({ kind: 'here', places })
    }
  })
  addEventListener('pagehide', () => post(null))
  toOtherWindows({ kind: 'which' })
  void navigator.locks.request(NAME, lead)
}

/** Is told of what happens, while the component lives. */
export function useLive(listener: (message: LiveMessage) => void): void {
  const latest = useRef(listener)
  useEffect(() => {
    latest.current = listener
  })
  useEffect(() => {
    start()
    const listener = (message: LiveMessage) => latest.current(message)
    listeners.add(listener)
    return () => {
      listeners.delete(listener)
    }
  }, [])
}

/** Tells other devices where this window is, while the component lives. */
export function useOwnPlace(place: OwnPlace): void {
  const { build, station, at, says } = place
  useEffect(() => {
    own = { build, station, at, says }
    say()
  }, [build, station, at, says])
  useEffect(
    () => () => {
      own = undefined
      say()
    },
    [],
  )
}

function watch(watcher: () => void): () => void {
  watchers.add(watcher)
  return () => {
    watchers.delete(watcher)
  }
}
const placesNow = () => places
/** Where other devices are: everywhere, or in one build. */
export function useOthers(build: string): readonly OtherPlace[] {
  const all = useSyncExternalStore(watch, placesNow, () => NOBODY)
  return useMemo(() => all.filter((p) => p.build === build && p.connection !== connection), [all, build])
}
