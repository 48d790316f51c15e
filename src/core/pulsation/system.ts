/** A network whose spaces have volume and whose hoses have the inertia of their gas, as ordinary differential equations in time. */
import { circleArea } from '../circle'
import { flowLaw } from '../network/flow'
import { hoseDrop, hoseTerms, type Drop } from '../network/hose-law'
import type { Flow, Law } from '../network/law'
import type { Hose, Network } from '../network/elements'

/** Volume in m3 and its slope in m3/s at a time, written into `out`. */
export type Volume = (time: number, out: { volume: number; slope: number }) => void

export type PulseNetwork = {
  readonly network: Network
  /** m3 of each free node; a node left out gets the least */
  readonly volumes: Readonly<Record<string, number>>
  /** the space that changes: its node, and its volume in time */
  readonly pumped?: { readonly node: string; readonly at: Volume }
  /** polytropic index of the gas in the spaces: gamma where a turn leaves no time for heat to pass */
  readonly index: number
  /** pressure of the surroundings, Pa: what the gas is compressed from. Left out: the mean of what is held */
  readonly referencePa?: number
}

/** A joint of hoses alone still holds a little gas, m3. */
const LEAST_VOLUME = 2e-6

type Inertial = {
  readonly row: number
  readonly i: number
  readonly j: number
  readonly perMass: number
  readonly loss: (m: number, out: Drop) => void
  /** of a flow that runs back, where its ends make that another */
  readonly lossBack: ((m: number, out: Drop) => void) | undefined
}
type Quasi = { readonly law: Law; readonly i: number; readonly j: number }

export type PulseSystem = {
  readonly size: number
  readonly start: Float64Array
  readonly nodeRow: ReadonlyMap<string, number>
  readonly hoseRow: ReadonlyMap<string, number>
  /** dy/dt into `f` and its Jacobian, by rows, into `J` */
  readonly slope: (time: number, y: Float64Array, f: Float64Array, J: Float64Array) => void
  /** flow in kg/s through element `id`, from `from` to `to` */
  readonly flow: (id: string, y: Float64Array) => number
}

/**
 * Gas in a space follows p = p0 (rho R T/p0)^n, with p0 that of the surroundings, so that mass is kept whatever n is and no heat piles up:
 * dp/dt = (n (p/rho) sum(m) - n p dV/dt) / V, p/rho = R T (p/p0)^(1 - 1/n). Flow in each hose: dm/dt = A/L (p1 - p2 -
 * drop/(p1 + p2)), its length
 * with 0.8 bores for the gas that moves at its ends (Kinsler et al., Fundamentals of Acoustics: 0.6 radii an open end, 0.85 a flanged one).
 * Valves, holes, cans and filters follow at once.
 */
