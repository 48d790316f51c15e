/** ./ivent docs practice [CARS]: how policies fare on practice cars, so that points reward what a good fitter does. */
import { writeFileSync } from 'node:fs'
import { finish } from '@/core/job'
import { uniforms } from '@/core/random'
import { drawPracticeCar, type PracticeCar } from '@/plan/practice/practice-car'
import { carefulHunt, huntScore, oddsAfter, playHunt, toolsOf, type HuntAttempt } from '@/plan/practice/hunt'
import type { HuntStep } from '@/plan/practice/hunt-tools'
import { predict, type Predictions } from '@/plan/finder/predictions'

const CARS = Number(process.argv[2] ?? 200)
const CARE = { cooled: true, helped: true }

/** Looks one after another as they stand in the list until time is up, then names what is likeliest. */
function inOrder(practiceCar: PracticeCar, predictions: Predictions): HuntAttempt {
  const steps: HuntStep[] = []
  for (const tool of toolsOf(practiceCar.build, predictions)) {
    if (tool.group === 'drive') continue
    const then = [...steps, { tool: tool.id, ...CARE }]
    if (playHunt(practiceCar, predictions, then).spent > practiceCar.minutes) continue
    steps.push(then.at(-1)!)
  }
  const { taken } = playHunt(practiceCar, predictions, steps)
  return { steps, named: oddsAfter(practiceCar, predictions, taken)[0]!.hypothesis.id }
}
/** Takes two tools as they come to hand, hot and alone, and names any fault. */
function guess(practiceCar: PracticeCar, predictions: Predictions): HuntAttempt {
  const uniform = uniforms(practiceCar.seed + 5)
  const tools = toolsOf(practiceCar.build, predictions)
  const pick = <T>(of: readonly T[]): T => of[Math.floor(uniform() * of.length)]!
  const steps = [pick(tools), pick(tools)].map((t) => ({ tool: t.id, cooled: false, helped: false }))
  return { steps, named: pick(predictions.hypotheses.slice(1)).id }
}
/** Names at once what is likeliest by the complaint. */
const atOnce = (practiceCar: PracticeCar, predictions: Predictions): HuntAttempt => ({
  steps: [],
  named: oddsAfter(practiceCar, predictions, [])[0]!.hypothesis.id,
})

const POLICIES = {
  'follows the finder, waits for a cold engine, fetches help': carefulHunt,
  'everything in the order of the list': inOrder,
  'names the likeliest by the complaint alone': atOnce,
  'two tools at hand, hot and alone, then a guess': guess,
} as const
const scores = Object.fromEntries(Object.keys(POLICIES).map((name) => [name, [] as number[]]))
for (let seed = 1; seed <= CARS; seed++) {
  const practiceCar = drawPracticeCar(seed)
  const predictions = finish(predict(practiceCar.build))
  for (const [name, policy] of Object.entries(POLICIES))
    scores[name]!.push(huntScore(practiceCar, predictions, policy(practiceCar, predictions)))
  if (seed % 20 === 0) console.error(seed)
}
const mean = (xs: readonly number[]) => xs.reduce((a, b) => a + b, 0) / xs.length
const text = `# Practice, played by policies

Written by \`./ivent docs practice\`: ${CARS} practice cars, seeds from 1. A found fault is worth 120 points; minutes, dangers, a wrong part and a car that
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
