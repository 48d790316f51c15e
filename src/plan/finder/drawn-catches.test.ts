/** How likely catches are, against the same by summing over the car's own multiplier of oil in small steps. */
import { normalCdf } from '@/core/service/normal'
import { catchLogLikelihood } from './drawn-catches'
import { readingEvidence, type Evidence, type Observable } from './observables'
import { LOG_CATCH_DEVIATION } from './predictions'

const observables: readonly Observable[] = [
  { kind: 'crankcase', state: 'idle' },
  { kind: 'catch', can: 'a' },
  { kind: 'catch', can: 'b' },
]
const found = (can: string, ratio: number, more: Partial<Evidence> = {}): Evidence => ({
  ...readingEvidence({ kind: 'catch', can }, ratio, 0.25 * ratio),
  ...more,
})
/** Rows of the faulty car, then of the sound one: logarithms of what each can catches. */
const CAUGHT = [0, Math.log(1.5), Math.log(0.3), 0, Math.log(0.9), Math.log(1.1)]

/** The mean likelihood over multipliers of oil, whose logarithm is normal, by the trapezoidal rule. */
function summed(catches: readonly (readonly [row: number, e: Evidence])[]): number {
  let sum = 0
  const step = 0.001
  for (let z = -8; z <= 8; z += step) {
    const likelihood = catches.reduce((all, [row, e]) => {
      const off = (e.scaled - CAUGHT[row]! - LOG_CATCH_DEVIATION * z) / e.error
      return all * (e.atMost ? normalCdf(off) : Math.exp(-(off ** 2) / 2) / (e.error * Math.sqrt(2 * Math.PI)))
    }, 1)
    sum += (likelihood * step * Math.exp(-(z ** 2) / 2)) / Math.sqrt(2 * Math.PI)
  }
  return Math.log(sum)
}

test.each([
  ['one can', [[1, found('a', 2)]]],
  [
    'two cans share the multiplier',
    [
      [1, found('a', 2)],
      [2, found('b', 0.5)],
    ],
  ],
  [
    'what was found while the car was sound tells the multiplier',
    [
      [1, found('a', 3)],
      [4, found('a', 1.8, { before: true })],
    ],
  ],
  [
    'a can that is dry caught so much or less',
    [
      [2, found('b', 0.02, { atMost: true })],
      [4, found('a', 0.06, { before: true })],
    ],
  ],
  [
    'dry where much was predicted',
    [
      [1, found('a', 0.6, { atMost: true })],
      [5, found('b', 1.2, { before: true })],
    ],
  ],
] as const)('%s', (_, catches) => {
  const log = catchLogLikelihood({ catches: catches.map(([, e]) => e), predictions: { observables } }, CAUGHT)
  expect(log).toBeCloseTo(summed(catches), 4)
})
