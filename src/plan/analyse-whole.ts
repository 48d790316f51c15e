/** The analysis of any engine: of one whose pistons pump its crankcase, over the turn. Apart, since following turns is heavy. */
import type { Job } from '@/core/job'
import { analyse, figuresOf, judged, taught, withFixes, type Analysis } from './analyse'
import type { Build } from './document/schema'
import { pulsates } from './model/engine'
import { turned } from './studies/turned'

/** Yields the share done: about a second for a single or twin, at once for others. */
export function* analyseWhole(build: Build, today: string): Job<Analysis> {
  if (!pulsates(build.engine)) return analyse(build, today)
  const figures = yield* turned(build, figuresOf(build))
  return withFixes(build, judged(build, taught(build, figures, today)))
}
