/**
 * Who asks: the bench, which is this machine itself, or a device that was let in. The server in front says so in a header of its own, which
 * nobody outside can set; routes read it here.
 */
import { NOT_PERMITTED, type Rights } from '@/plan/edit/rights'
import { deviceWith, type Device } from './devices'

/** A device, or undefined for the bench. */
export type Asker = Device | undefined
/** The header under which the server in front passes on who asks, and the one with the token of its session. */
export const ASKER = 'x-ivent-asker'
export const SESSION = 'x-ivent-session'

/** What the server in front writes for a device; a header takes no other letters than these. */
export const askerHeader = (device: Device): string => encodeURIComponent(JSON.stringify(device))

/** Who sent a request. */
export function askerOf({ headers }: Pick<Request, 'headers'>): Asker {
  const header = headers.get(ASKER)
  return header === null ? undefined : (JSON.parse(decodeURIComponent(header)) as Device)
}

/** Whether who sent a request may still do so: a device may have been put out while it was sending. */
export async function isStillAllowed({ headers }: Pick<Request, 'headers'>): Promise<boolean> {
  if (headers.get(ASKER) === null) return true
  return (await deviceWith(headers.get(SESSION) ?? '')) !== undefined
}

/** What a device is told that has been put out. */
export const PUT_OUT =
  'This device was put out at the bench. Nothing was changed; what waits here stays here. Pair it again to send it.'

/** Things of the bench alone: who is let in, and the data as a whole. */
const OF_BENCH = /^\/api\/(pairing|devices|backup|backups)(\/|$)/
const CHANGES = /^\/api\/builds\/[^/]+\/(changes|log|attachments|recordings|logger)$/

/**
 * Why a device may not ask for this, in words for its holder; undefined where it may. Which edits a change holds is looked at where it is
 * saved.
 */
export function refusalForDevice(rights: Rights, method: string, path: string): string | undefined {
  if (OF_BENCH.test(path)) return 'This is done at the bench itself, on the machine that Ivent runs on.'
  // saying where it is changes nothing
  if (rights === 'all' || method === 'GET' || method === 'HEAD' || path === '/api/live') return undefined
  if (rights === 'log' && method === 'POST' && CHANGES.test(path)) return undefined
  // how a lesson went is noted like anything else that was done
  if (rights === 'log' && method === 'PUT' && path === '/api/practice') return undefined
  return NOT_PERMITTED[rights]
}
