/**
 * A phone in the workshop's network: a browser in a network namespace of its own, joined to this machine by one line that can be cut, with a
 * store of trusted certificates of its own. Needs root, Debian's iproute2 and libnss3-tools.
 */
import { execFileSync } from 'node:child_process'
import { chmodSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium, type Browser, type BrowserContext } from '@playwright/test'

const run = (command: string, ...args: readonly string[]): string => execFileSync(command, args, { encoding: 'utf8' })

/** A network between this machine and one other, of this test run alone. */
export class ShopNetwork {
  readonly #id = `${process.pid.toString(36)}${Math.floor(Math.random() * 36 ** 3).toString(36)}`.slice(-8)
  readonly name = `ivent-${this.#id}`
  readonly #near = `vb${this.#id}`
  readonly #far = `vp${this.#id}`
  /** a network of its own for each run: 10.x.y.0/24 */
  readonly #net = `10.${100 + Math.floor(Math.random() * 100)}.${Math.floor(Math.random() * 250)}`
  readonly bench = `${this.#net}.1`
  readonly phone = `${this.#net}.2`

  start(): void {
    run('ip', 'netns', 'add', this.name)
    run('ip', 'link', 'add', this.#near, 'type', 'veth', 'peer', 'name', this.#far, 'netns', this.name)
    run('ip', 'addr', 'add', `${this.bench}/24`, 'dev', this.#near)
    run('ip', 'link', 'set', this.#near, 'up')
    run('ip', '-n', this.name, 'addr', 'add', `${this.phone}/24`, 'dev', this.#far)
    run('ip', '-n', this.name, 'link', 'set', 'lo', 'up')
    this.line('up')
  }
  /** Cuts the line or joins it again. */
  line(is: 'up' | 'down'): void {
    run('ip', '-n', this.name, 'link', 'set', this.#far, is)
  }
  /** Gives the bench a further address in this network. */
  addAddress(last: number): string {
    const address = `${this.#net}.${last}`
    run('ip', 'addr', 'add', `${address}/24`, 'dev', this.#near)
    return address
  }
  /** Gives the phone an address that is of no local network, and the bench a way back to it. */
  addForeignAddress(address: string): void {
    run('ip', '-n', this.name, 'addr', 'add', `${address}/32`, 'dev', this.#far)
    run('ip', 'route', 'add', `${address}/32`, 'dev', this.#near)
  }
  /** Runs a command on the phone's side. */
  exec(command: string, ...args: readonly string[]): string {
    return run('ip', 'netns', 'exec', this.name, command, ...args)
  }
  end(): void {
    run('ip', 'netns', 'del', this.name)
  }
}

export class Phone {
  readonly home = mkdtempSync(join(tmpdir(), 'ivent-phone-'))
  #browser: Browser | undefined

  constructor(readonly network: ShopNetwork) {}

  /** Puts an authority among those that this phone trusts. */
  trust(certificate: string): void {
    const store = join(this.home, '.pki', 'nssdb')
    mkdirSync(store, { recursive: true })
    run('certutil', '-N', '--empty-password', '-d', `sql:${store}`)
    run('certutil', '-A', '-n', 'workshop', '-t', 'C,,', '-i', certificate, '-d', `sql:${store}`)
  }

  /** Opens the phone's browser: its store lives as long as the context. `careless` goes on past a certificate that it does not trust. */
  async open({ careless = false } = {}): Promise<BrowserContext> {
    const command = join(this.home, 'browser')
    writeFileSync(
      command,
      `#!/bin/sh\nexec ip netns exec ${this.network.name} env HOME=${this.home} /usr/bin/chromium "$@"\n`,
    )
    chmodSync(command, 0o700)
    this.#browser ??= await chromium.launch({
      executablePath: command,
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
    })
    return this.#browser.newContext({
      viewport: { width: 390, height: 844 },
      hasTouch: true,
      isMobile: true,
      locale: 'en-GB',
      serviceWorkers: 'allow',
      ignoreHTTPSErrors: careless,
    })
  }
  async end(): Promise<void> {
    await this.#browser?.close()
    rmSync(this.home, { recursive: true, force: true })
  }
}
