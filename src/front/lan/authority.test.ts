/**
 * What the authority signs is taken by who trusts it, for this machine's addresses and names and for nothing else. Checked by OpenSSL, which
 * enforces name constraints as RFC 5280 (4.2.1.10) has them.
 */
import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { authorityFile, certify, canCertify, openAuthority } from './authority'

const LIMITS = { names: ['bench.local', 'bench'], ranges: ['10.0.0.0/8', '192.168.0.0/16', 'fc00::/7', '192.0.2.0/24'] }
const folder = mkdtempSync(join(tmpdir(), 'ivent-authority-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const at = (name: string) => join(folder, name)
const trusted = at('authority/authority.pem')

/** What OpenSSL says of a certificate to a device that trusts the authority. */
function verify(cert: string, how: readonly string[], when?: Date): string {
  writeFileSync(at('server.pem'), cert)
  const time = when ? ['-attime', String(Math.floor(when.getTime() / 1000))] : []
  const { stdout, stderr } = spawnSync('openssl', [
    'verify',
    '-x509_strict',
    '-CAfile',
    trusted,
    ...how,
    ...time,
    at('server.pem'),
  ])
  return `${stdout}${stderr}`
}

test('is made once, kept for its user alone, and the same at the next start', async () => {
  const first = await openAuthority(folder, LIMITS)
  expect(statSync(at('authority')).mode & 0o777).toBe(0o700)
  expect(statSync(at('authority/authority.key')).mode & 0o777).toBe(0o600)
  const again = await openAuthority(folder, { names: ['other'], ranges: [] })
  expect(authorityFile(again)).toEqual(authorityFile(first))
  // what it may vouch for is what devices have trusted, not what this machine is called now
  expect({ names: again.names, ranges: again.ranges }).toEqual(LIMITS)
})

test('the fingerprint is the one that a device shows', async () => {
  const { fingerprint } = authorityFile(await openAuthority(folder, LIMITS))
  const shown = execFileSync('openssl', ['x509', '-in', trusted, '-noout', '-fingerprint', '-sha256']).toString()
  expect(shown.trim().split('=')[1]).toBe(fingerprint.replaceAll(' ', ':'))
})

test.each([
  ['an address', ['-verify_ip', '192.168.1.5'], /: OK/],
  ['an address of this network that is no private one', ['-verify_ip', '192.0.2.7'], /: OK/],
  ['an IPv6 address', ['-verify_ip', 'fd00::5'], /: OK/],
  ['a name', ['-verify_hostname', 'bench.local'], /: OK/],
  ['another address', ['-verify_ip', '192.168.1.6'], /IP address mismatch/],
  ['a site of the internet', ['-verify_hostname', 'elsewhere.example'], /hostname mismatch/],
  ['to sign mail', ['-purpose', 'smimesign'], /unsuitable certificate purpose/],
])('a server certificate holds for %s as it should', async (_, how, says) => {
  const authority = await openAuthority(folder, LIMITS)
  const { cert } = await certify(authority, ['192.168.1.5', 'fd00::5', '192.0.2.7'])
  expect(verify(cert, how)).toMatch(says)
})

test.each([
  ['an address of the internet', ['203.0.113.9'], []],
  ['another name', [], ['elsewhere.example']],
])('a device refuses the authority’s word for %s', async (_, addresses, names) => {
  const authority = await openAuthority(folder, LIMITS)
  const { cert } = await certify({ ...authority, names }, addresses)
  expect(verify(cert, [])).toMatch(/permitted subtree violation/)
  for (const address of addresses) expect(canCertify(authority, address)).toBe(false)
})

test('a server certificate is good for 90 days, which phones take, and ends then', async () => {
  const now = new Date()
  const { cert, until } = await certify(await openAuthority(folder, LIMITS), ['192.168.1.5'], now)
  const days = (until.getTime() - now.getTime()) / 86_400_000
  expect(days).toBe(90)
  expect(verify(cert, [], new Date(until.getTime() - 1000))).toMatch(/: OK/)
  expect(verify(cert, [], new Date(until.getTime() + 1000))).toMatch(/certificate has expired/)
})

test('one that cannot be read says what to do, and is not replaced in silence', async () => {
  const key = readFileSync(at('authority/authority.key'))
  writeFileSync(at('authority/authority.key'), 'nothing')
  await expect(openAuthority(folder, LIMITS)).rejects.toThrow(/cannot be read.*every device has to trust anew/)
  writeFileSync(at('authority/authority.key'), key)
})
