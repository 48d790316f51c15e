/**
 * The certificate authority of this installation: made at the first start on a local network, kept in the data folder, trusted by a device
 * once. It vouches for this machine's names and for addresses of local networks, and for nothing else, so that whoever stole its key could not
 * pose as a site of the internet. What the server shows is made anew at each start and whenever an address changes; it never touches the disk.
 */
// what the certificate package counts on being there before it
import 'reflect-metadata'
import { createHash, webcrypto } from 'node:crypto'
import { chmodSync, existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { isIP } from 'node:net'
import { join } from 'node:path'
import { AsnConvert } from '@peculiar/asn1-schema'
import { GeneralName, GeneralSubtree, GeneralSubtrees, NameConstraints } from '@peculiar/asn1-x509'
import * as x509 from '@peculiar/x509'
import { isWithin } from './addresses'

x509.cryptoProvider.set(webcrypto as unknown as Crypto)

const SIGNING = { name: 'ECDSA', namedCurve: 'P-256', hash: 'SHA-256' } as const
const NAME_CONSTRAINTS = '2.5.29.30'
/** A name that no machine has (RFC 2606). */
const NOBODY = 'none.invalid'
const DAY_MS = 24 * 3600 * 1000
const AUTHORITY_DAYS = 3650
/** Phones take no certificate of a server that is valid for longer than 398 days; this one is renewed long before its end. */
const SERVER_DAYS = 90

/** What an authority may vouch for: names, and ranges of addresses. */
export type Constraints = { readonly names: readonly string[]; readonly ranges: readonly string[] }
export type Authority = Constraints & {
  readonly certificate: x509.X509Certificate
  readonly key: webcrypto.CryptoKey
}
/** What the server shows, PEM. */
export type ServerCertificate = { readonly cert: string; readonly key: string; readonly until: Date }

const serial = () =>
  Buffer.from(webcrypto.getRandomValues(new Uint8Array(15)))
    .toString('hex')
    .replace(/^[89a-f]/, '7')
const makeKeys = () => webcrypto.subtle.generateKey(SIGNING, true, ['sign', 'verify'])
const pem = (bytes: ArrayBuffer) => x509.PemConverter.encode(bytes, 'PRIVATE KEY')
const privateKey = async (key: webcrypto.CryptoKey) => pem(await webcrypto.subtle.exportKey('pkcs8', key))

/** These and nothing else: a browser refuses whatever else the authority would vouch for. */
function constraintsExtension({ names, ranges }: Constraints): x509.Extension {
  const permitted = [
    ...ranges.map((iPAddress) => new GeneralName({ iPAddress })),
    ...names.map((dNSName) => new GeneralName({ dNSName })),
    // where the machine has no name, none is permitted
    ...(names.length === 0 ? [new GeneralName({ dNSName: NOBODY })] : []),
  ]
  const permittedSubtrees = new GeneralSubtrees(permitted.map((base) => new GeneralSubtree({ base })))
  return new x509.Extension(NAME_CONSTRAINTS, true, AsnConvert.serialize(new NameConstraints({ permittedSubtrees })))
}

async function makeAuthority(limits: Constraints, now: Date): Promise<Authority> {
  const keys = await makeKeys()
  const made = now.toISOString().slice(0, 10)
  const certificate = await x509.X509CertificateGenerator.createSelfSigned({
    serialNumber: serial(),
    name: `CN=Ivent on ${limits.names[1] ?? 'this machine'} (${made}), O=Ivent`,
    notBefore: new Date(now.getTime() - DAY_MS),
    notAfter: new Date(now.getTime() + AUTHORITY_DAYS * DAY_MS),
    signingAlgorithm: SIGNING,
    keys: keys as CryptoKeyPair,
    extensions: [
      new x509.BasicConstraintsExtension(true, 0, true),
      new x509.KeyUsagesExtension(x509.KeyUsageFlags.keyCertSign, true),
      await x509.SubjectKeyIdentifierExtension.create(keys.publicKey as CryptoKey),
      constraintsExtension(limits),
    ],
  })
  return { certificate, key: keys.privateKey, ...limits }
}

function constraintsIn(certificate: x509.X509Certificate): Constraints {
  const raw = certificate.getExtension(NAME_CONSTRAINTS)?.value
  const permitted = raw ? [...(AsnConvert.parse(raw, NameConstraints).permittedSubtrees ?? [])] : []
  return {
    names: permitted.flatMap((s) => (s.base.dNSName && s.base.dNSName !== NOBODY ? [s.base.dNSName] : [])),
    ranges: permitted.flatMap((s) => (s.base.iPAddress ? [s.base.iPAddress] : [])),
  }
}

/** Whether a device that trusts this authority would take its word for an address. */
export const canCertify = ({ ranges }: Authority, address: string): boolean => isWithin(address, ranges)

/**
 * The authority that is kept in a data folder, or a new one where there is none.
 * @throws Error in words where what stands there cannot be read
 */
export async function openAuthority(folder: string, limits: Constraints, now = new Date()): Promise<Authority> {
  const place = join(folder, 'authority')
  const [certificateFile, keyFile] = [join(place, 'authority.pem'), join(place, 'authority.key')]
  if (existsSync(certificateFile)) {
    try {
      const certificate = new x509.X509Certificate(readFileSync(certificateFile, 'utf8'))
      const bytes = x509.PemConverter.decodeFirst(readFileSync(keyFile, 'utf8'))
      const key = await webcrypto.subtle.importKey('pkcs8', bytes, SIGNING, true, ['sign'])
      // its user's alone, whatever copied it here
      chmodSync(keyFile, 0o600)
      if (certificate.notAfter.getTime() - now.getTime() > SERVER_DAYS * DAY_MS)
        return { certificate, key, ...constraintsIn(certificate) }
    } catch {
      throw new Error(
        `The certificate authority in ${place} cannot be read. Put it back from a copy, or delete that folder: Ivent then makes a new one, which every device has to trust anew.`,
      )
    }
  }
  const made = await makeAuthority(limits, now)
  mkdirSync(place, { recursive: true, mode: 0o700 })
  // the certificate last: where it stands, its key does
  for (const [file, text] of [
    [keyFile, await privateKey(made.key)],
    [certificateFile, made.certificate.toString('pem')],
  ] as const) {
    writeFileSync(`${file}.new`, text, { mode: 0o600 })
    renameSync(`${file}.new`, file)
  }
  return made
}

/** What a server shows that answers at these addresses, and by those of its names that the authority may vouch for. */
export async function certify(
  authority: Authority,
  addresses: readonly string[],
  now = new Date(),
): Promise<ServerCertificate> {
  const keys = await makeKeys()
  const until = new Date(now.getTime() + SERVER_DAYS * DAY_MS)
  const hosts = [...addresses, ...authority.names]
  const certificate = await x509.X509CertificateGenerator.create({
    serialNumber: serial(),
    subject: 'CN=Ivent',
    issuer: authority.certificate.subject,
    notBefore: new Date(now.getTime() - DAY_MS),
    notAfter: until,
    signingAlgorithm: SIGNING,
    publicKey: keys.publicKey as CryptoKey,
    signingKey: authority.key as CryptoKey,
    extensions: [
      new x509.BasicConstraintsExtension(false, undefined, true),
      new x509.KeyUsagesExtension(x509.KeyUsageFlags.digitalSignature, true),
      new x509.ExtendedKeyUsageExtension([x509.ExtendedKeyUsage.serverAuth]),
      new x509.SubjectAlternativeNameExtension(
        hosts.map((value) => ({ type: isIP(value) ? ('ip' as const) : ('dns' as const), value })),
      ),
      await x509.AuthorityKeyIdentifierExtension.create(authority.certificate.publicKey),
      await x509.SubjectKeyIdentifierExtension.create(keys.publicKey as CryptoKey),
    ],
  })
  return { cert: certificate.toString('pem'), key: await privateKey(keys.privateKey), until }
}

/** The certificate as a device takes it, DER, and its fingerprint as a device shows it. */
export function authorityFile({ certificate }: Authority): { readonly der: Buffer; readonly fingerprint: string } {
  const der = Buffer.from(certificate.rawData)
  const hex = createHash('sha256').update(der).digest('hex').toUpperCase()
  return { der, fingerprint: hex.match(/../g)!.join(' ') }
}
