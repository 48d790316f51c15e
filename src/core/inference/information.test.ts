import { informationOf } from './information'

test('a noisy channel: one bit less the entropy of its noise (MacKay, Information Theory, exercise 8.10: 1 - H2(0.15))', () => {
  const h2 = (p: number) => -p * Math.log2(p) - (1 - p) * Math.log2(1 - p)
  const noisy = [
    [0.85, 0.15],
    [0.15, 0.85],
  ]
  expect(informationOf([1, 1], noisy)).toBeCloseTo(1 - h2(0.15), 12)
})

test('nothing where all cases show the same, all of the cases’ entropy where each shows its own', () => {
  expect(
    informationOf(
      [3, 1],
      [
        [2, 2],
        [1, 1],
      ],
    ),
  ).toBeCloseTo(0, 12)
  expect(
    informationOf(
      [1, 1, 2],
      [
        [1, 0, 0],
        [0, 1, 0],
        [0, 0, 1],
      ],
    ),
  ).toBeCloseTo(1.5, 12)
})
