/** ./ivent docs practice [CARS]: how policies fare on dealt cars, so that points reward what a good fitter does. */
import { writeFileSync } from 'node:fs'
import { finish } from '@/core/job'
import { uniforms } from '@/core/random'
import { dealCar, type DealtCar } from '@/plan/practice/dealt-car'
import { carefulHunt, huntScore, oddsAfter, playHunt, toolsOf, type HuntAttempt } from '@/plan/practice/hunt'
import type { HuntStep } from '@/plan/practice/hunt-tools'
import { predict, type Predictions } from '@/plan/finder/predictions'

const CARS = Number(process.argv[2] ?? 200)
const CARE = { cooled: true, helped: true }

/** Looks one after another as they stand in the list until time is up, then names what is likeliest. */
function inOrder(dealt: DealtCar, predictions: Predictions): HuntAttempt {
  const steps: HuntStep[] = []
  for (const tool of toolsOf(dealt.build, predictions)) {
    if (tool.group === 'drive') continue
    const then = [...steps, { tool: tool.id, ...CARE }]
    if (playHunt(dealt, predictions, then).spent > dealt.minutes) continue
    steps.push(then.at(-1)!)
  }
  const { taken } = playHunt(dealt, predictions, steps)
  return { steps, named: oddsAfter(dealt, predictions, taken)[0]!.hypothesis.id }
}
/** Takes two tools as they come to hand, hot and alone, and names any fault. */
function guess(dealt: DealtCar, predictions: Predictions): HuntAttempt {
  const uniform = uniforms(dealt.seed + 5)
  const tools = toolsOf(dealt.build, predictions)
  const pick = <T>(of: readonly T[]): T => of[Math.floor(uniform() * of.length)]!
  const steps = [pick(tools), pick(tools)].map((t) => ({ tool: t.id, cooled: false, helped: false }))
  return { steps, named: pick(predictions.hypotheses.slice(1)).id }
}
/** Names at once what is likeliest by the complaint. */
const atOnce = (dealt: DealtCar, predictions: Predictions): HuntAttempt => ({
  steps: [],
  named: oddsAfter(dealt, predictions, [])[0]!.hypothesis.id,
})

const POLICIES = {
  'follows the finder, waits for a cold engine, fetches help': carefulHunt,
  'everything in the order of the list': inOrder,
  'names the likeliest by the complaint alone': atOnce,
  'two tools at hand, hot and alone, then a guess': guess,
} as const
const scores = Object.fromEntries(Object.keys(POLICIES).map((name) => [name, [] as number[]]))
for (let seed = 1; seed <= CARS; seed++) {
  const dealt = dealCar(seed)
  const predictions = finish(predict(dealt.build))
  for (const [name, policy] of Object.entries(POLICIES))
    scores[name]!.push(huntScore(dealt, predictions, policy(dealt, predictions)))
  if (seed % 20 === 0) console.error(seed)
}
const mean = (xs: readonly number[]) => xs.reduce((a, b) => a + b, 0) / xs.length
const text = `# Practice, played by policies

Written by \`./ivent docs practice\`: ${CARS} dealt cars, seeds from 1. A found fault is worth 120 points; minutes, dangers, a wrong part and a car that
comes back cost.

| policy | points in the mean | found or better than nothing |
|---|---|---|
${Object.entries(scores)
  .map(
    ([name, s]) =>
      `| ${name} | ${mean(s).toFixed(1)} | ${Math.round((100 * s.filter((x) => x > 0).length) / s.length)} % |`,
  )
  .join('\n')}
`
writeFileSync('docs/practice.md', text)
console.log(text)
