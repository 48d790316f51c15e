/**
 * Analyses on the server: in worker threads, so that a heavy circuit keeps nobody waiting, with a time budget, and kept while nothing
 * changes. What a page needs now and what takes its time go through lanes of their own.
 */
import { availableParallelism, loadavg } from 'node:os'
import { fail, ok, type Result } from '@/core/result'
import type { Analysis } from '@/plan/analyse'
import type { Build } from '@/plan/document/schema'
import type { Report } from '@/plan/analyse-over-cycle'
import { asOnCar } from '@/plan/document/fitted-plan'
import { pulsates } from '@/plan/model/engine'
import { withoutOthers } from '@/plan/service/kind-prior'
import { summarise, type BuildSummary } from '@/plan/studies/summary'
import { msSinceChange, worked } from './changed'
import type { JudgeRequest } from './judge.worker'
import { runIn } from './lane'
import { databaseGeneration } from './store'
import { logged } from './trouble'

/** Longest that a build may be worked on once its turn has come. */
const BUDGET_MS = 8000

/** What is known of a build in one state of it. */
type Known = Map<string, Result<unknown>>

/** Kept on globalThis: a development reload must not forget it. */
const shared = globalThis as {
  iventJudged?: Known | undefined
  iventJudging?: Map<string, Promise<Result<unknown>>> | undefined
  iventSummaries?: Map<string, BuildSummary> | undefined
}

const BUSY = 'Too much is being worked out at once. Try again in a moment.'
const DAMAGED =
  'This build cannot be worked out: something in it is damaged. Put an earlier version of it back, or export it and look at the file.'
const tooLarge = (budgetMs: number) =>
  `This build is too large: it takes longer than ${budgetMs / 1000} seconds to work out, so it was stopped. Make the circuit smaller.`

/** A budget on a machine that has more to do than it has processors: a crowd makes no build too large. */
const inACrowd = (budgetMs: number) => budgetMs * Math.max(1, loadavg()[0]! / availableParallelism())

/** How an answer came about: a build that is too large stays so; all else may go better next time. */
type Judged<T> = { readonly result: Result<T>; readonly lasting: boolean }

async function ask<T>(name: 'quick' | 'slow', asked: JudgeRequest, budgetMs: number): Promise<Judged<T>> {
  const ran = await runIn<T>(name, asked, inACrowd(budgetMs))
  if (ran.ended === 'done') return { result: ok(ran.value), lasting: true }
  if (ran.ended === 'stopped') return { result: fail(tooLarge(budgetMs)), lasting: true }
  if (ran.ended === 'crowded') return { result: fail(BUSY), lasting: false }
  console.error(`judge: ${logged(ran.error)}`)
  return { result: fail(DAMAGED), lasting: false }
}

/** The whole analysis of a document, to be given out. */
export const judgeInLane = async (build: Build, today: string, budgetMs = BUDGET_MS): Promise<Result<Report>> =>
  (await ask<Report>('slow', { what: 'report', build, today }, budgetMs)).result

/** Why a build is not taken in: it could be shown nowhere. Undefined where it can be worked out. */
export async function tooLargeToShow(build: Build, today: string, budgetMs = BUDGET_MS): Promise<string | undefined> {
  const { result, lasting } = await ask<Analysis>('quick', { what: 'still', build, today }, budgetMs)
  return !result.ok && lasting ? result.reason : undefined
}

/** A document of the store, which is the same as long as build and revision are. */
export type Stored = { readonly id: string; readonly revision: number; readonly document: Build }
type JudgeKey = Omit<Stored, 'document'>
const MOST_KEPT = 300

const keyOf = (what: JudgeRequest['what'], { id, revision, document }: Stored, today: string) =>
  `${databaseGeneration()} ${what} ${id} ${revision} ${document.active} ${today}`
const summaryKeyOf = ({ id, revision }: JudgeKey, today: string) =>
  `${databaseGeneration()} summary ${id} ${revision} ${today}`
const memory = (): Known => (shared.iventJudged ??= new Map())

/** What is known already; the last asked for is the last to go. */
function recalled(key: string): Result<Analysis> | undefined {
  const cache = memory()
  const known = cache.get(key)
  if (known) {
    cache.delete(key)
    cache.set(key, known)
  }
  return known as Result<Analysis> | undefined
}

/** Works an analysis out once; who asks for the same meanwhile waits for that. */
function once(
  name: 'quick' | 'slow',
  what: 'still' | 'whole',
  stored: Stored,
  today: string,
): Promise<Result<Analysis>> {
  const key = keyOf(what, stored, today)
  const known = recalled(key)
  if (known) return Promise.resolve(known)
  const judging = (shared.iventJudging ??= new Map())
  const going = judging.get(key) as Promise<Result<Analysis>> | undefined
  if (going) return going
  const asked = ask<Analysis>(name, { what, build: stored.document, today }, BUDGET_MS).then(({ result, lasting }) => {
    judging.delete(key)
    const cache = memory()
    if (lasting) cache.set(key, result)
    for (const old of [...cache.keys()].slice(0, Math.max(0, cache.size - MOST_KEPT))) cache.delete(old)
    return result
  })
  judging.set(key, asked)
  return asked
}

