/** A solved state by the names of lines and parts, as gauge pressures. */
import { circleArea } from '@/core/circle'
import { airDensity, GAS_R } from '@/core/gas/air'
import type { OperatingState } from '@/core/engine/states'
import type { Element } from '@/core/network/elements'
import type { Carriage, Oil } from '@/core/separation/carriage'
import { isBoundary } from '../document/kinds'
import type { SolvedRun } from './carriage'
import { nodeOfPart, type Resolved } from './resolve'
import type { Passage, SolvedState } from './results'

const NO_OIL = { mist: 0, splash: 0 }

/** What passes an element, kg/s, between the pressures at its ends, Pa absolute, in gas of a temperature. */
type PassingGas = { readonly flow: number; readonly p1: number; readonly p2: number; readonly gasK: number }

/** What passes an element: kg/s, Pa gauge, and m/s where it is a hose. */
export function passing(e: Element, { flow, p1, p2, gasK }: PassingGas, ambientPa: number) {
  const density = (p1 + p2) / 2 / (GAS_R * gasK)
  const bore = e.kind === 'hose' ? e.boreM : 0
  const velocity = bore > 0 ? Math.abs(flow) / (density * circleArea(bore)) : 0
  return { flow, gaugeFrom: p1 - ambientPa, gaugeTo: p2 - ambientPa, velocity }
}

type Arrived = { gas: number; oil: { mist: number; splash: number } }
type Arriving = { readonly gas: number; readonly oil: Oil; readonly caught: Oil; readonly breathes: boolean }
/** What an element brings to a boundary; nothing where it ends at none. */
function arrive(at: Arrived | undefined, { gas, oil, caught, breathes }: Arriving): void {
  if (!at) return
  at.gas += gas
  if (gas <= 0 && !breathes) return
  at.oil.mist += oil.mist - caught.mist
  at.oil.splash += oil.splash - caught.splash
}

const withoutPlates = ({ topology }: Resolved, cans: Carriage['cans']): Carriage['cans'] =>
  Object.keys(cans).some((id) => topology.baffled.has(id))
    ? Object.fromEntries(Object.entries(cans).filter(([id]) => !topology.baffled.has(id)))
    : cans

/** @param crankcase its joint */
export function stateResultOf(r: Resolved, s: SolvedRun, load: Carriage, crankcase: string): SolvedState {
  const { operating, blowBy, network, solution, ambientPa } = s
  const { pressure, flow, teeLoss, residual, iterations } = solution
  const into: Record<string, Arrived> = {}
  const boundaryAt = new Map<string, string>()
  for (const part of r.variant.parts) {
    if (!isBoundary(part.kind)) continue
    into[part.id] = { gas: 0, oil: { mist: 0, splash: 0 } }
    boundaryAt.set(nodeOfPart(r, part) ?? part.id, part.id)
  }
  const passages: Record<string, Passage> = {}
  for (const e of network.elements) {
    const m = flow[e.id]!
    const oil = load.oil[e.id] ?? NO_OIL
    const ends = { flow: m, p1: pressure[e.from]!, p2: pressure[e.to]!, gasK: operating.gasK }
    const { gaugeFrom, gaugeTo, velocity } = passing(e, ends, ambientPa)
    // written out: it runs for everything in every state of every change
    passages[e.id] = {
      flow: m,
      gaugeFrom,
      gaugeTo,
      velocity,
      teeLoss: teeLoss[e.id],
      oil,
      water: load.water[e.id] ?? 0,
    }
    const caught = load.cans[e.id]?.caught ?? NO_OIL
    // gas that is breathed to and fro carries oil out whichever way the mean runs
    const breathes = (s.exchange?.[e.id] ?? 0) > 0
    arrive(into[boundaryAt.get(e.to) ?? ''], { gas: m, oil, caught, breathes })
    arrive(into[boundaryAt.get(e.from) ?? ''], { gas: -m, oil, caught, breathes })
  }
  const gauge: Record<string, number> = {}
  for (const id in pressure) gauge[id] = pressure[id]! - ambientPa
  for (const [id, joint] of r.topology.renamed) {
    const p = pressure[joint]
    if (p !== undefined) gauge[id] = p - ambientPa
  }
  return {
    id: operating.id,
    operating,
    blowBy,
    solved: true,
    crankcaseGauge: pressure[crankcase]! - ambientPa,
    gauge,
    passages,
    // plates under a cover catch too, but are no can that fills
    cans: withoutPlates(r, load.cans),
    into,
    residual,
    iterations,
  }
}

/** Mean density of gas in a state at a gauge pressure, for screens that show actual volumes. */
export const gasDensity = (state: OperatingState, gaugePa: number, ambientPa: number): number =>
  airDensity(ambientPa + gaugePa, state.gasK)
