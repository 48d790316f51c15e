/** Work off the main thread: a lane is one worker thread and those who wait for it, one after another. */
import { join } from 'node:path'
import { Piscina } from 'piscina'

/** Asked for and not begun; more than this is an assault. */
const MOST_WAITING = 200

type Lane = { readonly pool: Piscina; waiting: number; tail: Promise<unknown> }
/** What a page needs now, what takes its time, and files that come in: none waits for another. */
export type LaneName = 'quick' | 'slow' | 'files'
/** The workers as `./ivent` bundles them, beside the build. */
const BUNDLES: Readonly<Record<LaneName, string>> = { quick: 'judge.cjs', slow: 'judge.cjs', files: 'files.cjs' }

/** Kept on globalThis: a development reload must not leave threads behind. */
const kept = globalThis as { iventLanes?: Partial<Record<LaneName, Lane>> | undefined }
const lane = (name: LaneName): Lane =>
  ((kept.iventLanes ??= {})[name] ??= {
    pool: new Piscina({
      filename: join(process.cwd(), '.cache', BUNDLES[name]),
      minThreads: 1,
      maxThreads: 1,
      idleTimeout: 60_000,
    }),
    waiting: 0,
    tail: Promise.resolve(),
  })

export async function closeLanes(): Promise<void> {
  const lanes = Object.values(kept.iventLanes ?? {})
  kept.iventLanes = undefined
  await Promise.all(lanes.map(({ pool }) => pool.destroy()))
}

export type LaneResult<T> =
  | { readonly ended: 'done'; readonly value: T }
  /** it ran longer than it may, and was stopped; waiting for its turn does not count: a busy machine makes nothing too large */
  | { readonly ended: 'stopped' }
  /** too many wait already */
  | { readonly ended: 'crowded' }
  | { readonly ended: 'failed'; readonly error: unknown }

async function run<T>(pool: Piscina, task: unknown, budgetMs: number): Promise<LaneResult<T>> {
  const stop = new AbortController()
  const timer = setTimeout(() => stop.abort(), budgetMs)
  try {
    return { ended: 'done', value: (await pool.run(task, { signal: stop.signal })) as T }
  } catch (error) {
    return stop.signal.aborted ? { ended: 'stopped' } : { ended: 'failed', error }
  } finally {
    clearTimeout(timer)
  }
}

/** Runs a task when its turn comes, for `budgetMs` at most. */
export async function runIn<T>(name: LaneName, task: unknown, budgetMs: number): Promise<LaneResult<T>> {
  const own = lane(name)
  if (own.waiting >= MOST_WAITING) return { ended: 'crowded' }
  own.waiting++
  const turn = own.tail.then(() => {
    own.waiting--
    return run<T>(own.pool, task, budgetMs)
  })
  own.tail = turn
  return turn
}
