/**
 * The posterior of methods 7 on a grid: of u, the logarithm of what the can gathers in all, of v, oil's multiplier over water's, and of the
 * scatter of an interval. In u and v the ridge that volumes not told apart leave is straight, and a change moves u alone. A first, coarse grid
 * finds where anything is to be found; sums on the second are of smooth functions at steps well within their width, so that they
 * converge as fast as the trapezoidal rule does on them.
 */
import { axisBetween, axisPoints, type Axis } from './axis'
import { makeJump, stretchOf, type Jump } from './jump'
import { studentCdf } from './student'
import { CHANGE, SCATTER, type Amount, type Emptying, type Prior } from './prior'

// looked up once: this runs tens of thousands of times
const { exp, log, sqrt, min, max, floor } = Math

export type PosteriorPoints = {
  /** logarithms of the multipliers */
  readonly oil: Float64Array
  readonly water: Float64Array
  /** logarithm of what track makes over what the road does */
  readonly track?: Float64Array
  readonly scatter: Float64Array
  /** of each point with each scatter, in turn; they sum to 1 */
  readonly weight: Float64Array
}

export type Posterior = {
  /** logarithm of all that the emptyings and the prior leave, but for constants */
  readonly logMass: number
  readonly meanLogScatter: number
  readonly changes: readonly { readonly any: number; readonly rise: number }[]
  readonly rarity: readonly number[]
  readonly points: PosteriorPoints
}

type Given = { readonly wetWallM3: number; readonly track?: number }

/** What an emptying says: ln(amount / predicted) of oil, water or both, its logarithm off oil's by what `v` says. */
type Fact = {
  readonly kind: 'found' | 'atLeast' | 'atMost'
  readonly logRatio: number
  /** variance that a wet wall adds */
  readonly wall: number
  readonly shift: (v: number) => number
}

/** Points of each grid; `least` and `most` of the sum, between which it has as many as the narrowest peak asks for. */
type Counts = { readonly least: number; readonly most: number; readonly ratio: number }
const WHOLE: Counts = { least: 41, most: 61, ratio: 7 }
const MIDDLE: Counts = { least: 33, most: 61, ratio: 9 }
const FINE: Counts = { least: 33, most: 61, ratio: 11 }
/** Points of the scatter while it is asked where the sum lies, and in the end. */
const SCATTER_POINTS = { rough: 2, fine: 5 }
/** Step of the sum in standard deviations of the narrowest peak. */
const SUM_STEP = 0.8
/** Standard deviations of the priors to either side; an interval never scatters less than 6 % by the latter. */
const WIDTH = 4
const SCATTER_WIDTH = 3
/** Share of the most that a row of a grid needs to be looked at again, and of all that a point needs to be kept. */
const NOTHING = 1e-4
const WEIGHTLESS = 1e-7
/** Likelihoods below this are none: numbers too small to be held in full take a hundred times as long. */
const NONE = 1e-200

const kindOf = (amount: Amount): { kind: Fact['kind']; volume: number } =>
  'found' in amount
    ? { kind: 'found', volume: amount.found }
    : 'atLeast' in amount
      ? { kind: 'atLeast', volume: amount.atLeast }
      : { kind: 'atMost', volume: amount.atMost }

/** Facts of an emptying; an amount of what was not to be expected says nothing. */
function factsOf({ predicted: p, oil, water, all }: Emptying, { wetWallM3, track = 0 }: Given): Fact[] {
  // with its track oil so much more or less, all oil of the interval is that much off the road's multiplier
  const harder = p.track && p.oil > 0 ? log(1 + (p.track / p.oil) * (exp(track) - 1)) : 0
  const sum = p.oil + p.water
  const parts = [
    { amount: oil, predicted: p.oil, shift: () => harder },
    { amount: water, predicted: p.water, shift: (v: number) => -v },
    {
      amount: all,
      predicted: sum,
      shift: (v: number) => log((p.oil / sum) * exp(harder) + (p.water / sum) * exp(-v)),
    },
  ]
  return parts.flatMap(({ amount, predicted, shift }): Fact[] => {
    if (!amount || !(predicted > 0)) return []
    const { kind, volume } = kindOf(amount)
    const logRatio = log(volume / predicted)
    return Number.isFinite(logRatio)
      ? [{ kind, logRatio, wall: kind === 'found' ? (wetWallM3 / volume) ** 2 : 0, shift }]
      : []
  })
}

