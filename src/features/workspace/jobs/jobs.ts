'use client'
/** The one way from a page to the worker: typed, latest wins, with progress and stop. */
import { proxy, wrap, type Remote } from 'comlink'
import { useCallback, useEffect, useRef, useState } from 'react'
import type { Build } from '@/plan/document/schema'
import type { JobArgs, JobName, JobValue, JobWorker } from './jobs.worker'

/** The first does everything; the second is started for searches that two share. */
const workers: Remote<JobWorker>[] = []
let tickets = 0
const theWorker = (nth = 0): Remote<JobWorker> =>
  (workers[nth] ??= wrap<JobWorker>(new Worker(new URL('./jobs.worker.ts', import.meta.url), { type: 'module' })))

/** How many workers share a search. */
export const WORKERS = 2
/**
 * A job on one of the workers, for what is made of several; a later one of the same name on that worker ends it.
 * @returns undefined where it was stopped
 */
export async function runJob<N extends JobName>(
  nth: number,
  name: N,
  args: JobArgs<N>,
  report: (share: number) => void,
): Promise<JobValue<N> | undefined> {
  // the answer is what this job gives: the worker's own type has lost which
  return (await theWorker(nth).run(name, ++tickets, args, proxy(report))) as JobValue<N> | undefined
}
/** Stops a job on every worker. */
export const stopJob = (name: JobName): void => workers.forEach((w) => void w.stop(name))

export type JobState<T, A = unknown> = {
  /** the last answer, kept in sight while a newer one is on its way */
  readonly value: T | undefined
  /** what that answer is of */
  readonly of: A | undefined
  /** share done, while it runs */
  readonly progress: number | undefined
  readonly failed: string | undefined
}

/** A job that runs when asked and shows its last answer until the next. */
export function useJob<N extends JobName>(
  name: N,
): JobState<JobValue<N>, JobArgs<N>> & { readonly start: (...args: JobArgs<N>) => void; readonly stop: () => void } {
  const [state, setState] = useState<JobState<JobValue<N>, JobArgs<N>>>({
    value: undefined,
    of: undefined,
    progress: undefined,
    failed: undefined,
  })
  // the ticket of the job that runs; 0 when none does
  const mine = useRef(0)
  const start = useCallback(
    (...args: JobArgs<N>) => {
      const ticket = ++tickets
      mine.current = ticket
      setState((s) => ({ ...s, progress: 0, failed: undefined }))
      const report = (share: number) => {
        if (mine.current === ticket) setState((s) => ({ ...s, progress: share }))
      }
      theWorker()
        .run(name, ticket, args, proxy(report))
        .then((value) => {
          if (mine.current !== ticket || value === undefined) return
          // reports come by a port of their own: one that is late must not put the job back to work
          mine.current = 0
          setState({ value: value as JobValue<N>, of: args, progress: undefined, failed: undefined })
        })
        .catch((error: unknown) => {
          if (mine.current !== ticket) return
          mine.current = 0
          setState((s) => ({
            ...s,
            progress: undefined,
            failed: error instanceof Error ? error.message : String(error),
          }))
        })
    },
    [name],
  )
  const stop = useCallback(() => {
    mine.current = 0
    stopJob(name)
    setState((s) => ({ ...s, progress: undefined }))
  }, [name])
  // a page that is left leaves no work behind
  useEffect(
    () => () => {
      if (mine.current !== 0) stopJob(name)
    },
    [name],
  )
  return { ...state, start, stop }
}

/** A recording from the bytes in which it was kept. */
export const unpackInWorker = (bytes: ArrayBuffer) => theWorker().unpack(bytes)

const PAUSE_MS = 180

/** A job that follows its subject: runs again, a moment after the last change. */
export function useFollowingJob<N extends 'map' | 'ranges'>(name: N, subject: Build): ReturnType<typeof useJob<N>> {
  const job = useJob(name)
  // both jobs take the build alone; their further arguments have defaults
  const start = job.start as unknown as (build: Build) => void
  useEffect(() => {
    const timer = setTimeout(() => start(subject), PAUSE_MS)
    return () => clearTimeout(timer)
  }, [start, subject])
  return job
}
