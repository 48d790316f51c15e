/** Crankcase pulsation, integrated turn by turn until every turn is like the last. */
import type { Job } from '../job'
import { fail, ok, type Result } from '../result'
import { accelerator } from '../fixed-point'
import { stepper } from './integrate'
import { pulseSystem, type PulseNetwork } from './system'

export type Pulsation = {
  /** Pa absolute in the pumped space at each degree of the last turn, after the first piston's top dead centre */
  readonly pressure: Float64Array
  readonly peak: number
  readonly mean: number
  readonly least: number
  /** Pa absolute by joint, averaged over the turn */
  readonly means: Readonly<Record<string, number>>
  /** by element: kg/s averaged over the turn, told apart by direction, and the largest of either */
  readonly flows: Readonly<
    Record<string, { readonly onwards: number; readonly backwards: number; readonly largest: number }>
  >
  readonly turns: number
  /** largest pressure difference, Pa, between the last turn's beginning and end */
  readonly drift: number
}

const DEGREES = 360
/** Turns quickened, then turns followed plainly from the start, by turns: where valves chatter a jump may lead astray. */
const [QUICKENED, PLAIN] = [60, 140]
const MOST_TURNS = 600
/** Room below the least that valves and pistons can bring about. */
const SLACK = 0.95
/** A turn counts as like the last when no pressure ends further from where it began, Pa. */
const PERIODIC_PA = 0.3
/** Pa that a kg/s counts for: a difference of 1e-6 kg/s is about one of a pascal. */
const FLOW_WEIGHT = 1e6

/**
 * What no mean pressure can fall below: the lowest place that the gas can go to, thinned by the pistons' own swing. A jump below it is
 * astray, and would be long in filling up again. A pump draws as low as it likes.
 */
function leastPressure({ network, pumped, index }: PulseNetwork, period: number): number {
  if (network.elements.some((e) => e.kind === 'pump')) return 0
  const held = Object.values(network.nodes).flatMap((n) => (n.p === undefined ? [] : [n.p]))
  const space = { volume: 1, slope: 0 }
  const volumes = Array.from({ length: 36 }, (_, k) => {
    pumped?.at((period * k) / 36, space)
    return space.volume
  })
  return SLACK * Math.min(...held, 1e6) * (Math.min(...volumes) / Math.max(...volumes)) ** index
}

/**
 * @param input its time must be one turn long at `rpm`: volumes repeat with the crank
 * @returns mean, peak and flows of the periodic turn; or the reason why there is none. Yields the share done.
 *
 * @example
 * import { finish } from '@/core/job'
 * import { pulsate } from '@/core/pulsation/pulsation'
 *
 * const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
 * console.log(
 *   finish(
 *     pulsate(
 *       {
 *         network: {
 *           gas,
 *           nodes: { a: {}, b: { p: 101325 } },
 *           elements: [{ id: 'o', kind: 'orifice', from: 'a', to: 'b', cd: 0.62, areaM2: 1e-4 }],
 *         },
 *         volumes: { a: 2e-3 },
 *         index: 1.3,
 *       },
 *       3000,
 *     ),
 *   ).ok,
 * ) // true
 */
export function* pulsate(input: PulseNetwork, rpm: number): Job<Result<Pulsation>> {
  const node = input.pumped?.node
  const system = pulseSystem(input)
  const row = node === undefined ? 0 : system.nodeRow.get(node)
  if (row === undefined || !(rpm > 0)) return fail('There is no crankcase that is free to pulsate.')
  const nodes = system.nodeRow.size
  const tolerance = Float64Array.from({ length: system.size }, (_, i) => (i < nodes ? 1e-3 : 1e-9))
  const step = stepper(system.slope, system.size, tolerance)
  const period = 60 / rpm
  const h = period / DEGREES
  const y = system.start.slice()
  const begin = new Float64Array(system.size)
  const quickener = () =>
    accelerator(
      system.size,
      Float64Array.from({ length: system.size }, (_, i) => (i < nodes ? 1 : FLOW_WEIGHT)),
    )
  let next = quickener()
  const least = leastPressure(input, period)
  let first = 0
  let drift = Infinity
  const runTurn = (see?: (degree: number) => void): boolean => {
    for (let d = 0; d < DEGREES; d++) {
      see?.(d)
      if (!step(d * h, h, y)) return false
      for (let k = 0; k < nodes; k++) if (!(y[k]! > 0 && y[k]! < 1e8)) return false
    }
    return true
  }
  const stalled = fail(
    'The gas could not be followed through a turn: a space or a size in this circuit is out of all proportion.',
  )
  let turns = 0
  while (turns < MOST_TURNS) {
    begin.set(y)
    if (!runTurn()) return stalled
    turns++
    drift = 0
    for (let k = 0; k < nodes; k++) drift = Math.max(drift, Math.abs(y[k]! - begin[k]!))
    first = Math.max(first, drift)
    if (drift < PERIODIC_PA) break
    const round = turns % (QUICKENED + PLAIN)
    if (round < QUICKENED) {
      const jump = next(begin, y)
      // a jump that leaves what gas can be is not taken
      if (jump.subarray(0, nodes).every((p, k) => p > y[k]! / 3 && p < y[k]! * 3 && p > least)) y.set(jump)
    } else if (round === QUICKENED) {
      // from the surroundings down the pistons pump it out in a few turns; from below it fills by blow-by alone
      y.set(system.start)
      next = quickener()
    }
    yield Math.min(
      0.95,
      Math.max(turns / MOST_TURNS, Math.log(first / Math.max(drift, PERIODIC_PA)) / Math.log(first / PERIODIC_PA)),
    )
  }
  if (drift >= PERIODIC_PA)
    return fail(
      `Not periodic: after ${turns} turns a pressure still changes by ${Math.round(drift)} Pa a turn. Nothing is shown rather than a wrong number.`,
    )
  const pressure = new Float64Array(DEGREES)
  const sums: Record<string, { onwards: number; backwards: number; largest: number }> = {}
  for (const e of input.network.elements) sums[e.id] = { onwards: 0, backwards: 0, largest: 0 }
  const means: Record<string, number> = {}
  for (const [id, joint] of Object.entries(input.network.nodes)) means[id] = joint.p ?? 0
  const watched = runTurn((d) => {
    pressure[d] = y[row]!
    for (const [id, k] of system.nodeRow) means[id]! += y[k]! / DEGREES
    for (const e of input.network.elements) {
      const m = system.flow(e.id, y)
      const s = sums[e.id]!
      if (m > 0) s.onwards += m / DEGREES
      else s.backwards -= m / DEGREES
      s.largest = Math.max(s.largest, Math.abs(m))
    }
  })
  if (!watched) return stalled
  return ok({
    pressure,
    peak: Math.max(...pressure),
    least: Math.min(...pressure),
    mean: pressure.reduce((s, p) => s + p, 0) / DEGREES,
    means,
    flows: sums,
    turns: turns + 1,
    drift,
  })
}