export function pulseSystem(input: PulseNetwork): PulseSystem {
  const { network, index: n } = input
  const { R, T } = network.gas
  const ids = Object.keys(network.nodes)
  const free = ids.filter((id) => network.nodes[id]!.p === undefined)
  const nodeRow = new Map(free.map((id, k) => [id, k]))
  const held = ids.filter((id) => network.nodes[id]!.p !== undefined)
  const at = new Map([...free, ...held].map((id, k) => [id, k]))
  const hoses = network.elements.filter((e): e is Hose => e.kind === 'hose' && e.boreM > 0)
  const hoseRow = new Map(hoses.map((h, k) => [h.id, free.length + k]))
  const size = free.length + hoses.length
  const fixed = Float64Array.from(held, (id) => network.nodes[id]!.p!)
  const source = Float64Array.from(free, (id) => network.nodes[id]!.source ?? 0)
  const still = Float64Array.from(free, (id) => Math.max(LEAST_VOLUME, input.volumes[id] ?? 0))
  const pumped = input.pumped ? nodeRow.get(input.pumped.node) : undefined
  const inertial: Inertial[] = hoses.map((h) => ({
    row: hoseRow.get(h.id)!,
    i: at.get(h.from)!,
    j: at.get(h.to)!,
    perMass: circleArea(h.boreM) / (h.lengthM + 0.8 * h.boreM),
    loss: hoseDrop(hoseTerms(h, network.gas)),
    lossBack: h.kBack === undefined ? undefined : hoseDrop(hoseTerms({ ...h, kFixed: h.kBack }, network.gas)),
  }))
  const quasi = new Map<string, Quasi>(
    network.elements
      .filter((e) => !hoseRow.has(e.id))
      .map((e) => [e.id, { law: flowLaw(e, network.gas).at, i: at.get(e.from)!, j: at.get(e.to)! }]),
  )
  const links = [...quasi.values()]
  const out: Flow = { m: 0, d1: 0, d2: 0 }
  const loss: Drop = { drop: 0, slope: 0 }
  const space = { volume: 0, slope: 0 }
  const pressure = (y: Float64Array, k: number) => (k < free.length ? y[k]! : fixed[k - free.length]!)
  const held0 = held.length > 0 ? fixed.reduce((s, p) => s + p, 0) / held.length : 101325
  const reference = input.referencePa ?? held0
  const start = new Float64Array(size)
  start.fill(reference, 0, free.length)

  return {
    size,
    start,
    nodeRow,
    hoseRow,
    slope(time, y, f, J) {
      f.fill(0)
      J.fill(0)
      for (let k = 0; k < free.length; k++) f[k] = source[k]!
      // mass into each space, kg/s
      for (const { law, i, j } of links) {
        law(Math.max(1, pressure(y, i)), Math.max(1, pressure(y, j)), out)
        if (i < free.length) {
          f[i]! -= out.m
          J[i * size + i]! -= out.d1
          if (j < free.length) J[i * size + j]! -= out.d2
        }
        if (j < free.length) {
          f[j]! += out.m
          J[j * size + j]! += out.d2
          if (i < free.length) J[j * size + i]! += out.d1
        }
      }
      for (const h of inertial) {
        const m = y[h.row]!
        if (h.i < free.length) {
          f[h.i]! -= m
          J[h.i * size + h.row]! -= 1
        }
        if (h.j < free.length) {
          f[h.j]! += m
          J[h.j * size + h.row]! += 1
        }
        const [p1, p2] = [pressure(y, h.i), pressure(y, h.j)]
        const sum = Math.max(1, p1 + p2)
        if (m < 0 && h.lossBack) h.lossBack(-m, loss)
        else h.loss(Math.abs(m), loss)
        f[h.row] = h.perMass * (p1 - p2 - (Math.sign(m) * loss.drop) / sum)
        J[h.row * size + h.row] = (-h.perMass * loss.slope) / sum
        const bend = (Math.sign(m) * loss.drop) / (sum * sum)
        if (h.i < free.length) J[h.row * size + h.i]! += h.perMass * (1 + bend)
        if (h.j < free.length) J[h.row * size + h.j]! += h.perMass * (-1 + bend)
      }
      // and what that does to pressure
      for (let k = 0; k < free.length; k++) {
        let volume = still[k]!
        let change = 0
        if (k === pumped) {
          input.pumped!.at(time, space)
          volume = space.volume
          change = space.slope
        }
        const p = Math.max(1, y[k]!)
        const gain = (n * R * T * (p / reference) ** (1 - 1 / n)) / volume
        const mass = f[k]!
        f[k] = gain * mass - (n * p * change) / volume
        for (let c = 0; c < size; c++) J[k * size + c]! *= gain
        J[k * size + k]! += ((gain * (1 - 1 / n)) / p) * mass - (n * change) / volume
      }
    },
    flow(id, y) {
      const row = hoseRow.get(id)
      if (row !== undefined) return y[row]!
      const link = quasi.get(id)
      if (!link) return 0
      link.law(Math.max(1, pressure(y, link.i)), Math.max(1, pressure(y, link.j)), out)
      return out.m
    },
  }
}
