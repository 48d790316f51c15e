/** Ivent as a person starts it, on a port and a data folder of its own. */
import { spawn, type ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import { mkdtempSync, rmSync } from 'node:fs'
import { connect, createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** A port that is free, with the two after it. */
async function freePort(): Promise<number> {
  for (;;) {
    const first = createServer().listen(0)
    await once(first, 'listening')
    const { port } = first.address() as { port: number }
    const others = [1, 2].map((n) => createServer().listen(port + n))
    const free = await Promise.all(
      others.map((o) =>
        once(o, 'listening').then(
          () => true,
          () => false,
        ),
      ),
    )
    await Promise.all([first, ...others].map((o) => new Promise((resolve) => o.close(resolve))))
    if (free.every(Boolean)) return port
  }
}

const isTaken = (port: number): Promise<boolean> =>
  new Promise((resolve) => {
    const socket = connect({ host: '127.0.0.1', port }, () => {
      socket.destroy()
      resolve(true)
    })
    socket.on('error', () => resolve(false))
  })

export class Ivent {
  readonly folder = mkdtempSync(join(tmpdir(), 'ivent-e2e-'))
  port = 0
  output = ''
  #process: ChildProcess | undefined

  /** @param env what it is told beside where it serves and keeps its data */
  constructor(readonly env: Readonly<Record<string, string>> = {}) {}

  get url(): string {
    return `http://127.0.0.1:${this.port}`
  }

  /** Starts it and waits until it says that it answers; or for its end, when it refuses. */
  async start(
    command: 'demo' | 'start' = 'demo',
    folder = this.folder,
    ...options: readonly '--lan'[]
  ): Promise<number | 'answers'> {
    this.port ||= await freePort()
    const child = spawn(process.execPath, ['ivent', command, ...options], {
      detached: true,
      env: { ...process.env, ...this.env, PORT: String(this.port), IVENT_DATA: folder },
    })
    this.#process = child
    this.output = ''
    return new Promise((resolve) => {
      const read = (chunk: Buffer) => {
        this.output += chunk.toString()
        if (this.output.includes(`Ivent is at ${this.url}`)) resolve('answers')
      }
      child.stdout.on('data', read)
      child.stderr.on('data', read)
      child.on('exit', (code) => resolve(code ?? -1))
    })
  }

  /** Signals the command and the server under it. */
  async stop(signal: 'SIGINT' | 'SIGKILL' = 'SIGINT'): Promise<number | null> {
    const child = this.#process
    // killed, it ends without a code
    if (!child?.pid || child.exitCode !== null || child.signalCode !== null) return child?.exitCode ?? null
    const ended = once(child, 'exit')
    process.kill(-child.pid, signal)
    const [code] = await ended
    // the server under the command lets go of the port a moment later; the next start asks the same
    while (await isTaken(this.port)) await new Promise((resolve) => setTimeout(resolve, 50))
    return code as number | null
  }

  async end(): Promise<void> {
    await this.stop('SIGKILL')
    rmSync(this.folder, { recursive: true, force: true })
  }

  async builds(): Promise<{ id: string; name: string }[]> {
    return (await fetch(`${this.url}/api/builds`)).json() as Promise<{ id: string; name: string }[]>
  }

  async build(name: string): Promise<string> {
    const found = (await this.builds()).find((b) => b.name === name)
    if (!found) throw new Error(`no build ${name}`)
    return `${this.url}/builds/${found.id}`
  }
}
