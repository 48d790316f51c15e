/** Where a local network finds this machine, and who counts as being on that network. */
import { BlockList, isIPv6 } from 'node:net'
import { hostname, networkInterfaces, type NetworkInterfaceInfo } from 'node:os'

type Interfaces = Readonly<Record<string, readonly NetworkInterfaceInfo[] | undefined>>

/** Addresses that local networks hand out (RFC 1918, RFC 3927, RFC 4193): nobody on the internet has one of them. */
const PRIVATE_RANGES = ['10.0.0.0/8', '172.16.0.0/12', '192.168.0.0/16', '169.254.0.0/16', 'fc00::/7'] as const

const family = (address: string) => (isIPv6(address) ? 'ipv6' : 'ipv4')
/** Whether an address lies in one of these ranges, each as `10.0.0.0/8`. */
export function isWithin(address: string, ranges: readonly string[]): boolean {
  const list = new BlockList()
  for (const range of ranges) {
    const [start, bits] = range.split('/')
    list.addSubnet(start!, Number(bits), family(start!))
  }
  return list.check(address, family(address))
}
/** An IPv4 address may come as an IPv6 one: ::ffff:192.168.0.7. */
const plain = (address: string) => address.replace(/^::ffff:(?=\d+\.)/, '').replace(/%.*$/, '')

const onNetwork = (interfaces: Interfaces) =>
  Object.values(interfaces).flatMap((all) => (all ?? []).filter((x) => !x.internal && !x.address.startsWith('fe80')))

/** A home or shop router hands out these first; what programs make for themselves comes later. */
const ORDER = ['192.168.', '10.', '172.']
const rank = (address: string) =>
  (ORDER.findIndex((start) => address.startsWith(start)) + ORDER.length + 1) % (ORDER.length + 1)

/**
 * Addresses of this machine, the one that a phone most likely reaches first.
 * @example
 * const wifi = { address: '192.168.1.5', netmask: '255.255.255.0', family: 'IPv4', mac: '', internal: false, cidr: '192.168.1.5/24' }
 * lanAddresses({ wifi: [wifi] }) // ['192.168.1.5']
 */
export function lanAddresses(interfaces: Interfaces = networkInterfaces()): readonly string[] {
  const found = [...new Set(onNetwork(interfaces).map((x) => x.address))]
  return found.toSorted((a, b) => Number(isIPv6(a)) - Number(isIPv6(b)) || rank(a) - rank(b) || a.localeCompare(b))
}

/** The network that an IPv4 address lies in: 192.0.2.7/24 is of 192.0.2.0/24. */
function networkOf(cidr: string): string {
  const [address, bits] = cidr.split('/')
  const number = address!.split('.').reduce((all, byte) => all * 256 + Number(byte), 0)
  const size = 2 ** (32 - Number(bits))
  const start = Math.floor(number / size) * size
  return `${[24, 16, 8, 0].map((shift) => Math.floor(start / 2 ** shift) % 256).join('.')}/${bits}`
}

/** Networks that count as local: the private ranges, since an address may change within them, and IPv4 ones that this machine is in now. */
export const lanRanges = (interfaces: Interfaces = networkInterfaces()): readonly string[] => {
  const own = onNetwork(interfaces).filter((x) => !isIPv6(x.address) && !isWithin(x.address, PRIVATE_RANGES))
  return [...PRIVATE_RANGES, ...new Set(own.flatMap((x) => (x.cidr ? [networkOf(x.cidr)] : [])))]
}

/** Names by which a local network may know this machine. */
export function lanNames(name: string = hostname()): readonly string[] {
  const first = name.split('.')[0]!.toLowerCase()
  return /^[a-z\d]([a-z\d-]{0,61}[a-z\d])?$/.test(first) && first !== 'localhost' ? [`${first}.local`, first] : []
}

/** Whether an address is this machine's own, or in a network that counts as local. */
export function isOnLan(address: string | undefined, interfaces: Interfaces = networkInterfaces()): boolean {
  if (address === undefined) return false
  const who = plain(address)
  return ['127.0.0.1', '::1'].includes(who) || /^fe80:/i.test(who) || isWithin(who, lanRanges(interfaces))
}
