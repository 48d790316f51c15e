/** Practice: every lesson's answers worked out again by the model; hunts that answer alike for a seed, reward care, and cost what they should. */
import { finish } from '@/core/job'
import { validateBuild } from '../document/validate'
import { predict } from '../finder/predictions'
import { badNumbers } from '../testing'
import { drawPracticeCar } from './practice-car'
import { carefulHunt, huntScore, oddsAfter, playHunt, reviewHunt, toolsOf } from './hunt'
import type { HuntStep } from './hunt-tools'
import { isRightAnswer } from './answers'
import { contradictions, LESSONS, readLesson, workLesson } from './lessons'

const TODAY = '2026-11-30'

test('a dozen lessons, each once, in the order of the work', () => {
  expect(LESSONS).toHaveLength(12)
  expect(LESSONS.map((l) => l.order)).toEqual(Array.from({ length: 12 }, (_, k) => k + 1))
  expect(new Set(LESSONS.map((l) => l.id)).size).toBe(12)
})

test.each(LESSONS.map((l) => [l.id, l] as const))(
  'the model agrees with lesson %s, and its build is whole',
  (_, lesson) => {
    const worked = finish(workLesson(lesson, TODAY))
    if (!worked.ok) throw new Error(worked.reason)
    expect(contradictions(lesson, worked.value)).toEqual([])
    expect(badNumbers(worked.value.answers)).toEqual([])
    expect(validateBuild(JSON.parse(JSON.stringify(worked.value.build)))).toMatchObject({ ok: true })
    // what the author says is taken, and something else is not
    for (const [k, q] of lesson.questions.entries()) {
      const model = worked.value.answers[k]!
      expect([q.ask, isRightAnswer(q, model, q.answer)]).toEqual([q.ask, true])
      const wrong =
        typeof model === 'number'
          ? model * 3 + 100
          : q.choices!.find(({ id }: { readonly id: string }) => id !== model)!.id
      expect([q.ask, isRightAnswer(q, model, wrong)]).toEqual([q.ask, false])
    }
  },
)

test('a lesson that the model contradicts is refused, and one that is written wrong says where', () => {
  const [lesson] = LESSONS
  const worked = finish(workLesson(lesson!, TODAY))
  if (!worked.ok) throw new Error(worked.reason)
  const [first, ...others] = lesson!.questions
  const lie = { ...lesson!, questions: [{ ...first!, answer: 1 }, ...others] }
  expect(contradictions(lie, worked.value)).toEqual([expect.stringContaining('The lesson says 1, the model 65.7')])
  const raw = JSON.parse(JSON.stringify(lesson)) as Record<string, unknown>
  expect(readLesson({ ...raw, title: undefined })).toMatchObject({ ok: false, reason: 'title is missing' })
  expect(readLesson({ ...raw, colour: 'blue' })).toMatchObject({ ok: false, reason: expect.stringContaining('colour') })
  const unknown = { ...raw, questions: [{ ...first!, from: { figure: 'luck' } }] }
  expect(readLesson(unknown)).toMatchObject({
    ok: false,
    reason: expect.stringContaining('questions[0].from names no figure'),
  })
  const noState = { ...raw, questions: [{ ...first!, from: { figure: 'crankcase' } }] }
  expect(readLesson(noState)).toMatchObject({ ok: false, reason: expect.stringContaining('state') })
})

const CARS = [1, 4, 6, 8, 12, 16].map((seed) => {
  const practiceCar = drawPracticeCar(seed)
  return { practiceCar, predictions: finish(predict(practiceCar.build)) }
})
const CARE = { cooled: true, helped: true }

test('same seed, same car and same answers; another seed draws others', () => {
  const [{ practiceCar, predictions }] = CARS as [(typeof CARS)[0]]
  expect(drawPracticeCar(1)).toEqual(practiceCar)
  const steps: HuntStep[] = toolsOf(practiceCar.build, predictions).map((t) => ({ tool: t.id, ...CARE }))
  const [a, b] = [playHunt(practiceCar, predictions, steps), playHunt(practiceCar, predictions, steps)]
  expect(a).toEqual(b)
  // a tool says the same whatever was asked before
  const last = playHunt(practiceCar, predictions, steps.slice(-1)).taken[0]!
  expect(a.taken.at(-1)!.says).toBe(last.says)
  expect(badNumbers(a.taken.flatMap((t) => t.evidence))).toEqual([])
  expect(new Set(CARS.map((c) => c.practiceCar.truth)).size).toBeGreaterThan(3)
  for (const { practiceCar: d } of CARS) expect(d.complaint.length).toBeGreaterThan(10)
})

