/**
 * Devices that were let in from the local network, and what each may do. The server in front and the application behind it are bundled
 * apart and share what is known of them through `globalThis`.
 */
import { createHash, randomBytes } from 'node:crypto'
import type { Rights } from '@/plan/edit/rights'
import { isId } from './ids'
import { query, type Query } from './store'

export type Device = { readonly id: string; readonly name: string; readonly rights: Rights }
export type ListedDevice = Device & { readonly pairedAt: string; readonly lastSeen: string }

const MOST_DEVICES = 100
const SEEN_EVERY_MS = 60_000
/** Longest name of a device. */
export const MOST_NAME = 80

type Known = {
  /** by the hash of their token; read anew after each change */
  devices: Promise<ReadonlyMap<string, Device>> | undefined
  /** when each was last noted as seen */
  readonly seen: Map<string, number>
  /** who is told when one was let in, changed or put out */
  readonly listeners: Set<() => void>
}
const shared = globalThis as { iventDevices?: Known }
const known = (): Known => (shared.iventDevices ??= { devices: undefined, seen: new Map(), listeners: new Set() })

const hashOf = (token: string) => createHash('sha256').update(token).digest('base64url')

async function readDevices(): Promise<ReadonlyMap<string, Device>> {
  const rows = await query<{ id: string; name: string; rights: Rights; token_hash: string }>(
    'select id, name, rights, token_hash from device',
  )
  return new Map(rows.map(({ token_hash, ...device }) => [token_hash, device]))
}

/** Who has a token was changed: it is looked up anew. */
export function devicesChanged(): void {
  const now = known()
  now.devices = undefined
  for (const listener of now.listeners) listener()
}
export function onDevicesChanged(listener: () => void): void {
  known().listeners.add(listener)
}

/** The device that a session's token was given to; undefined where it has been put out, or never was in. */
export async function deviceWith(token: string): Promise<Device | undefined> {
  const now = known()
  const reading = (now.devices ??= readDevices())
  // one that failed is tried again by the next who asks
  reading.catch(() => {
    if (now.devices === reading) now.devices = undefined
  })
  return (await reading).get(hashOf(token))
}

/** Notes that a device was here, at most once a minute. */
export async function noteSeen({ id }: Device, now = Date.now()): Promise<void> {
  const { seen } = known()
  if (now - (seen.get(id) ?? -Infinity) < SEEN_EVERY_MS) return
  seen.set(id, now)
  await query('update device set last_seen = now() where id = $1', [id])
}

/** Lets a device in; the token is told once, to it alone. Undefined where there are too many. */
export async function addDevice(
  name: string,
  rights: Rights,
): Promise<{ readonly device: Device; readonly token: string } | undefined> {
  const token = randomBytes(32).toString('base64url')
  const rows = await query<{ id: string }>(
    'insert into device (name, rights, token_hash) select $1, $2, $3 where (select count(*) from device) < $4 returning id',
    [name, rights, hashOf(token), MOST_DEVICES],
  )
  devicesChanged()
  return rows[0] && { device: { id: rows[0].id, name, rights }, token }
}

export async function listDevices(): Promise<ListedDevice[]> {
  const rows = await query<{ id: string; name: string; rights: Rights; paired_at: Date; last_seen: Date }>(
    'select id, name, rights, paired_at, last_seen from device order by last_seen desc, id',
  )
  return rows.map(({ paired_at, last_seen, ...device }) => ({
    ...device,
    pairedAt: paired_at.toISOString(),
    lastSeen: last_seen.toISOString(),
  }))
}

/** Names a device anew, or lets it do more or less; false where there is none. */
export async function changeDevice(id: string, change: { name?: string; rights?: Rights }): Promise<boolean> {
  if (!isId(id)) return false
  const rows = await query(
    'update device set name = coalesce($2, name), rights = coalesce($3, rights) where id = $1 returning id',
    [id, change.name ?? null, change.rights ?? null],
  )
  devicesChanged()
  return rows.length > 0
}

/** Puts a device out, or all of them; how many. What they sent before is saved, what is on its way is refused. */
export async function removeDevices(id?: string): Promise<number> {
  if (id !== undefined && !isId(id)) return 0
  const rows = await query('delete from device where $1::uuid is null or id = $1 returning id', [id ?? null])
  devicesChanged()
  return rows.length
}

/** Whether a device is still in and what it may do, asked within the transaction that saves for it. */
export async function rightsWithin(q: Query, id: string): Promise<Rights | undefined> {
  return (await q<{ rights: Rights }>('select rights from device where id = $1', [id]))[0]?.rights
}

type DeviceRow = { id: string; name: string; rights: Rights; token_hash: string; paired_at: Date; last_seen: Date }

/** For a backup that is put back from the command line: who was in then may have been put out since, so that all are. */
export async function withoutDevices({ query: q }: { readonly query: Query }): Promise<void> {
  await q('delete from device')
}

/** For a backup that is put back while Ivent runs: who is in now stays in, and who has been put out since it was made stays out. */
export async function devicesAsNow(q: Query): Promise<(db: { readonly query: Query }) => Promise<void>> {
  const rows = await q<DeviceRow>('select id, name, rights, token_hash, paired_at, last_seen from device')
  return async (db) => {
    await withoutDevices(db)
    for (const r of rows)
      await db.query(
        'insert into device (id, name, rights, token_hash, paired_at, last_seen) values ($1, $2, $3, $4, $5, $6)',
        [r.id, r.name, r.rights, r.token_hash, r.paired_at, r.last_seen],
      )
    devicesChanged()
  }
}
