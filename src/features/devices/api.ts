/** What the bench asks of the server about devices: who is in, who is let in, what each may do. */
import type { Rights } from '@/plan/edit/rights'

export type DeviceRow = {
  readonly id: string
  readonly name: string
  readonly rights: Rights
  readonly pairedAt: string
  readonly lastSeen: string
}
/** How the local network reaches Ivent; null where it answers its own machine alone. */
export type LanInfo = {
  readonly addresses: readonly string[]
  readonly name?: string
  readonly port: number
  readonly trustPort: number
  readonly fingerprint: string
}
export type DeviceList = { readonly devices: readonly DeviceRow[]; readonly lan: LanInfo | null }
/** A code that the bench shows: what its picture holds, its words, until when it stands (ms). */
export type PairingCode = { readonly secret: string; readonly words: string; readonly until: number }
/** How an offer stands. */
export type PairingState = {
  readonly state: 'open' | 'used' | 'late' | 'too-many'
  readonly until: number
  readonly wrong: number
  readonly usedBy?: string
} | null

/** An answer, or why there is none in words. */
export type Answer<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly reason: string }

export async function ask<T>(path: string, method = 'GET', body?: object): Promise<Answer<T>> {
  const response = await fetch(path, {
    method,
    ...(body ? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) } : {}),
  }).catch(() => undefined)
  if (!response) return { ok: false, reason: 'Ivent does not answer. Is it still running?' }
  const value = (await response.json().catch(() => ({}))) as T & { error?: string }
  return response.ok ? { ok: true, value } : { ok: false, reason: value.error ?? 'This did not work.' }
}

/** An address as a device opens it. */
export const addressUrl = (address: string, port: number, scheme: 'http' | 'https'): string =>
  `${scheme}://${address.includes(':') ? `[${address}]` : address}:${port}`