test('a look shows the fault, and settles it; minutes count waiting and fetching', () => {
  const { practiceCar, predictions } = CARS.find((c) => c.practiceCar.truth === 'breather-flat')!
  const cold = playHunt(practiceCar, predictions, [{ tool: 'look-breather', ...CARE }])
  expect(cold.taken[0]).toMatchObject({ says: 'folded or soft', danger: undefined, minutes: 5 + 20 })
  expect(oddsAfter(practiceCar, predictions, cold.taken)[0]!.hypothesis.id).toBe('breather-flat')
  const hot = playHunt(practiceCar, predictions, [{ tool: 'look-breather', cooled: false, helped: false }])
  expect(hot.taken[0]).toMatchObject({ minutes: 5, danger: expect.stringContaining('hot') })
  // once cold it need not be waited for again; a running engine is warm again
  const steps = ['look-breather', 'ports', 'read-crankcase-idle', 'ports'].map((tool) => ({ tool, ...CARE }))
  expect(playHunt(practiceCar, predictions, steps).taken.map((t) => t.minutes)).toEqual([25, 3, 3 + 5, 3 + 20])
  const alone = playHunt(practiceCar, predictions, [{ tool: 'drive', cooled: true, helped: false }])
  expect(alone.taken[0]!.danger).toContain('alone')
})

test('a drive with the logger reads the states that were held', () => {
  const { practiceCar, predictions } = CARS[0]!
  const [drive] = playHunt(practiceCar, predictions, [{ tool: 'drive', ...CARE }]).taken
  expect(drive!.evidence.length).toBeGreaterThan(1)
  expect(drive!.says).toContain('kPa')
})

test('following the finder scores best, a guess hot and alone worst', () => {
  const mean = (policy: (c: (typeof CARS)[0], k: number) => number) =>
    CARS.reduce((sum, c, k) => sum + policy(c, k), 0) / CARS.length
  const careful = mean(({ practiceCar, predictions }) =>
    huntScore(practiceCar, predictions, carefulHunt(practiceCar, predictions)),
  )
  const atOnce = mean(({ practiceCar, predictions }) =>
    huntScore(practiceCar, predictions, {
      steps: [],
      named: oddsAfter(practiceCar, predictions, [])[0]!.hypothesis.id,
    }),
  )
  const guess = mean(({ practiceCar, predictions }, k) => {
    const tools = toolsOf(practiceCar.build, predictions)
    const steps = [2, 5].map((n) => ({ tool: tools[(n + k) % tools.length]!.id, cooled: false, helped: false }))
    return huntScore(practiceCar, predictions, { steps, named: predictions.hypotheses[3 + k]!.id })
  })
  expect(careful).toBeGreaterThan(atOnce + 30)
  expect(atOnce).toBeGreaterThan(guess)
})

test('looked back on: odds after each step, what care would have done, what a wrong part cost', () => {
  const { practiceCar, predictions } = CARS.find((c) => c.practiceCar.truth === 'breather-flat')!
  const steps = [
    { tool: 'read-crankcase-idle', ...CARE },
    { tool: 'look-breather', cooled: false, helped: false },
  ]
  const right = reviewHunt(practiceCar, predictions, { steps, named: 'breather-flat' })
  expect(right).toMatchObject({ isRight: true, wrong: undefined, dangers: [expect.stringContaining('hot')] })
  expect(right.steps).toHaveLength(3)
  // the fault alone, or with the cap that it has lifted
  const shareOf = (k: number) => right.steps[k]!.odds.filter((o) => o.isTruth).reduce((sum, o) => sum + o.share, 0)
  // the needle at idle led astray; the look puts it right
  expect(shareOf(1)).toBeLessThan(shareOf(0))
  expect(shareOf(2)).toBeGreaterThan(5 * shareOf(1))
  expect(right.steps[2]!.odds[0]!.isTruth).toBe(true)
  expect(right.careful.minutes).toBeLessThanOrEqual(practiceCar.minutes)
  expect(right.cure.length).toBeGreaterThan(0)
  const wrong = reviewHunt(practiceCar, predictions, { steps, named: 'pcv-shut' })
  expect(wrong.isRight).toBe(false)
  expect(wrong.wrong).toMatchObject({ part: 'PCV valve', price: 25 })
  expect(wrong.score).toBeLessThan(right.score)
})
