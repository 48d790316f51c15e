/**
 * What is told to devices as it happens: which build has changed, and where everybody is. Each device holds one connection; what it missed
 * while it had none it asks for when it is back, by the revision that it knows.
 */
import { isStillAllowed, type Asker } from './asker'
import { onChanged } from './changed'
import { onDevicesChanged } from './devices'

/** Where a window is: of which build, at which station, at what there, in words. */
export type WindowPlace = {
  readonly window: string
  readonly connection: string
  /** the device's name */
  readonly name: string
  readonly build: string
  readonly station: string
  readonly at: string | undefined
  readonly says: string
}
type Event =
  | { readonly kind: 'hello'; readonly connection: string }
  | { readonly kind: 'changed'; readonly build: string | undefined }
  | { readonly kind: 'photos'; readonly build: string }
  | { readonly kind: 'logger'; readonly build: string }
  | { readonly kind: 'here'; readonly places: readonly WindowPlace[] }

type LiveConnection = {
  readonly id: string
  readonly asker: Asker
  readonly send: (text: string) => void
  readonly end: () => void
  readonly headers: Headers
  readonly places: Map<string, WindowPlace>
}
/** Where windows are that are connected to one Ivent, as it tells the others on its database. */
export type IventPlaces = { readonly ivent: string; readonly places: readonly WindowPlace[] }
type Live = {
  readonly ivent: string
  readonly connections: Map<string, LiveConnection>
  readonly elsewhere: Map<string, { readonly places: readonly WindowPlace[]; readonly at: number }>
  /** how the other Ivents are told */
  announceToOthers: ((places: IventPlaces) => void) | undefined
  listening: boolean
}
const shared = globalThis as { iventLive?: Live }
const live = (): Live =>
  (shared.iventLive ??= {
    ivent: crypto.randomUUID(),
    connections: new Map(),
    elsewhere: new Map(),
    announceToOthers: undefined,
    listening: false,
  })

/** A connection through which nothing passes is cut off by what lies between. */
const BEAT_MS = 20_000
/** A browser that has lost its connection tries again after this. */
const RETRY_MS = 1500
const MOST_CONNECTIONS = 500
const MOST_WINDOWS = 50

const text = (event: Event) => `data: ${JSON.stringify(event)}\n\n`

function broadcast(event: Event): void {
  const sent = text(event)
  for (const c of live().connections.values()) c.send(sent)
}
/** Photographs of a build were added or taken away. */
export const announcePhotos = (build: string): void => broadcast({ kind: 'photos', build })
/** Lines of a logger came in for a build. */
export const announceLoggerRun = (build: string): void => broadcast({ kind: 'logger', build })
const ownPlaces = (): readonly WindowPlace[] => [...live().connections.values()].flatMap((c) => [...c.places.values()])
const allPlaces = (): readonly WindowPlace[] => [
  ...ownPlaces(),
  ...[...live().elsewhere.values()].flatMap((e) => e.places),
]
/** A notice of the database holds no more. */
const MOST_PLACES = 20
function announcePlaces(): void {
  const { ivent, announceToOthers } = live()
  announceToOthers?.({ ivent, places: ownPlaces().slice(0, MOST_PLACES) })
}
function placesChanged(): void {
  broadcast({ kind: 'here', places: allPlaces() })
  announcePlaces()
}

/** Where windows are that another Ivent has connected; it says so again and again, and is forgotten when it does no more. */
export function takePlaces({ ivent, places }: IventPlaces, now = Date.now()): void {
  live().elsewhere.set(ivent, { places, at: now })
  broadcast({ kind: 'here', places: allPlaces() })
}
/** How the other Ivents on this database are told where windows are. */
export function onPlaces(tell: (places: IventPlaces) => void): void {
  live().announceToOthers = tell
  listen()
}

function end(connection: LiveConnection): void {
  if (!live().connections.delete(connection.id)) return
  connection.end()
  if (connection.places.size > 0) placesChanged()
}

/** Ends the connections of devices that have been put out. */
async function endThoseOut(): Promise<void> {
  for (const c of live().connections.values())
    // one that cannot be asked about is let go: it comes back, and is asked at the door
    if (!(await isStillAllowed(c).catch(() => false))) end(c)
}

function listen(): void {
  if (live().listening) return
  live().listening = true
  onChanged((build) => broadcast({ kind: 'changed', build }))
  onDevicesChanged(() => void endThoseOut())
  setInterval(() => {
    for (const c of live().connections.values()) c.send(': \n\n')
    const { elsewhere } = live()
    const gone = [...elsewhere].filter(([, { at }]) => Date.now() - at > 3 * BEAT_MS)
    for (const [ivent] of gone) elsewhere.delete(ivent)
    if (gone.length > 0) broadcast({ kind: 'here', places: allPlaces() })
    announcePlaces()
  }, BEAT_MS).unref()
}

/** A connection for who asks, as server-sent events; undefined where there are too many. */
export function openLive(asker: Asker, headers: Headers): ReadableStream<Uint8Array> | undefined {
  listen()
  if (live().connections.size >= MOST_CONNECTIONS) return undefined
  const id = crypto.randomUUID()
  const encoder = new TextEncoder()
  let connection: LiveConnection | undefined
  return new ReadableStream({
    start(stream) {
      connection = {
        id,
        asker,
        headers,
        places: new Map(),
        send: (sent) => {
          try {
            stream.enqueue(encoder.encode(sent))
          } catch {
            // closed by the other side a moment ago
          }
        },
        end: () => {
          try {
            stream.close()
          } catch {
            // closed by the other side
          }
        },
      }
      // a device holds one connection: an older one of it was lost, though this side has not heard of that yet
      for (const c of live().connections.values()) if (asker && c.asker?.id === asker.id) end(c)
      live().connections.set(id, connection)
      connection.send(`retry: ${RETRY_MS}\n\n${text({ kind: 'hello', connection: id })}`)
      connection.send(text({ kind: 'here', places: allPlaces() }))
    },
    cancel() {
      if (connection) end(connection)
    },
  })
}

/** A window says where it is, or with no place that it is gone; false where its device has no such connection. */
export function reportPlace(
  asker: Asker,
  connectionId: string,
  window: string,
  place: Pick<WindowPlace, 'build' | 'station' | 'at' | 'says'> | undefined,
): boolean {
  const connection = live().connections.get(connectionId)
  if (!connection || connection.asker?.id !== asker?.id) return false
  if (place && !connection.places.has(window) && connection.places.size >= MOST_WINDOWS) return false
  if (place) connection.places.set(window, { ...place, window, connection: connectionId, name: asker?.name ?? 'Bench' })
  else connection.places.delete(window)
  placesChanged()
  return true
}
