/** Series of a logger: states told, surfaces read between points, unknowns fitted with errors that hang together, changes found. */
import { uniforms } from '../random'
import { STATE_IDS, type EngineFacts, type StateId } from '../engine/states'
import { normalQuantile } from '../service/normal'
import { fitBlocks } from './block-fit'
import { findChange } from './change'
import { drivingStates, spellsOf } from './driving-state'
import { lagged, surfaceAt } from './surface'

const normals = (seed: number) => {
  const uniform = uniforms(seed)
  return () => normalQuantile(uniform())
}
const N = 3000
const BLOCK = 80
const blocks = Array.from(
  { length: Math.ceil(N / BLOCK) },
  (_, b) => [BLOCK * b, Math.min(N, BLOCK * (b + 1))] as const,
)
/** A second half as steep as the first: on in some stretches, off in others. */
const loads = Float64Array.from({ length: N }, (_, k) => (Math.sin(k / 200) > 0.3 ? 1 : 0))
const straight = (x: readonly number[]) => Float64Array.from(loads, (load) => 300 * x[0]! * load + x[1]!)
const SIGMAS = [1, 100]

/** How often the true figures lie in their intervals, and how wide those are, over series with errors of a kind. */
function coverage(errors: (normal: () => number) => () => number) {
  const normal = normals(7)
  const inside = [0, 0]
  const SERIES = 200
  for (let n = 0; n < SERIES; n++) {
    const truth = SIGMAS.map((s) => s * normal())
    const error = errors(normal)
    const measured = straight(truth).map((p) => p + error())
    const fit = fitBlocks(straight, measured, { sigmas: SIGMAS, blocks, leastScale: 1, seed: n })!
    fit.unknowns.forEach((u, i) => (inside[i]! += truth[i]! >= u.low && truth[i]! <= u.high ? 1 : 0))
  }
  return inside.map((k) => k / SERIES)
}

test.each([
  ['apart from each other', (normal: () => number) => () => 25 * normal()],
  [
    'that hang together over half a second',
    (normal: () => number) => {
      let last = 0
      return () => (last = 0.9 * last + 11 * normal())
    },
  ],
  ['with one in twenty wild', (normal: () => number) => () => (normal() > 1.645 ? 400 : 25) * normal()],
])('intervals hold as often as they say, with errors %s', (_, errors) => {
  for (const share of coverage(errors)) {
    expect(share).toBeGreaterThan(0.75)
    expect(share).toBeLessThan(0.87)
  }
})

test('what a series does not say stays as wide as it was', () => {
  const normal = normals(2)
  const flat = () => new Float64Array(N)
  const measured = Float64Array.from({ length: N }, () => 25 * normal())
  const fit = fitBlocks(flat, measured, { sigmas: [2], blocks, leastScale: 1, seed: 1 })!
  expect((fit.unknowns[0]!.high - fit.unknowns[0]!.low) / 2 / (1.2816 * 2)).toBeCloseTo(1, 0.8)
})

test('no answer at the start, and a series without figures, are no fit', () => {
  const options = { sigmas: [1], blocks, leastScale: 1, seed: 1 }
  expect(fitBlocks(() => undefined, new Float64Array(N), options)).toBeUndefined()
  expect(fitBlocks(() => new Float64Array(N), new Float64Array(N).fill(Number.NaN), options)).toBeUndefined()
})

test('a change is found at its time, and none where there is none, or where only what is free moves', () => {
  const normal = normals(5)
  let found = 0
  for (let n = 0; n < 60; n++) {
    const series = (jump: number, drift: number) =>
      Float64Array.from(loads, (load, k) => {
        const after = k >= 1700 ? 1 : 0
        return 300 * (1 + jump * after) * load + drift * after + 25 * normal()
      })
    const changeOf = (measured: Float64Array) => {
      const fit = fitBlocks(straight, measured, { sigmas: SIGMAS, blocks, leastScale: 1, seed: n })!
      return findChange(fit, SIGMAS, 200, 1)
    }
    if (changeOf(series(0, 0)) || changeOf(series(0, 60))) found++
    const change = changeOf(series(1, 0))!
    expect(change.moves[0]).toBeCloseTo(1, 0.5)
    expect(change.from).toBeLessThanOrEqual(1700)
    expect(change.to).toBeGreaterThanOrEqual(1700)
  }
  expect(found).toBeLessThanOrEqual(2)
})

