/** An additive model against tables whose effects are known, and against the mean where there is nothing to learn. */
import { uniforms } from '../random'
import { fitAdditive } from './additive-model'

test('effects of choices that add up are found, in any order of tries', () => {
  const uniform = uniforms(4)
  const [first, second] = [
    [0, 3, -2],
    [1, -1, 0, 7],
  ]
  const tries = Array.from({ length: 400 }, () => [Math.floor(3 * uniform()), Math.floor(4 * uniform())] as const)
  const { predict } = fitAdditive(
    tries,
    tries.map(([a, b]) => 10 + first[a]! + second[b]! + 0.2 * (uniform() - 0.5)),
  )
  for (const a of [0, 1, 2])
    for (const b of [0, 1, 2, 3]) expect(predict([a, b])).toBeCloseTo(10 + first[a]! + second[b]!, 0)
})

test('a choice that was never tried does nothing; equal figures are told as they are', () => {
  const { predict } = fitAdditive(
    [
      [0, 1],
      [1, 0],
      [0, 0],
    ],
    [4, 4, 4],
  )
  expect(predict([5, 9])).toBeCloseTo(4, 12)
  expect(predict([0, 1])).toBeCloseTo(4, 12)
})

test('what two choices do together is told of their like: in what else they differ does not hide it', () => {
  // exclusive or: no sum of effects tells any of it
  const pairs = [0, 1].flatMap((a) => [0, 1].map((b) => [a, b] as const))
  const figure = (a: number, b: number) => (a === b ? 0 : 8)
  const tries = pairs.flatMap(([a, b]) => [0, 1, 2, 3].map((c) => [a, b, c]))
  const { predict } = fitAdditive(
    tries,
    tries.map(([a, b]) => figure(a!, b!)),
  )
  for (const [a, b] of pairs) expect(Math.abs(predict([a, b, 9]) - figure(a, b))).toBeLessThan(1)
})
