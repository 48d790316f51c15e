/**
 * ./ivent logger BUILD.json: a logger that stands in for a real one. It plays a drive through the build's own model, with a sensor's noise,
 * drift and missed samples, and writes it as loggers do, or sends it as it happens by the open line protocol (docs/logger.md).
 */
import { createReadStream, writeFileSync } from 'node:fs'
import { createInterface } from 'node:readline'
import type { Build } from '@/plan/document/schema'
import { applyEdits } from '@/plan/edit/edit'
import { gradedFaults } from '@/plan/faults/graded-faults'
import { engineModel } from '@/plan/model/engine'
import { headLines, loggerLineText, parseHead, parseLine, type LoggerLine } from '@/plan/recordings/line-protocol'
import { recordingLines, WRITING_STYLES } from '@/plan/recordings/write-recording'
import {
  DRIVE_KINDS,
  DRIVE_PROFILES,
  USUAL_SENSOR,
  simulateDrive,
  type DriveKind,
  type SimulatedDrive,
} from '@/plan/studies/simulated-drive'
import { pair, startSending } from './line-sender'
import { endWith, readArguments } from './command-line'
import { buildFromFile } from './read-build-file'

const USE = `Use ./ivent logger BUILD.json --drive KIND [--seed N] [--seconds S] [--fault ID[:SEVERITY]@SECONDS] [--offset PA] [--skew SHARE]
  and one of   --csv FILE [--style 0-2]           a file as loggers write them; to standard output without a name
               --to - | URL [--speed N]           lines as they happen, to standard output or to the address that the Log shows
  or           --from FILE|- --to URL             lines of another logger, from a file, a serial port or standard input
  or           --list                             drives, and what can fail in this build
A paired address asks for --code "WORDS" once, which prints the session for --session SESSION.`

function stop(words: string): never {
  endWith(words, 2)
}

const { values, positionals } = readArguments(
  {
    drive: { type: 'string', default: 'street' },
    seed: { type: 'string', default: '1' },
    seconds: { type: 'string' },
    fault: { type: 'string' },
    offset: { type: 'string', default: '0' },
    skew: { type: 'string', default: '0' },
    style: { type: 'string', default: '0' },
    csv: { type: 'string' },
    to: { type: 'string' },
    from: { type: 'string' },
    speed: { type: 'string', default: '1' },
    code: { type: 'string' },
    session: { type: 'string' },
    list: { type: 'boolean', default: false },
  },
  USE,
)

const number = (name: string, text: string, low: number, high: number): number => {
  const x = Number(text)
  return text !== '' && x >= low && x <= high ? x : stop(`--${name} is a number from ${low} to ${high}. ${USE}`)
}

function list(build: Build): void {
  for (const kind of DRIVE_KINDS) console.log(`--drive ${kind.padEnd(28)} ${DRIVE_PROFILES[kind].name}`)
  for (const f of gradedFaults(build)) {
    const { extent } = f
    const range = extent && `; :0 ${extent.says(extent.least)} to :1 ${extent.says(extent.most)}`
    console.log(`--fault ${`${f.id}@120`.padEnd(28)} ${f.name}${range ?? ''}`)
  }
}

/** What fails, how badly, and from when on. */
function failing(build: Build, text: string) {
  const [, id = '', share, at = ''] = /^([^:@]*)(?::([^@]*))?@?(.*)$/.exec(text) ?? []
  const fault =
    gradedFaults(build).find((f) => f.id === id) ?? stop(`There is no fault ${id} in this build; --list names them.`)
  if (share !== undefined && !fault.extent) stop(`${fault.name} has no severity: it is so or it is not.`)
  const edits = share === undefined ? fault.edits : fault.editsAt(number('fault ID:SEVERITY@SECONDS', share, 0, 1))
  const broken = applyEdits(build, edits)
  if (!broken.ok) stop(broken.reason)
  return { build: broken.value, at: number('fault ID@SECONDS', at, 0, 86_400) }
}

