/** Runs in a worker thread: a build worked out and judged, as its page shows it, as it is given out, or in the few figures of the garage. */
import { finish } from '@/core/job'
import type { Analysis } from '@/plan/analyse'
import { analyseWhole, reportOn, type Report } from '@/plan/analyse-whole'
import type { Build } from '@/plan/document/schema'
import { summarise, type BuildSummary } from '@/plan/service/summary'

export type Asked = { readonly what: 'analysis' | 'report' | 'summary'; readonly build: Build; readonly today: string }

export default function judge({ what, build, today }: Asked): Analysis | Report | BuildSummary {
  if (what === 'report') return finish(reportOn(build, today))
  const analysis = finish(analyseWhole(build, today))
  return what === 'summary' ? summarise(build, analysis) : analysis
}
