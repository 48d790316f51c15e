/**
 * What manometer readings say of the estimates: each draw of them is weighted by how well it explains the readings (importance sampling:
 * Gelman et al., Bayesian Data Analysis, 10.4). A draw that no reading rules out counts in full, one far from them not at all.
 */
import type { StateId } from '@/core/engine/states'
import type { Range } from '@/core/service/learn'
import { toSi } from '@/core/units/units'
import type { Build, LogEntry } from '../document/schema'

/** How far a gauge at the dipstick tube may be off, Pa, and in proportion (estimates, one standard deviation). */
const GAUGE_PA = 40
const GAUGE_SHARE = 0.08
/** Error of a gauge that reads so much, Pa, one standard deviation. */
export const gaugeError = (gaugePa: number): number => Math.hypot(GAUGE_PA, GAUGE_SHARE * gaugePa)
/** With less than this many draws' worth of weight left, the readings fit nothing that was thought possible. */
const LEAST_WEIGHT = 8

export type Reading = {
  readonly id: string
  readonly state: StateId
  readonly gaugePa: number
  readonly date: string
}

/** The last reading in each state, made with the active plan fitted. */
export function readingsOf(build: Build): readonly Reading[] {
  const last = new Map<StateId, Reading>()
  const made = (e: LogEntry) => (e.plan ?? build.variants[0]!.id) === build.active
  for (const e of build.log.toSorted((a, b) => a.odometerKm - b.odometerKm))
    if (e.kind === 'reading' && e.reading && made(e)) {
      const { state, kpa } = e.reading
      last.set(state, { id: e.id, state, gaugePa: toSi('pressure', kpa, 'kPa'), date: e.date })
    }
  return [...last.values()]
}

export type Weighed = {
  /** sums to 1 */
  readonly weight: Float64Array
  /** draws' worth of weight that is left */
  readonly worth: number
  /** readings that no draw comes near, each on its own */
  readonly strange: readonly Reading[]
}

/**
 * Weights of draws by the readings.
 * @param gaugeOf crankcase of each draw in a state, Pa gauge; NaN where it has no answer
 * @returns undefined without readings that can be compared
 */
export function weigh(
  readings: readonly Reading[],
  gaugeOf: (state: StateId) => Float64Array | undefined,
  draws: number,
): Weighed | undefined {
  const log = new Float64Array(draws)
  const strange: Reading[] = []
  let compared = 0
  for (const r of readings) {
    const gauge = gaugeOf(r.state)
    if (!gauge) continue
    compared++
    const sigma = gaugeError(r.gaugePa)
    let nearest = Infinity
    for (let k = 0; k < draws; k++) {
      const off = (gauge[k]! - r.gaugePa) / sigma
      log[k]! -= Number.isNaN(off) ? Infinity : (off * off) / 2
      if (Math.abs(off) < nearest) nearest = Math.abs(off)
    }
    if (nearest > 2) strange.push(r)
  }
  if (compared === 0) return undefined
  const most = log.reduce((m, v) => Math.max(m, v), -Infinity)
  const weight = log.map((v) => (most === -Infinity ? 1 : Math.exp(v - most)))
  const sum = weight.reduce((s, v) => s + v, 0)
  const square = weight.reduce((s, v) => s + v * v, 0)
  return { weight: weight.map((v) => v / sum), worth: (sum * sum) / square, strange }
}

/** Whether the readings agree with each other and with the plan, within what was thought possible. */
export const fits = (w: Weighed): boolean => w.strange.length === 0 && w.worth >= LEAST_WEIGHT

/** 10, 50 and 90 % points of weighted values. @example weightedRange([1, 2, 3], [1 / 3, 1 / 3, 1 / 3]).mid // 2 */
export function weightedRange(values: ArrayLike<number>, weight: ArrayLike<number>): Range {
  const order = Array.from({ length: values.length }, (_, k) => k)
    .filter((k) => weight[k]! > 0 && !Number.isNaN(values[k]!))
    .toSorted((a, b) => values[a]! - values[b]!)
  const sum = order.reduce((s, k) => s + weight[k]!, 0)
  const at = (q: number) => {
    let below = 0
    for (const k of order) {
      below += weight[k]!
      if (below >= q * sum) return values[k]!
    }
    return values[order.at(-1) ?? 0] ?? 0
  }
  return { low: at(0.1), mid: at(0.5), high: at(0.9) }
}
