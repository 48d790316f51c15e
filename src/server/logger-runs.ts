/**
 * Runs of loggers as they come in: the last of each build, in memory, for who looks on. What is kept of one is kept as a recording, by a
 * press at the Log.
 */
import { fail, ok, type Result } from '@/core/result'
import { parseHead, parseLine, type LoggerHead } from '@/plan/recordings/line-protocol'
import { announceLoggerRun } from './live'

/** Lines of a run that are held: an hour at ten a second and more. Builds whose last run is held. */
const [MOST_LINES, MOST_RUNS] = [72_000, 20]
/** Runs whose place was taken that are known. */
const MOST_BEFORE = 20
/** Lines that could not be read are counted up to here. */
const MOST_UNREAD = 1000
/** Lines that are given out at once. */
const MOST_GIVEN = 20_000
/** Who looks on is told no more often than this, ms. */
const TELL_MS = 200
/** Lines are held here in memory alone: a logger keeps them until who looks on has had time to read them, ms. */
const KEEP_MS = 3000

type LoggerRun = {
  readonly head: LoggerHead
  /** as they came, the last of them */
  readonly lines: { readonly number: number; readonly text: string }[]
  last: number
  missing: number
  /** lines that could not be read, as they came: one that is sent again is the same */
  readonly unread: Set<string>
  /** when which line was the last, the newest at the end */
  readonly came: { readonly at: number; readonly last: number }[]
  noticeTimer: ReturnType<typeof setTimeout> | undefined
  /** runs whose place it took */
  readonly before: string[]
}
const shared = globalThis as { iventLoggerRuns?: Map<string, LoggerRun> }
const runs = (): Map<string, LoggerRun> => (shared.iventLoggerRuns ??= new Map())

/** Forgets the run of a build that has gone. */
export const forgetRun = (build: string): void => void runs().delete(build)

const sameHead = (a: LoggerHead, b: LoggerHead) => a.run === b.run && a.columns.join() === b.columns.join()

/** The run of a build that a message belongs to: the one that is held, or a new one in its place; none where a later one took its own. */
function runFor(build: string, head: LoggerHead): LoggerRun | undefined {
  const held = runs().get(build)
  if (held && sameHead(held.head, head)) return held
  if (held?.before.includes(head.run)) return undefined
  clearTimeout(held?.noticeTimer)
  const run: LoggerRun = {
    head,
    lines: [],
    last: 0,
    missing: 0,
    unread: new Set(),
    came: [],
    noticeTimer: undefined,
    before: [],
  }
  if (held) run.before.push(...held.before.slice(-MOST_BEFORE), held.head.run)
  runs().delete(build)
  runs().set(build, run)
  const [oldest] = runs().keys()
  if (runs().size > MOST_RUNS && oldest !== undefined) runs().delete(oldest)
  return run
}

/**
 * Takes a message of a logger for a build.
 * @param now ms since 1970
 * @returns the number of the first line that the logger still has to keep
 */
export function takeLines(build: string, message: string, now = Date.now()): Result<number> {
  const texts = message.split(/\r?\n/).filter((l) => l.trim() !== '' && !l.startsWith('#'))
  const head = parseHead(texts[0] ?? '', texts[1] ?? '')
  if (!head.ok) return head
  const read = texts.slice(2).map((text) => ({ text, line: parseLine(text, head.value.columns.length) }))
  if (read.length > 0 && read.every((r) => r.line === undefined))
    return fail(
      `No line could be read. Each has its number, seconds, and ${head.value.columns.length} figures or -, with blanks between.`,
    )
  const run = runFor(build, head.value)
  if (!run) return fail('Another run has begun for this build since: one logger at a time.')
  const before = run.last
  for (const { text, line } of read) {
    if (!line) {
      if (run.unread.size < MOST_UNREAD) run.unread.add(text)
      continue
    }
    // sent twice it counts once
    if (line.number <= run.last) continue
    // of a run that is joined late nothing is missing yet
    if (run.lines.length > 0) run.missing += line.number - run.last - 1
    run.last = line.number
    run.lines.push({ number: line.number, text })
  }
  if (run.lines.length > MOST_LINES) run.lines.splice(0, run.lines.length - MOST_LINES)
  if (run.last > before && run.noticeTimer === undefined)
    run.noticeTimer = setTimeout(() => {
      run.noticeTimer = undefined
      announceLoggerRun(build)
    }, TELL_MS)
  if (run.last > before) run.came.push({ at: now, last: run.last })
  const settled = run.came.findLastIndex((c) => now - c.at >= KEEP_MS)
  if (settled > 0) run.came.splice(0, settled)
  return ok(settled < 0 ? (run.lines[0]?.number ?? 1) : run.came[0]!.last + 1)
}

/** What is held of a build's run: all of it, or what came after a line that is had. */
export type HeldRun = {
  readonly head: LoggerHead
  readonly missing: number
  readonly unread: number
  readonly last: number
  readonly lines: readonly string[]
}

/** @param after number of the last line that is had, of that run; of another all is given */
export function linesOf(build: string, run: string | undefined, after: number): HeldRun | undefined {
  const held = runs().get(build)
  if (!held) return undefined
  const from = held.head.run === run ? held.lines.findIndex((l) => l.number > after) : 0
  const lines = from < 0 ? [] : held.lines.slice(Math.max(from, held.lines.length - MOST_GIVEN)).map((l) => l.text)
  const { head, missing, unread, last } = held
  return { head, missing, unread: unread.size, last, lines }
}