function drive(build: Build): SimulatedDrive {
  const kind = values.drive as DriveKind
  if (!DRIVE_KINDS.includes(kind)) stop(`There is no drive ${kind}; --list names them.`)
  return simulateDrive(build, {
    kind,
    seed: number('seed', values.seed, 0, 2 ** 31),
    ...(values.seconds === undefined ? {} : { seconds: number('seconds', values.seconds, 1, 86_400) }),
    sensor: {
      ...USUAL_SENSOR,
      offsetPa: number('offset', values.offset, -50_000, 50_000),
      skew: number('skew', values.skew, -0.1, 0.1),
    },
    fault: values.fault === undefined ? undefined : failing(build, values.fault),
  })
}

const COLUMNS = ['crankcase[kPa]', 'manifold[kPa abs]', 'rpm', 'throttle[%]']
const lineOf = (d: SimulatedDrive, k: number): LoggerLine => ({
  number: k + 1,
  seconds: d.seconds[k]!,
  values: [d.crankcase[k]! / 1000, d.manifoldPa[k]! / 1000, d.rpm[k]!, 100 * d.throttle[k]!],
})

/** The session under which lines are sent: the one that was given, or a new one by the bench's words. */
async function sessionFor(url: string): Promise<string | undefined> {
  if (values.session !== undefined) return values.session
  if (values.code === undefined) return undefined
  const session = await pair(url, values.code, 'Logger').catch((error: unknown) =>
    stop(`It is not let in: ${error instanceof Error ? error.message : String(error)}`),
  )
  console.error(`Paired. The next time: --session '${session}'`)
  return session
}

const say = (words: string) => console.error(words)
/** Plays a drive as it happens. */
async function play(d: SimulatedDrive, to: string): Promise<void> {
  const speed = number('speed', values.speed, 0.1, 1000)
  const head = { run: `${values.drive}-${values.seed}-${Date.now().toString(36)}`, columns: COLUMNS }
  const sender =
    to === '-' ? undefined : startSending({ url: to, head, cookie: await sessionFor(to), say, refused: stop })
  if (!sender) for (const line of headLines(head)) console.log(line)
  const began = performance.now()
  for (let k = 0; k < d.seconds.length; k++) {
    const wait = (1000 * d.seconds[k]!) / speed - (performance.now() - began)
    if (wait > 5) await new Promise((resolve) => setTimeout(resolve, wait))
    const line = lineOf(d, k)
    if (sender) sender.push(line.number, loggerLineText(line))
    else console.log(loggerLineText(line))
  }
  await sender?.end()
}

/** Hands on the lines of a logger that cannot reach Ivent itself. */
async function bridge(from: string, to: string): Promise<void> {
  const input = createInterface({ input: from === '-' ? process.stdin : createReadStream(from) })
  const cookie = await sessionFor(to)
  let [first, unread] = [undefined as string | undefined, 0]
  let sending: { readonly sender: ReturnType<typeof startSending>; readonly columns: number } | undefined
  for await (const text of input) {
    const line = sending && parseLine(text, sending.columns)
    if (line) {
      sending!.sender.push(line.number, text.trim())
      continue
    }
    const head = first === undefined ? undefined : parseHead(first, text)
    first = text.trim()
    // one that was switched on again begins a new run
    if (head?.ok) {
      void sending?.sender.end()
      const { value } = head
      sending = {
        sender: startSending({ url: to, head: value, cookie, say, refused: stop }),
        columns: value.columns.length,
      }
    } else if (sending && text.trim() !== '' && !text.startsWith('ivent-logger') && unread++ === 0)
      say(`Not a line of the protocol, left out: ${text.slice(0, 60)}`)
  }
  if (!sending) stop('There is no head in it: it begins with “ivent-logger 1 RUN” and “columns …”.')
  await sending.sender.end()
}

async function log(): Promise<void> {
  const { to, from, csv } = values
  if (from !== undefined) return to === undefined || to === '-' ? stop(USE) : bridge(from, to)
  const build = buildFromFile(positionals[0] ?? stop(USE))
  if (values.list) return list(build)
  const d = drive(build)
  if (to !== undefined) return play(d, to)
  const style = WRITING_STYLES[number('style', values.style, 0, WRITING_STYLES.length - 1)] ?? stop(USE)
  const text = `${[...recordingLines(d, style, engineModel(build).amb.pressurePa)].join('\n')}\n`
  if (csv === undefined) process.stdout.write(text)
  else writeFileSync(csv, text)
}

void log()