/** Even points along which a likelihood is written out: where the first lies, as the logarithm of what multiplies the predicted volume. */
type Row = { readonly from: number; readonly step: number; readonly count: number }

/** Multiplies `into` by the likelihood of a fact along a row, with an interval's scatter. */
function multiplyBy({ kind, logRatio, wall }: Fact, scatter: number, { from, step, count }: Row, into: Float64Array) {
  if (kind === 'found') {
    const inverse = 1 / sqrt(scatter * scatter + wall)
    const height = inverse * SCATTER.median
    for (let i = 0; i < count; i++) {
      const z = (logRatio - from - i * step) * inverse
      const q = 1 + (z * z) / 4
      into[i]! *= height / (q * q * sqrt(q))
    }
    return
  }
  const inverse = (kind === 'atLeast' ? -1 : 1) / scatter
  for (let i = 0; i < count; i++) into[i]! *= studentCdf((logRatio - from - i * step) * inverse)
}

/** How rarely an interval strays as far as a fact has from points along a row, by the `weight` of each. */
function rarityAlong(
  { kind, logRatio, wall }: Fact,
  scatter: number,
  { from, step, count }: Row,
  weight: Float64Array,
) {
  const inverse = kind === 'found' ? 1 / sqrt(scatter * scatter + wall) : (kind === 'atLeast' ? -1 : 1) / scatter
  let sum = 0
  for (let i = 0; i < count; i++) {
    const w = weight[i]!
    if (w === 0) continue
    const z = (logRatio - from - i * step) * inverse
    sum += w * (kind === 'found' ? 2 * studentCdf(-Math.abs(z)) : studentCdf(z))
  }
  return sum
}

type Grid = { readonly sum: Axis; readonly ratio: Axis; readonly logScatter: Axis }
/** Where the sum over a grid went. */
type Sums = {
  readonly mass: number
  /** of the next filling's multipliers with each scatter: ratio, sum, scatter in turn */
  readonly next: Float64Array
  /** the same of what was before a change */
  readonly before: Float64Array
  readonly changes: { any: number; rise: number }[]
  readonly rarity: number[]
}

/** What the sums need to know of the car. */
type Question = {
  readonly facts: readonly (readonly Fact[])[]
  readonly prior: Prior
  /** oil's logarithm at v, less that of the sum u */
  readonly between: (v: number) => number
}

/**
 * Room to work in along u, emptying by emptying: the likelihood of each, of all before it with the prior, of all from it on; and of a change
 * right before it, what stands after it and what stood before.
 */
type Room = {
  readonly count: number
  readonly emptyings: number
  readonly prior: Float64Array
  readonly each: Float64Array
  readonly ahead: Float64Array
  readonly after: Float64Array
  readonly landed: Float64Array
  readonly left: Float64Array
}
function makeRoom(emptyings: number, count: number): Room {
  const rows = () => new Float64Array((emptyings + 1) * count)
  return {
    count,
    emptyings,
    prior: new Float64Array(count),
    each: rows(),
    ahead: rows(),
    after: rows(),
    landed: rows(),
    left: rows(),
  }
}

/** Writes the prior along u; `from` is oil's logarithm at its first point, `v` how far water's is below it. */
function fillPrior({ prior: into, count }: Room, { oil, water }: Prior, { from, step }: Row, v: number): void {
  for (let i = 0; i < count; i++) {
    const o = (from + i * step - oil.mu) / oil.sigma
    const w = (from + i * step - v - water.mu) / water.sigma
    into[i] = exp(-0.5 * (o * o + w * w))
  }
}

