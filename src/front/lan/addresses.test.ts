/** Which addresses a phone is told, and who counts as being on the local network. */
import type { NetworkInterfaceInfo } from 'node:os'
import { isOnLan, lanAddresses, lanNames, lanRanges } from './addresses'

const card = (cidr: string, internal = false): NetworkInterfaceInfo =>
  ({
    address: cidr.split('/')[0]!,
    cidr,
    internal,
    netmask: '',
    mac: '',
    family: cidr.includes(':') ? 'IPv6' : 'IPv4',
  }) as NetworkInterfaceInfo
const shop = {
  lo: [card('127.0.0.1/8', true), card('::1/128', true)],
  virtual: [card('172.17.0.1/16')],
  wifi: [card('fe80::1/64'), card('fd00::5/64'), card('192.168.1.5/24')],
  lab: [card('192.0.2.2/24')],
}

test('the one that a phone most likely reaches comes first, none of this machine alone', () => {
  expect(lanAddresses(shop)).toEqual(['192.168.1.5', '172.17.0.1', '192.0.2.2', 'fd00::5'])
  expect(lanAddresses({ lo: shop.lo })).toEqual([])
})

test('what the authority may vouch for: private ranges, and the network that this machine is in', () => {
  expect(lanRanges(shop)).toContain('192.0.2.0/24')
  expect(lanRanges({ wide: [card('198.51.100.200/22')] })).toContain('198.51.100.0/22')
  expect(lanRanges({ lo: shop.lo })).toEqual([
    '10.0.0.0/8',
    '172.16.0.0/12',
    '192.168.0.0/16',
    '169.254.0.0/16',
    'fc00::/7',
  ])
})

test.each<[string | undefined, boolean]>([
  ['192.168.1.77', true],
  ['::ffff:192.168.1.77', true],
  ['10.1.2.3', true],
  ['fd12::9', true],
  ['fe80::22%wlan0', true],
  ['127.0.0.1', true],
  ['192.0.2.9', true],
  ['192.0.3.9', false],
  ['203.0.113.9', false],
  ['::ffff:203.0.113.9', false],
  ['2001:db8::1', false],
  [undefined, false],
])('%s is on the local network: %s', (address, is) => {
  expect(isOnLan(address, shop)).toBe(is)
})

test('names that a network may know it by', () => {
  expect(lanNames('Bench-2.workshop')).toEqual(['bench-2.local', 'bench-2'])
  for (const odd of ['localhost', 'a_b', '', '-x']) expect(lanNames(odd)).toEqual([])
})
