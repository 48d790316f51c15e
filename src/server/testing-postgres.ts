/** A PostgreSQL server for tests: Debian's, as a user without rights, in a folder and on a port of its own. */
import { execFileSync } from 'node:child_process'
import { chownSync, mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { once } from 'node:events'
import { userInfo, tmpdir } from 'node:os'
import { join } from 'node:path'

const ROOT = '/usr/lib/postgresql'
const binaries = () => join(ROOT, readdirSync(ROOT).toSorted((a, b) => Number(b) - Number(a))[0]!, 'bin')
const idOf = (flag: '-u' | '-g') => Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8' }))

async function freePort(): Promise<number> {
  const probe = createServer().listen(0, '127.0.0.1')
  await once(probe, 'listening')
  const { port } = probe.address() as { port: number }
  probe.close()
  await once(probe, 'close')
  return port
}

export class TestPostgres {
  readonly #folder = mkdtempSync(join(tmpdir(), 'ivent-postgres-'))
  #port = 0

  /** As the server's own user where this is root, which it refuses to run as. */
  #run(program: string, ...args: readonly string[]): string {
    const command = [join(binaries(), program), ...args]
    const [first, ...rest] = userInfo().uid === 0 ? ['runuser', '-u', 'postgres', '--', ...command] : command
    return execFileSync(first!, rest, { encoding: 'utf8', cwd: this.#folder, stdio: ['ignore', 'pipe', 'ignore'] })
  }
  async start(): Promise<void> {
    this.#port = await freePort()
    if (userInfo().uid === 0) chownSync(this.#folder, idOf('-u'), idOf('-g'))
    this.#run(
      'initdb',
      '-D',
      join(this.#folder, 'data'),
      '-A',
      'trust',
      '-U',
      'ivent',
      '--no-sync',
      '-E',
      'UTF8',
      '--locale=C',
    )
    this.up()
  }
  up(): void {
    const settings = `-p ${this.#port} -k ${this.#folder} -c listen_addresses=127.0.0.1`
    this.#run(
      'pg_ctl',
      '-D',
      join(this.#folder, 'data'),
      '-l',
      join(this.#folder, 'log'),
      '-o',
      settings,
      '-w',
      'start',
    )
  }
  /** At once, as when its machine is switched off. */
  down(): void {
    this.#run('pg_ctl', '-D', join(this.#folder, 'data'), '-m', 'immediate', '-w', 'stop')
  }
  /** A database of its own. */
  database(name: string): string {
    this.#run('createdb', '-h', this.#folder, '-p', String(this.#port), '-U', 'ivent', name)
    return `postgres://ivent@127.0.0.1:${this.#port}/${name}`
  }
  /** Cuts every connection to a database, as a network that fails. */
  cutConnections(url: string): void {
    const name = url.split('/').at(-1)!
    const cut = `select pg_terminate_backend(pid) from pg_stat_activity where datname = '${name}' and pid <> pg_backend_pid()`
    this.#run('psql', '-h', this.#folder, '-p', String(this.#port), '-U', 'ivent', '-d', 'postgres', '-c', cut)
  }
  end(): void {
    try {
      this.down()
    } catch {
      // it was down already
    }
    rmSync(this.#folder, { recursive: true, force: true })
  }
}

/** Has the tests of a file run on a server of their own. */
export function onPostgres(name: string): void {
  const server = new TestPostgres()
  beforeAll(async () => {
    await server.start()
    process.env.DATABASE_URL = server.database(name)
  })
  afterAll(() => {
    delete process.env.DATABASE_URL
    server.end()
  })
}
