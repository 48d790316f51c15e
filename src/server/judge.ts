/**
 * Analyses on the server: in worker threads, so that a heavy circuit keeps nobody waiting, with a time budget, and
 * kept while nothing changes.
 */
import { join } from 'node:path'
import { Piscina } from 'piscina'
import { fail, ok, type Result } from '@/core/result'
import type { Analysis } from '@/plan/analyse'
import type { Build } from '@/plan/document/schema'
import type { Report } from '@/plan/analyse-whole'
import type { BuildSummary } from '@/plan/service/summary'
import type { Asked } from './judge.worker'
import { era } from './store'
import { logged } from './trouble'

/** The worker as `./ivent` bundles it, beside the build. */
export const JUDGE_BUNDLE = join(process.cwd(), '.cache', 'judge.cjs')
/** The fullest circuit that is accepted takes a tenth of it. */
const BUDGET_MS = 8000
const MOST_THREADS = 2
/** Asked for and not begun; more than this is an assault. */
const MOST_WAITING = 200

/** Kept on globalThis: a development reload must not leave threads behind. */
const kept = globalThis as {
  iventJudges?: Piscina | undefined
  iventJudged?: Map<string, Result<unknown>> | undefined
  iventJudging?: Map<string, Promise<Result<unknown>>> | undefined
}
const judges = (): Piscina =>
  (kept.iventJudges ??= new Piscina({
    filename: JUDGE_BUNDLE,
    minThreads: 1,
    maxThreads: MOST_THREADS,
    maxQueue: MOST_WAITING,
    idleTimeout: 60_000,
  }))

export async function closeJudges(): Promise<void> {
  const pool = kept.iventJudges
  kept.iventJudges = undefined
  await pool?.destroy()
}

async function ask<T>(asked: Asked, budgetMs: number): Promise<Result<T>> {
  const stop = new AbortController()
  // waiting for a thread uses the budget up too: nobody waits longer than that for an answer
  const timer = setTimeout(() => stop.abort(), budgetMs)
  try {
    return ok((await judges().run(asked, { signal: stop.signal })) as T)
  } catch (error) {
    if (stop.signal.aborted)
      return fail(
        `This build takes longer than ${budgetMs / 1000} seconds to work out, so it was stopped. ` +
          'Make the circuit smaller, or try again when less is going on.',
      )
    if (error instanceof Error && /queue/i.test(error.message))
      return fail('Too much is being worked out at once. Try again in a moment.')
    console.error(`judge: ${logged(error)}`)
    return fail(
      'This build cannot be worked out: something in it is damaged. ' +
        'Put an earlier version of it back, or export it and look at the file.',
    )
  } finally {
    clearTimeout(timer)
  }
}

/** The whole analysis of a document, to be given out. */
export const judge = (build: Build, today: string, budgetMs = BUDGET_MS): Promise<Result<Report>> =>
  ask<Report>({ what: 'report', build, today }, budgetMs)

/** A document of the store, which is the same as long as build and revision are. */
export type Stored = { readonly id: string; readonly revision: number; readonly document: Build }
const MOST_KEPT = 300

async function once<T>(
  what: Asked['what'],
  { id, revision }: Omit<Stored, 'document'>,
  today: string,
  document: () => Promise<Build | undefined>,
): Promise<Result<T> | undefined> {
  const cache = (kept.iventJudged ??= new Map())
  const key = `${era()} ${what} ${id} ${revision} ${today}`
  const known = cache.get(key)
  if (known) {
    cache.delete(key)
    cache.set(key, known)
    return known as Result<T>
  }
  const build = await document()
  if (!build) return undefined
  // who asks for the same while it is worked out waits for that: a crowd at the door asks once
  const judging = (kept.iventJudging ??= new Map())
  const asked =
    (judging.get(key) as Promise<Result<T>> | undefined) ??
    ask<T>({ what, build, today }, BUDGET_MS).finally(() => judging.delete(key))
  judging.set(key, asked)
  const judged = await asked
  if (judged.ok) cache.set(key, judged)
  for (const old of [...cache.keys()].slice(0, Math.max(0, cache.size - MOST_KEPT))) cache.delete(old)
  return judged
}

/** The analysis of a stored build, kept by build, revision and day. */
export const judgeStored = async (stored: Stored, today: string): Promise<Result<Analysis>> =>
  (await once<Analysis>('analysis', stored, today, () => Promise.resolve(stored.document)))!

/** The summary of a stored build; `document` is asked for only where it is not known. */
export const summariseStored = (
  head: { readonly id: string; readonly revision: number },
  today: string,
  document: () => Promise<Build | undefined>,
): Promise<Result<BuildSummary> | undefined> => once<BuildSummary>('summary', head, today, document)
