/**
 * Long work is a generator: it yields the share done (0-1) and returns its answer, so that whoever runs it can report and stop it, and
 * the work itself knows of neither.
 */
export type Job<T> = Generator<number, T>

/**
 * Runs a job to its end at once.
 * @example finish((function* () { yield 0.5; return 'done' })()) // 'done'
 */
export function finish<T>(job: Job<T>): T {
  for (;;) {
    const step = job.next()
    if (step.done) return step.value
  }
}