/** From the likelihood of each emptying to that of all before it, times the prior and `share`, and of all from it on. */
function fillProducts({ prior, each, ahead, after, count, emptyings }: Room, share: number): void {
  for (let i = 0; i < count; i++) ahead[i] = share * prior[i]!
  for (let k = 0; k < emptyings * count; k++) {
    const product = ahead[k]! * each[k]!
    ahead[k + count] = product > NONE ? product : 0
  }
  after.fill(1, emptyings * count)
  for (let k = emptyings * count - 1; k >= 0; k--) {
    const product = after[k + count]! * each[k]!
    after[k] = product > NONE ? product : 0
  }
}

/** Of a change right before emptying `e`, of probability `odds`: what stands after it and stood before; whether it is a rise, and all of it. */
function fillChange(room: Room, jump: Jump, e: number, odds: number): { readonly rise: boolean; readonly all: number } {
  const { ahead, after, landed, left, count } = room
  const start = e * count
  const [before, then] = [stretchOf(ahead, start, count), stretchOf(after, start, count)]
  landed.fill(0, start, start + count)
  left.fill(0, start, start + count)
  jump(ahead, before, landed, then)
  jump(after, then, left, before)
  let all = 0
  let met = 0
  let rose = 0
  for (let i = then.from; i < then.end; i++) {
    const w = landed[start + i]! * odds * after[start + i]!
    landed[start + i] = w
    all += w
    rose += i * w
  }
  for (let i = before.from; i < before.end; i++) {
    const w = left[start + i]! * ahead[start + i]!
    left[start + i] = w
    met += w
  }
  // both sides hold the same, but for what reading between points costs
  const same = met > 0 ? all / met : 0
  for (let i = before.from; i < before.end; i++) {
    left[start + i]! *= same
    rose -= i * left[start + i]!
  }
  return { rise: rose > 0, all }
}

/** Writes into `each` what stands at each emptying, after changes up to it and before those that follow; adds up `next` and `before`. */
function collect(room: Room, unchanged: number, sums: Pick<Sums, 'next' | 'before'>, at: Row): number {
  const { ahead, landed, left, each, count, emptyings } = room
  let mass = 0
  for (let i = 0; i < count; i++) {
    let here = unchanged * ahead[emptyings * count + i]!
    let was = 0
    for (let e = 1; e < emptyings; e++) {
      here += landed[e * count + i]!
      was += left[e * count + i]!
    }
    sums.next[at.from + i * at.step] = here
    sums.before[at.from + i * at.step] = was
    mass += here
    // going back, what came by a change falls away and what it was comes in
    for (let e = emptyings - 1; e >= 0; e--) {
      each[e * count + i] = here
      if (e > 0) here += left[e * count + i]! - landed[e * count + i]!
    }
  }
  return mass
}

/** Sums likelihood times prior over a grid, with and without a change. */
function sumOver({ facts, prior, between }: Question, grid: Grid): Sums {
  const n = facts.length
  const [vs, scatters] = [axisPoints(grid.ratio), axisPoints(grid.logScatter).map(exp)]
  const { count, step } = grid.sum
  const room = makeRoom(n, count)
  const jump = makeJump(grid.sum, CHANGE.sigma)
  const unchanged = (1 - CHANGE.probability) ** max(0, n - 1)
  const changedOnce = CHANGE.probability * (1 - CHANGE.probability) ** (n - 2)
  const next = new Float64Array(vs.length * count * scatters.length)
  const sums = { next, before: new Float64Array(next.length) }
  const changes = facts.map(() => ({ any: 0, rise: 0 }))
  const rarity = facts.map(() => 0)
  let mass = 0
  for (const [j, v] of vs.entries()) {
    const from = grid.sum.from + between(v)
    fillPrior(room, prior, { from, step, count }, v)
    const rows = facts.map((of) => of.map((f) => ({ from: from + f.shift(v), step, count })))
    for (const [s, scatter] of scatters.entries()) {
      room.each.fill(1)
      for (const [e, of] of facts.entries())
        for (const [f, fact] of of.entries())
          multiplyBy(fact, scatter, rows[e]![f]!, room.each.subarray(e * count, (e + 1) * count))
      fillProducts(room, exp(-0.5 * (log(scatter / SCATTER.median) / SCATTER.sigma) ** 2))
      for (let e = 1; e < n; e++) {
        const { rise, all } = fillChange(room, jump, e, changedOnce)
        changes[e]!.any += all
        if (rise) changes[e]!.rise += all
      }
      const at = { from: j * count * scatters.length + s, step: scatters.length, count }
      mass += collect(room, unchanged, sums, at)
      for (const [e, of] of facts.entries())
        for (const [f, fact] of of.entries())
          rarity[e]! +=
            rarityAlong(fact, scatter, rows[e]![f]!, room.each.subarray(e * count, (e + 1) * count)) / of.length
    }
  }
  return { mass, ...sums, changes, rarity }
}