/** The analysis of a stored build as it is to be judged by: of an engine whose pistons pump its crankcase over the turn. */
export const judgeWhole = (stored: Stored, today: string): Promise<Result<Analysis>> =>
  pulsates(stored.document.engine) ? once('slow', 'whole', stored, today) : once('quick', 'still', stored, today)

/** While a build is being worked on, the turn of the crank is followed when hands rest for this long. */
const REST_MS = 2000

/** Builds whose turn will be followed, by id: the newest of each. */
const resting = new Map<string, ReturnType<typeof setTimeout>>()

/** Has the turn of the crank followed once the build is left alone, and pages drawn anew then. */
function judgeAtRest(stored: Stored, today: string): void {
  clearTimeout(resting.get(stored.id))
  const begin = () => {
    resting.delete(stored.id)
    void judgeWhole(stored, today).then(() => worked(stored.id))
  }
  resting.set(stored.id, setTimeout(begin, Math.max(0, REST_MS - msSinceChange(stored.id))).unref())
}

/**
 * The analysis of a stored build for a page that waits: where the turn of the crank takes its time, the still flow until it has been
 * followed.
 */
export async function judgeStored(stored: Stored, today: string): Promise<Result<Analysis>> {
  if (pulsates(stored.document.engine)) {
    const whole = recalled(keyOf('whole', stored, today))
    if (whole?.ok) return whole
    if (!whole) judgeAtRest(stored, today)
  }
  return once('quick', 'still', stored, today)
}

/** A build in a few figures, as it was known last; `pending` while newer ones are being worked out. */
export type Summarised =
  { readonly summary: BuildSummary | undefined; readonly pending: boolean } | { readonly trouble: string }

/** Longest that a list waits for one of its builds. */
const PATIENCE_MS = 150

/** What comes within a time; undefined where it takes longer. */
async function within<T>(ms: number, coming: Promise<T>): Promise<T | undefined> {
  let timer: ReturnType<typeof setTimeout> | undefined
  const late = new Promise<undefined>((resolve) => {
    timer = setTimeout(() => resolve(undefined), ms)
  })
  try {
    return await Promise.race([coming, late])
  } finally {
    clearTimeout(timer)
  }
}

/**
 * The analysis to sum a build up by, if it is there in time; else it is on its way. Where the turn of the crank is still to be followed it
 * is the still flow, and `pending`.
 */
async function inTime(
  stored: Stored,
  today: string,
  patienceMs: number,
): Promise<{ readonly analysis: Result<Analysis>; readonly pending: boolean } | undefined> {
  const pumps = pulsates(stored.document.engine)
  const whole = pumps ? recalled(keyOf('whole', stored, today)) : undefined
  if (whole?.ok) return { analysis: whole, pending: false }
  if (pumps && !whole) judgeAtRest(stored, today)
  const coming = once('quick', 'still', stored, today)
  const analysis = await within(patienceMs, coming)
  if (!analysis) void coming.then(() => worked(stored.id))
  return analysis && { analysis, pending: pumps && !whole }
}

/**
 * The summary of a stored build for a list that waits for none of them long; `document` is asked for only where it is not known,
 * `patienceMs` is the longest that the list waits for it. Undefined where there is no such build.
 */
export async function summariseStored(
  head: JudgeKey,
  today: string,
  document: () => Promise<Build | undefined>,
  patienceMs = PATIENCE_MS,
): Promise<Summarised | undefined> {
  const summaries = (shared.iventSummaries ??= new Map())
  const [key, lastKey] = [summaryKeyOf(head, today), `${databaseGeneration()} last ${head.id}`]
  const known = summaries.get(key)
  if (known) return { summary: known, pending: false }
  const kept = await document()
  if (!kept) return undefined
  // what is due and what is wrong is said of the plan on the car
  const build = asOnCar(kept)
  const found = await inTime({ ...head, document: build }, today, patienceMs)
  // of a car that goes by others, what its own log teaches them is taken from its log alone
  const alone =
    found && build.kindPrior
      ? await inTime({ ...head, id: `${head.id} without others`, document: withoutOthers(build) }, today, patienceMs)
      : found
  if (!found || (!found.analysis.ok && found.analysis.reason === BUSY))
    return { summary: summaries.get(lastKey), pending: true }
  if (!found.analysis.ok) return { trouble: found.analysis.reason }
  const summary = summarise(build, found.analysis.value, alone?.analysis.ok ? alone.analysis.value.cans : [])
  if (found.pending || !alone) return { summary: summaries.get(lastKey) ?? summary, pending: true }
  summaries.set(key, summary)
  summaries.set(lastKey, summary)
  for (const old of [...summaries.keys()].slice(0, Math.max(0, summaries.size - 2 * MOST_KEPT))) summaries.delete(old)
  return { summary, pending: false }
}

/** Has a build that has just come in summed up, so that its ticket is there when the garage is. */
export function summariseSoon(stored: Stored, today: string): void {
  void summariseStored(stored, today, () => Promise.resolve(stored.document)).catch((error: unknown) => {
    console.error(`judge: ${logged(error)}`)
  })
}
