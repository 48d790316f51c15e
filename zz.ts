import { demoBuilds } from '@/server/demo-builds'
import { analyse, analyseWithoutFixes } from '@/plan/analyse'
import { makeEvaluator } from '@/plan/model/evaluator'
const list = (demoBuilds as any)('2026-11-29')
for (const b of list) {
  const d = b.document ?? b
  let t = performance.now(); analyseWithoutFixes(d, '2026-11-29', makeEvaluator()); const a = performance.now() - t
  t = performance.now(); analyse(d, '2026-11-29', makeEvaluator()); const c = performance.now() - t
  console.log(d.name, a.toFixed(0), c.toFixed(0), d.log.length)
}