/** The part of an axis in which a share of the whole worth the name lies, a step to either side. */
function trimmed(of: Axis, marginal: Float64Array): readonly [from: number, to: number] {
  const most = marginal.reduce((m, w) => max(m, w), 0)
  const inside = (w: number) => w > most * NOTHING
  const first = marginal.findIndex(inside)
  const last = marginal.findLastIndex(inside)
  const at = (i: number) => of.from + i * of.step
  return [at(max(0, first - 1)), at(min(of.count - 1, last + 1))]
}

/** Marginals of what was summed, along each axis; the sum's before a change too. */
function marginalsOf({ next, before }: Sums, { sum, ratio, logScatter }: Grid) {
  const along = (a: Axis) => new Float64Array(a.count)
  const [u, v, s] = [along(sum), along(ratio), along(logScatter)]
  for (let j = 0, k = 0; j < ratio.count; j++)
    for (let i = 0; i < sum.count; i++)
      for (let l = 0; l < logScatter.count; l++, k++) {
        u[i]! += next[k]! + before[k]!
        v[j]! += next[k]!
        s[l]! += next[k]!
      }
  return { u, v, s }
}

/** An axis of the sum with the points that a narrowest peak of `sigma` asks for. */
const sumAxis = (from: number, to: number, sigma: number, { least, most }: Counts): Axis =>
  axisBetween(from, to, min(most, max(least, 1 + Math.ceil((to - from) / (SUM_STEP * sigma)))))

/** Middles of so many equal parts of what the scatter may be. */
const scatterAxis = (count: number): Axis => {
  const step = (2 * SCATTER_WIDTH * SCATTER.sigma) / count
  return { from: log(SCATTER.median) - SCATTER_WIDTH * SCATTER.sigma + step / 2, step, count }
}

/** A grid over all that prior and emptyings could mean. */
function wholeGrid({ facts, prior, between }: Question): Grid {
  const spread = Math.hypot(prior.oil.sigma, prior.water.sigma)
  const middle = prior.oil.mu - prior.water.mu
  // oil and water told apart may stand further apart than the prior has it
  const apart = facts.flatMap((of) => (of.length === 2 ? [of[0]!.logRatio - of[1]!.logRatio] : []))
  const ratio = axisBetween(
    min(middle - WIDTH * spread, ...apart.map((x) => x - 1)),
    max(middle + WIDTH * spread, ...apart.map((x) => x + 1)),
    WHOLE.ratio + 2 * min(8, apart.length),
  )
  const ends = [ratio.from, middle, ratio.from + ratio.step * (ratio.count - 1)]
  const offsets = facts.flat().flatMap((f) => ends.map((v) => f.logRatio - f.shift(v) - between(v)))
  const level = prior.oil.mu - between(middle)
  const reach = WIDTH * max(prior.oil.sigma, prior.water.sigma)
  const narrowest = (2 * SCATTER.median) / sqrt(1 + facts.length)
  return {
    sum: sumAxis(min(level - reach, ...offsets) - 1, max(level + reach, ...offsets) + 1, narrowest, WHOLE),
    ratio,
    logScatter: scatterAxis(SCATTER_POINTS.rough),
  }
}

