/** Sends a logger's lines to Ivent, and again what was not taken: a line that breaks loses nothing that is still held here. */
import { headLines, LINES_TYPE, type LoggerHead } from '@/plan/recordings/line-protocol'

/** Lines that are held while there is no answer: some minutes; and those sent at once. */
const [MOST_HELD, MOST_SENT] = [20_000, 2000]
const SEND_MS = 250
const AGAIN_MS = 1000
const ANSWER_MS = 10_000

type HeldLine = { readonly number: number; readonly text: string }
export type LineSender = {
  readonly push: (number: number, text: string) => void
  /** once all is sent */
  readonly end: () => Promise<void>
}
export type SenderOptions = {
  readonly url: string
  readonly head: LoggerHead
  /** session of a paired device, as the cookie that pairing gave it */
  readonly cookie?: string | undefined
  /** what a person reads: that the line broke, that it is back, what was lost */
  readonly say: (words: string) => void
  /** after a refusal that no trying again mends */
  readonly refused: (words: string) => void
}

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

/** Begins to send. */
export function startSending({ url, head, cookie, say, refused }: SenderOptions): LineSender {
  let held: HeldLine[] = []
  let [ended, broken, dropped] = [false, false, 0]
  const send = async (lines: readonly HeldLine[]): Promise<number> => {
    const answer = await fetch(url, {
      method: 'POST',
      headers: { 'content-type': LINES_TYPE, ...(cookie === undefined ? {} : { cookie }) },
      body: [...headLines(head), ...lines.map((l) => l.text), ''].join('\n'),
      redirect: 'manual',
      signal: AbortSignal.timeout(ANSWER_MS),
    })
    const text = await answer.text()
    const next = /^next (\d+)/.exec(text)
    if (answer.ok && next) return Number(next[1])
    // no trying again mends what was refused; what is busy or starting is asked again
    if (answer.status >= 300 && answer.status < 500 && answer.status !== 429)
      refused(`Ivent refuses the lines (${answer.status}): ${text.trim().slice(0, 300)}`)
    throw new Error(`it answers ${answer.status}`)
  }
  const run = async () => {
    for (;;) {
      const lines = held.slice(0, MOST_SENT)
      if (lines.length === 0) {
        if (ended) return
        await wait(SEND_MS)
        continue
      }
      try {
        const next = await send(lines)
        if (broken) say('The line is back.')
        broken = false
        held = held.filter((l) => l.number >= next)
        if (!ended) await wait(SEND_MS)
      } catch (error) {
        if (!broken) say(`No answer (${error instanceof Error ? error.message : String(error)}). Lines are held.`)
        broken = true
        await wait(AGAIN_MS)
      }
    }
  }
  const running = run()
  return {
    push(number, text) {
      held.push({ number, text })
      if (held.length <= MOST_HELD) return
      held.shift()
      if (dropped++ === 0) say(`More than ${MOST_HELD} lines wait: the oldest are lost.`)
    },
    end() {
      ended = true
      return running
    },
  }
}

/** Pairs as a device that may tick and log, by the words that the bench shows; the cookie of its session. */
export async function pair(url: string, code: string, name: string): Promise<string> {
  const answer = await fetch(new URL('/pair', url), {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name, code }),
  })
  const cookie = answer.headers
    .getSetCookie()
    .map((c) => c.split(';')[0]!)
    .find((c) => c.startsWith('__Host-'))
  if (!answer.ok || cookie === undefined) {
    const { error } = (await answer.json().catch(() => ({}))) as { error?: string }
    throw new Error(error ?? `The bench answers ${answer.status}.`)
  }
  return cookie
}
