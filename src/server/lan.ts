/**
 * How the local network reaches this Ivent, for the bench to show. The server in front sets it, the application behind it reads it; they
 * are bundled apart and share it through `globalThis`.
 */
export type Lan = {
  /** where devices work, the most likely address first; none while there is no network */
  readonly addresses: readonly string[]
  /** a name that some networks know this machine by, whatever its address */
  readonly name: string | undefined
  readonly port: number
  /** where plain HTTP tells how the authority is trusted */
  readonly trustPort: number
  /** of the authority's certificate, SHA-256 */
  readonly fingerprint: string
}
const shared = globalThis as { iventLan?: Lan }

/** Undefined where Ivent answers its own machine alone. */
export const lan = (): Lan | undefined => shared.iventLan
export function setLan(now: Lan): void {
  shared.iventLan = now
}

/** An address as it stands in a URL. */
export const hostIn = (address: string): string => (address.includes(':') ? `[${address}]` : address)
export const lanUrl = (address: string, port: number, scheme: 'http' | 'https' = 'https'): string =>
  `${scheme}://${hostIn(address)}:${port}`