/** The part of a grid where anything is, with other points. */
function finerGrid(grid: Grid, sums: Sums, emptyings: number, counts: Counts): Grid {
  const { u, v, s } = marginalsOf(sums, grid)
  const scatters = axisPoints(grid.logScatter)
  const mean = s.reduce((sum, w, k) => sum + w * scatters[k]!, 0) / s.reduce((sum, w) => sum + w, 0)
  return {
    sum: sumAxis(...trimmed(grid.sum, u), exp(mean) / sqrt(max(1, emptyings)), counts),
    ratio: axisBetween(...trimmed(grid.ratio, v), counts.ratio),
    logScatter: grid.logScatter,
  }
}

/** Points that weigh anything, by the logarithms of both multipliers. */
function pointsFrom(
  { next, mass }: Sums,
  { sum, ratio, logScatter }: Grid,
  between: Question['between'],
): PosteriorPoints {
  const [us, vs] = [axisPoints(sum), axisPoints(ratio)]
  const each = logScatter.count
  const [oil, water, weight]: [number[], number[], number[]] = [[], [], []]
  for (let k = 0; k < us.length * vs.length; k++) {
    let here = 0
    for (let s = 0; s < each; s++) here += next[k * each + s]!
    if (here < mass * WEIGHTLESS) continue
    const v = vs[floor(k / us.length)]!
    const o = us[k % us.length]! + between(v)
    oil.push(o)
    water.push(o - v)
    for (let s = 0; s < each; s++) weight.push(next[k * each + s]!)
  }
  const all = weight.reduce((total, w) => total + w, 0)
  return {
    oil: Float64Array.from(oil),
    water: Float64Array.from(water),
    scatter: axisPoints(logScatter).map(exp),
    weight: Float64Array.from(weight, (w) => w / all),
  }
}

/**
 * What emptyings, oldest first, leave of a prior.
 * @param given m3 that cannot be told from a wet wall and the logarithm of what track makes over what the road does
 *
 * @example
 * import { posteriorOf } from '@/core/service/posterior'
 * import { BLANK } from '@/core/service/prior'
 *
 * console.log(posteriorOf([], BLANK, { wetWallM3: 4e-6 }).changes) // []
 */
export function posteriorOf(entries: readonly Emptying[], prior: Prior, given: Given): Posterior {
  // shares of all that was not told apart: by them the sum is straight
  const mixed = entries.filter((e) => e.all)
  const oil = mixed.reduce((sum, e) => sum + e.predicted.oil, 0)
  const all = mixed.reduce((sum, e) => sum + e.predicted.oil + e.predicted.water, 0)
  const share = all > 0 ? oil / all : 1
  const question: Question = {
    facts: entries.map((e) => factsOf(e, given)),
    prior,
    between: (v) => -log(share + (1 - share) * exp(-v)),
  }
  const n = entries.length
  const whole = wholeGrid(question)
  const middle = finerGrid(whole, sumOver(question, whole), n, MIDDLE)
  const fine = finerGrid(middle, sumOver(question, middle), n, FINE)
  const grid = { ...fine, logScatter: scatterAxis(SCATTER_POINTS.fine) }
  const sums = sumOver(question, grid)
  const { s } = marginalsOf(sums, grid)
  const logs = axisPoints(grid.logScatter)
  return {
    logMass: log(sums.mass * grid.sum.step * grid.ratio.step * grid.logScatter.step),
    meanLogScatter: s.reduce((sum, w, k) => sum + w * logs[k]!, 0) / sums.mass,
    changes: sums.changes.map(({ any, rise }) => ({ any: any / sums.mass, rise: rise / sums.mass })),
    rarity: sums.rarity.map((r) => r / sums.mass),
    points: pointsFrom(sums, grid, question.between),
  }
}
