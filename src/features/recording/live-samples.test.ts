/** What comes in from a logger: told its state, laid on what is predicted, and taken for steady only when nothing moves. */
import { finish } from '@/core/job'
import { engineModel } from '@/plan/model/engine'
import { runColumns, type LoggerLine } from '@/plan/recordings/line-protocol'
import { newBuild } from '@/plan/schools/new-build'
import { driveBand } from '@/plan/studies/drive-map'
import { liveView, type ShownPoint } from './live-samples'

const build = newBuild({ name: 'x', engineClass: 'i4-turbo', use: 'street', ambientC: 15, units: 'metric' })
const model = engineModel(build)
const band = finish(driveBand(build))
const idle = model.states.find((s) => s.id === 'idle')!
const shown: ShownPoint = { state: 'cruise', rpm: idle.rpm, manifoldPa: idle.manifoldPa }
const head = { run: 'a', columns: ['crankcase[kPa]', 'manifold[kPa abs]', 'rpm'] }
const lines = (
  seconds: number,
  kpa: (t: number) => number,
  rpm: (t: number) => number = () => idle.rpm,
): LoggerLine[] =>
  Array.from({ length: 10 * seconds }, (_, k) => ({
    number: k + 1,
    seconds: k / 10,
    values: [kpa(k / 10), idle.manifoldPa / 1000, rpm(k / 10)],
  }))
const view = (of: readonly LoggerLine[]) => liveView(of, runColumns(head, of), model, { band, shown })!

test('at idle it is told so, read as a gauge, and laid on what the plan predicts there', () => {
  const { state, now, steady } = view(lines(8, () => -0.41))
  expect(state).toBe('idle')
  expect(now!.crankcase).toBeCloseTo(-410, 6)
  expect(steady).toBeCloseTo(-410, 6)
  expect(now!.low).toBeLessThan(now!.predicted)
  expect(now!.high).toBeGreaterThan(now!.predicted)
})

test.each<[string, readonly LoggerLine[]]>([
  ['three seconds alone', lines(3, () => -0.4)],
  ['a gauge that still falls', lines(8, (t) => -0.1 * t)],
  ['a gauge that swings', lines(8, (t) => -0.4 + 0.3 * Math.sin(9 * t))],
  [
    'a speed that rises',
    lines(
      8,
      () => -0.4,
      (t) => idle.rpm * (1 + 0.03 * t),
    ),
  ],
  [
    'too few readings',
    lines(8, () => -0.4).map((l, k) => (k % 10 === 0 ? l : { ...l, values: [Number.NaN, ...l.values.slice(1)] })),
  ],
])('%s is not steady', (_, of) => {
  expect(view(of).steady).toBeUndefined()
})

test('of a sensor alone the state is the one that the page shows; without a crankcase there is nothing to show', () => {
  const alone = lines(8, () => -0.3).map((l) => ({ ...l, values: [l.values[0]!] }))
  const seen = liveView(alone, runColumns({ run: 'a', columns: ['crankcase[kPa]'] }, alone), model, { band, shown })!
  expect(seen.state).toBe('cruise')
  expect(seen.steady).toBeCloseTo(-300, 6)
  expect(liveView(alone, runColumns({ run: 'a', columns: ['rpm'] }, alone), model, { band, shown })).toBeUndefined()
})

test('only the last minute is shown', () => {
  const { samples } = view(lines(200, () => -0.4))
  expect(samples.at(-1)!.seconds - samples[0]!.seconds).toBeCloseTo(60, 6)
})
