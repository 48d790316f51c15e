/** Guesses of draws against networks whose answers are closed forms. */
import { warmStarter, type Solved } from './warm-start'

/** Two joints in a row from one that is held at `held`: `a` next to it, `b` behind it, and the drops over both, Pa. */
const row = (held: number, overA: number, overB: number): Solved => ({
  p: Float64Array.of(held + overA, held + overA + overB, held),
  free: 2,
  ends: [
    { i: 1, j: 0 },
    { i: 0, j: 2 },
  ],
})
const at = (...scores: number[]) => Float64Array.from(scores)

test('what multiplies is predicted however many inputs move at once, above a held joint that moves too', () => {
  // a drop is flow squared times a loss: 3 Pa in a wide hose, 400 Pa in a cover
  const flow = (z: Float64Array) => 1.6 ** z[0]!
  const solved = (z: Float64Array) => row(98_000 + 500 * z[1]!, 3 * flow(z) ** 2, 400 * flow(z) ** 2 * 1.7 ** z[2]!)
  const guess = warmStarter(3, [at(0.7, -1.2, 1.8)], (z) => [solved(z)])
  for (const z of [at(0, 0, 0), at(1.3, -2, -0.7), at(-2.1, 0.4, 2.5)]) {
    const { p } = solved(z)
    const found = guess(0, z, Float64Array.of(Number.NaN, Number.NaN, p[2]!))!
    p.forEach((pa, k) => expect(found[k]).toBeCloseTo(pa, 6))
  }
})

test('flows that add up and may turn are predicted by the root of their drop', () => {
  const flow = (z: Float64Array) => 0.5 + z[0]! - 2 * z[1]!
  const solved = (z: Float64Array) => row(101_325, flow(z) * Math.abs(flow(z)), 10)
  const guess = warmStarter(2, [at(1.5, 0.9)], (z) => [solved(z)])
  for (const z of [at(2, -0.4), at(-1.7, 1.1)]) {
    const { p } = solved(z)
    expect(guess(0, z, p.slice())![0]).toBeCloseTo(p[0]!, 6)
  }
})

test('a joint that is held by its regulator is predicted by itself, whatever the joint beside it does', () => {
  const held = (z: Float64Array) => 99_000 + 100 * z[0]!
  const beside = (z: Float64Array) => 98_000 - 400 * 2 ** z[1]! * (1 + z[0]! / 9)
  const solved = (z: Float64Array): Solved => ({
    p: Float64Array.of(held(z), beside(z)),
    free: 1,
    ends: [{ i: 0, j: 1 }],
  })
  const guess = warmStarter(2, [at(-1.1, 1.4)], (z) => [solved(z)])
  const z = at(2.2, -1.7)
  expect(guess(0, z, solved(z).p)![0]).toBeCloseTo(held(z), 6)
})

test('a state without an answer has no guess; an input without one moves nothing; none is led past half or twice a pressure', () => {
  const guess = warmStarter(1, [at(2)], (z) => [
    undefined,
    Math.abs(z[0]!) === 1 ? undefined : row(1e5, 1000, 0),
    row(1e5, 1000 * 9 ** z[0]!, 0),
  ])
  expect(guess(0, at(0), new Float64Array(3))).toBeUndefined()
  expect(guess(1, at(2), Float64Array.of(0, 0, 1e5))![0]).toBeCloseTo(101_000, 6)
  expect(guess(2, at(3), Float64Array.of(0, 0, 1e5))![0]).toBe(2 * 101_000)
})
