/** Runs in a worker thread: a build worked out and judged, whole or in the few figures of the garage. */
import { finish } from '@/core/job'
import type { Analysis } from '@/plan/analyse'
import { analyseWhole } from '@/plan/analyse-whole'
import type { Build } from '@/plan/document/schema'
import { summarise, type BuildSummary } from '@/plan/service/summary'

export type Asked = { readonly what: 'analysis' | 'summary'; readonly build: Build; readonly today: string }

export default function judge({ what, build, today }: Asked): Analysis | BuildSummary {
  const analysis = finish(analyseWhole(build, today))
  return what === 'summary' ? summarise(build, analysis) : analysis
}
