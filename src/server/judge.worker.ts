/** Runs in a worker thread: a build worked out and judged, as its page shows it at once, over the turn of the crank, or as it is given out. */
import { finish } from '@/core/job'
import { analyse, type Analysis } from '@/plan/analyse'
import { analyseOverCycle, reportOn, type Report } from '@/plan/analyse-over-cycle'
import type { Build } from '@/plan/document/schema'

export type JudgeRequest = {
  readonly what: 'still' | 'whole' | 'report'
  readonly build: Build
  readonly today: string
}

export default function judgeInWorker({ what, build, today }: JudgeRequest): Analysis | Report {
  if (what === 'report') return finish(reportOn(build, today))
  return what === 'whole' ? finish(analyseOverCycle(build, today)) : analyse(build, today)
}
