/** How far the answers may be off, since inputs are estimated: everything worked out again for a thousand draws of them. */
import type { Job } from '@/core/job'
import type { StateId } from '@/core/engine/states'
import { normalQuantile } from '@/core/service/calibrate'
import type { Range } from '@/core/service/fill'
import { solveNetwork } from '@/core/network/solve'
import { quantile, uniforms } from '@/core/random'
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { blowByIn, engineModel } from '../model/engine'
import { crankcaseNode, networkOf, topologyOf } from '../model/network'
import { uncertainInputs } from './uncertain'

export type Share = {
  readonly id: string
  readonly name: string
  readonly measure: string
  readonly range: string
  /** part of the spread that this input makes, 0-1 */ readonly share: number
}
export type StateRange = {
  readonly id: StateId
  /** gauge, Pa: the 10, 50 and 90 % points */
  readonly crankcase: Range
  readonly blowBy: Range
  /** chance that the crankcase stands above the surroundings */
  readonly above: number
  /** inputs by how much of the crankcase's spread they make, most first */
  readonly shares: readonly Share[]
}
export type Ranges = {
  readonly states: readonly StateRange[]
  readonly draws: number
  /** draws that had no answer, of draws x states */ readonly failed: number
}

export const DRAWS = 1000
const SEED = 20_260_701

/**
 * Seeded Monte Carlo over the estimated inputs, all states. Yields the share done, so that a worker can report and be stopped.
 * An input's share is its squared correlation with the crankcase pressure: what knowing it would take from the variance.
 */
export function* ranges(build: Build, draws = DRAWS): Job<Ranges> {
  const variant = activeVariant(build)
  const topology = topologyOf(variant)
  const inputs = uncertainInputs(build)
  const base = engineModel(build)
  const node = crankcaseNode(variant, topology)
  if (node === undefined) return { states: [], draws: 0, failed: 0 }
  const nominal = base.states.map((s) => solveNetwork(networkOf(variant, topology, s, base.amb, blowByIn(base, s))))
  const draw = uniforms(SEED)
  const z = inputs.map(() => new Float64Array(draws))
  const gauge = base.states.map(() => new Float64Array(draws).fill(Number.NaN))
  const flow = base.states.map(() => new Float64Array(draws))
  let failed = 0
  for (let k = 0; k < draws; k++) {
    let moved = build
    let blowByFactor = 1
    inputs.forEach((input, i) => {
      // +-3 standard deviations: a seat twice its size is another seat
      const at = Math.max(-3, Math.min(3, normalQuantile(draw())))
      z[i]![k] = at
      moved = input.move(moved, at)
      blowByFactor *= input.blowBy?.(at) ?? 1
    })
    const model = engineModel(moved)
    const changed = activeVariant(moved)
    model.states.forEach((s, i) => {
      const blowBy = blowByIn(model, s) * blowByFactor
      const from = nominal[i]!
      const solved = solveNetwork(
        networkOf(changed, topology, s, model.amb, blowBy),
        from.ok ? from.value.pressure : undefined,
      )
      flow[i]![k] = blowBy
      if (solved.ok) gauge[i]![k] = solved.value.pressure[node]! - model.amb.pressurePa
      else failed++
    })
    if (k % 20 === 19) yield (k + 1) / draws
  }
  const band = (sorted: Float64Array): Range => ({
    low: quantile(sorted, 0.1),
    mid: quantile(sorted, 0.5),
    high: quantile(sorted, 0.9),
  })
  return {
    draws,
    failed,
    states: base.states.map((s, i) => {
      const known = [...gauge[i]!.keys()].filter((k) => !Number.isNaN(gauge[i]![k]!))
      const values = Float64Array.from(known, (k) => gauge[i]![k]!)
      const shares = inputs.map((input, n) => ({
        id: input.id,
        name: input.name,
        measure: input.measure,
        range: input.range,
        share:
          correlation(
            Float64Array.from(known, (k) => z[n]![k]!),
            values,
          ) ** 2,
      }))
      return {
        id: s.id,
        crankcase: band(values.toSorted()),
        blowBy: band(flow[i]!.toSorted()),
        above: values.reduce((sum, v) => sum + (v > 0 ? 1 : 0), 0) / Math.max(1, values.length),
        shares: shares.toSorted((a, b) => b.share - a.share),
      }
    }),
  }
}

/** Pearson's correlation; 0 where one of them does not move. */
function correlation(a: Float64Array, b: Float64Array): number {
  const mean = (v: Float64Array) => v.reduce((s, x) => s + x, 0) / Math.max(1, v.length)
  const [ma, mb] = [mean(a), mean(b)]
  let [ab, aa, bb] = [0, 0, 0]
  for (let i = 0; i < a.length; i++) {
    ab += (a[i]! - ma) * (b[i]! - mb)
    aa += (a[i]! - ma) ** 2
    bb += (b[i]! - mb) ** 2
  }
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0
}