test('a surface is read between its points, held at its edges, and has no figure beside a hole', () => {
  const rpm = [800, 2000, 6000]
  const manifoldPa = [3e4, 1e5]
  const plane = (x: number, y: number) => x / 100 + y / 1e4
  const surface = { rpm, manifoldPa, values: Float64Array.from(manifoldPa.flatMap((y) => rpm.map((x) => plane(x, y)))) }
  for (const [x, y] of [
    [800, 3e4],
    [1400, 5e4],
    [5999, 9.9e4],
    [6000, 1e5],
  ] as const)
    expect(surfaceAt(surface, x, y)).toBeCloseTo(plane(x, y), 9)
  expect(surfaceAt(surface, 9000, 2e5)).toBeCloseTo(plane(6000, 1e5), 9)
  surface.values[2] = Number.NaN
  expect(surfaceAt(surface, 1400, 3e4)).toBeCloseTo(plane(1400, 3e4), 9)
  expect(surfaceAt(surface, 4000, 5e4)).toBeNaN()
  expect(surfaceAt(surface, Number.NaN, 5e4)).toBeNaN()
})

test('what lags reaches 63 % of a step in its time constant', () => {
  const seconds = Float64Array.from({ length: 101 }, (_, k) => k / 100)
  const step = Float64Array.from(seconds, (t) => (t > 0 ? 1 : 0))
  expect(lagged(seconds, step, 0.25)[25]).toBeCloseTo(1 - Math.exp(-1), 9)
  expect([...lagged(seconds, step, 0)]).toEqual([...step])
})

const FACTS = {
  cylinders: 4,
  displacementM3: 2e-3,
  cylinder: { boreM: 0.083, strokeM: 0.0924, rodM: 0.144, compression: 10 },
  induction: 'turbo',
  idleRpm: 800,
  ratedRpm: 6500,
  boostPa: 120e3,
  idleManifoldPa: 35e3,
  overrunManifoldPa: 25e3,
  inletDepressionPa: 3000,
  inletFouling: 1,
  oilInUseK: 368,
} as const satisfies EngineFacts
const OUTSIDE = { pressurePa: 101_325, temperatureK: 293.15 }
const stateOf = (rpm: number, kpa: number, throttle?: number, facts: EngineFacts = FACTS): StateId | undefined =>
  STATE_IDS[
    drivingStates(facts, OUTSIDE, {
      seconds: Float64Array.of(0),
      rpm: Float32Array.of(rpm),
      manifoldPa: Float32Array.of(1000 * kpa),
      ...(throttle === undefined ? {} : { throttle: Float32Array.of(throttle) }),
    })[0]!
  ]

test('each state by speed, manifold and throttle', () => {
  expect(stateOf(820, 36)).toBe('idle')
  expect(stateOf(2600, 55)).toBe('cruise')
  expect(stateOf(2400, 99)).toBe('spool')
  expect(stateOf(5500, 99)).toBe('pull')
  expect(stateOf(6000, 210)).toBe('boost')
  expect(stateOf(4000, 26)).toBe('overrun')
  expect(stateOf(4000, 40, 0)).toBe('overrun')
  expect(stateOf(4000, 40, 0.2)).toBe('cruise')
  expect(stateOf(6000, 99, 1, { ...FACTS, induction: 'na', boostPa: 0 })).toBe('pull')
  expect(stateOf(Number.NaN, 40)).toBeUndefined()
})

test('a state does not flicker about its threshold', () => {
  const seconds = Float64Array.from({ length: 400 }, (_, k) => k / 20)
  const manifoldPa = Float32Array.from(seconds, (_, k) => 109_000 + (k % 2 === 0 ? 600 : -600))
  const rpm = new Float32Array(400).fill(5000)
  expect(spellsOf(drivingStates(FACTS, OUTSIDE, { seconds, rpm, manifoldPa })).length).toBeLessThan(3)
})
