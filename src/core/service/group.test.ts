/** What cars of a kind say of the next: against drawing from the model and against plain statistics. */
import { uniforms } from '../random'
import { evidenceOf, nextOfGroup, type LogEvidence } from './group'
import { normalQuantile } from './normal'
import { PRIOR_SIGMA } from './prior'

const { exp, sqrt } = Math
const normals = (seed: number) => {
  const uniform = uniforms(seed)
  return () => normalQuantile(uniform())
}

test('a kind of which nobody knows a car is as any car', () => {
  const { mu, sigma } = nextOfGroup([], PRIOR_SIGMA)
  expect(mu).toBeCloseTo(0, 12)
  expect(sigma).toBeCloseTo(PRIOR_SIGMA, 2)
})

test('what a log said is told from what was known before and after', () => {
  const [before, said] = [
    { mu: 0.3, sigma: 0.8 },
    { mean: -0.2, variance: 0.09 },
  ]
  // the product of two normals (Gelman et al., Bayesian Data Analysis, 2.5)
  const precision = 1 / before.sigma ** 2 + 1 / said.variance
  const after = {
    mu: (before.mu / before.sigma ** 2 + said.mean / said.variance) / precision,
    sigma: precision ** -0.5,
  }
  expect(evidenceOf(before, after)!.mean).toBeCloseTo(said.mean, 12)
  expect(evidenceOf(before, after)!.variance).toBeCloseTo(said.variance, 12)
  expect(evidenceOf(before, before)).toBeUndefined()
})

test('as by drawing what cars have in common and how far they differ, weighed by how well each draw explains them', () => {
  const cars: LogEvidence[] = [
    { mean: 0.9, variance: 0.02 },
    { mean: 0.2, variance: 0.1 },
    { mean: 0.5, variance: 0.3 },
  ]
  const normal = normals(11)
  const [share, spread] = [0.4, 0.4]
  const median = PRIOR_SIGMA * sqrt(share / exp(2 * spread ** 2))
  let [all, sum, square] = [0, 0, 0]
  for (let k = 0; k < 400_000; k++) {
    const common = normal() * PRIOR_SIGMA * sqrt(1 - share)
    const between = median * exp(spread * normal())
    const weight = cars.reduce((w, { mean, variance }) => {
      const of = between ** 2 + variance
      return (w * exp(-((mean - common) ** 2) / of / 2)) / sqrt(of)
    }, 1)
    const next = common + between * normal()
    all += weight
    sum += weight * next
    square += weight * next * next
  }
  const { mu, sigma } = nextOfGroup(cars, PRIOR_SIGMA)
  expect(mu).toBeCloseTo(sum / all, 2)
  expect(sigma / sqrt(square / all - (sum / all) ** 2)).toBeCloseTo(1, 1.7)
})

test('many cars that are well known: their mean and how far they differ', () => {
  const normal = normals(3)
  const means = Array.from({ length: 300 }, () => 0.7 + 0.25 * normal())
  const mean = means.reduce((s, x) => s + x, 0) / means.length
  const deviation = sqrt(means.reduce((s, x) => s + (x - mean) ** 2, 0) / (means.length - 1))
  const { mu, sigma, between } = nextOfGroup(
    means.map((x) => ({ mean: x, variance: 1e-6 })),
    PRIOR_SIGMA,
  )
  expect(mu).toBeCloseTo(mean, 2)
  expect(between).toBeCloseTo(deviation, 1.7)
  expect(sigma).toBeCloseTo(deviation, 1.7)
})
