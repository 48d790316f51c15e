/** Every working of the demo builds comes out by hand. */
import { finish } from '@/core/job'
import { analyseOverCycle } from '@/plan/analyse-over-cycle'
import { followWorkings } from '@/plan/explain/testing'
import { demoBuilds } from './demo-builds'

const DAY = '2026-11-25'

test.each(demoBuilds(DAY).map((b) => [b.name, b] as const))('%s: every working comes out by hand', (_, b) => {
  const { tried, bad } = followWorkings(b, finish(analyseOverCycle(b, DAY)), 1)
  expect(bad.slice(0, 8)).toEqual([])
  expect(tried).toBeGreaterThan(80)
})
