/** A program that is paired as a device is: for measuring what devices wait, without a browser. */
import { readFileSync } from 'node:fs'
import { connect } from 'node:http2'
import type { Ivent } from './ivent'

/** Asks for a page and reads all of it; the status of the answer, or undefined where there is none. */
export type PairedDevice = ((path: string) => Promise<number | undefined>) & {
  /** looks on from now on: is told when each build has changed */
  readonly live: (changed: (build: string | undefined) => void) => void
  readonly end: () => void
}

const post = (body: object) => ({
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
})

/** Lets one in, and keeps its connection. */
export async function pairedDevice(ivent: Ivent, address: string, name: string): Promise<PairedDevice> {
  const { secret } = (await (await fetch(`${ivent.url}/api/pairing`, post({ rights: 'all' }))).json()) as {
    secret: string
  }
  const session = connect(`https://${address}:${ivent.port + 1}`, {
    ca: readFileSync(`${ivent.folder}/authority/authority.pem`),
  })
  const ask = (headers: Record<string, string>, body?: string) =>
    new Promise<{ status: number | undefined; cookies: readonly string[] }>((resolve) => {
      const stream = session.request(headers)
      let [status, cookies]: [number | undefined, readonly string[]] = [undefined, []]
      stream.on('response', (head) => {
        status = head[':status']
        cookies = head['set-cookie'] ?? []
      })
      stream.on('error', () => resolve({ status: undefined, cookies }))
      stream.on('end', () => resolve({ status, cookies }))
      stream.resume()
      stream.end(body)
    })
  const { status, cookies } = await ask(
    { ':method': 'POST', ':path': '/pair', 'content-type': 'application/json' },
    JSON.stringify({ name, code: secret }),
  )
  if (status !== 200) throw new Error(`${name} was not let in: ${status}`)
  const cookie = cookies.map((c) => c.split(';')[0]!).join('; ')
  const get = async (path: string) => {
    const asked = { ':path': path, accept: 'text/html', 'accept-encoding': 'gzip, deflate, br', cookie }
    return (await ask(asked)).status
  }
  const live = (changed: (build: string | undefined) => void) => {
    const stream = session.request({ ':path': '/api/live', cookie })
    let text = ''
    stream.setEncoding('utf8')
    stream.on('data', (piece: string) => {
      text += piece
      const whole = text.split('\n\n')
      text = whole.pop()!
      for (const event of whole) {
        const message = event.startsWith('data: ')
          ? (JSON.parse(event.slice(6)) as { kind: string; build?: string })
          : undefined
        if (message?.kind === 'changed') changed(message.build)
      }
    })
    stream.on('error', () => undefined)
    stream.end()
  }
  return Object.assign(get, { live, end: () => session.destroy() })
}
