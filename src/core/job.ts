/**
 * Long work is a generator: it yields the share done (0-1) and returns its answer, so that whoever runs it can report and stop it, and
 * the work itself knows of neither.
 */
export type Job<T> = Generator<number, T>

/**
 * Runs a job to its end at once.
 *
 * @example
 * import { finish } from '@/core/job'
 *
 * console.log(finish((function* () { yield 0.5; return 'done' })())) // 'done'
 */
export function finish<T>(job: Job<T>): T {
  for (;;) {
    const step = job.next()
    if (step.done) return step.value
  }
}

/**
 * A job as a part of a longer one: its share done is reported as from `from` on, `share` wide.
 *
 * @example
 * import { scaled } from '@/core/job'
 *
 * console.log([...scaled((function* () { yield 0.5 })(), 0.2, 0.4)]) // [ 0.4 ]
 */
export function* scaled<T>(job: Job<T>, from: number, share: number): Job<T> {
  for (;;) {
    const step = job.next()
    if (step.done) return step.value
    yield from + share * step.value
  }
}
