/** How a separator's return drains in the bay as it was measured: fall, traps, and the oil column that each state holds up. */
import type { StateId } from '@/core/engine/states'
import { drainOf } from '@/core/drain/drain'
import { profileOf, type Point, type Profile } from '@/core/drain/profile'
import { oilDensity, oilViscosity } from '@/core/gas/oil'
import type { Build, Line, Variant } from '../document/schema'
import type { SolvedState, StateResult } from '../model/results'
import { isSolved } from '../model/results'
import { wayOf } from './lay'

/** Kinematic viscosity of an ordinary engine oil at 40 and 100 C, mm2/s (SAE J300 grade 40, typical). */
const [NU_40, NU_100] = [95, 14]

export type DrainState = {
  readonly id: StateId
  /** oil that suction holds up, m; head that is left, m; what a full hose lets down, m3/s */
  readonly columnM: number
  readonly headM: number
  readonly capacity: number
}
export type BayDrain = {
  readonly line: Line
  /** from the separator's floor to the return */
  readonly way: readonly Point[]
  readonly profile: Profile
  readonly states: readonly DrainState[]
}

function stateOf(s: SolvedState, can: string, line: Line, profile: Profile, lengthM: number): DrainState {
  const end = line.from.part === can ? line.to : line.from
  const at = s.gauge[`${end.part}.${end.port}`] ?? s.gauge[end.part] ?? 0
  const { columnM, headM, capacity } = drainOf({
    returnPa: at,
    canPa: s.gauge[`${can}.in`] ?? 0,
    oilDensity: oilDensity(s.operating.oilK),
    viscosity: oilViscosity(s.operating.oilK, NU_40, NU_100),
    boreM: line.boreMm / 1000,
    lengthM,
    heightM: profile.fallM,
  })
  return { id: s.id, columnM, headM, capacity }
}

/** The drain of a separator in every state that has an answer; undefined while its ends are not measured. */
export function drainInBay(
  build: Build,
  variant: Variant,
  states: readonly StateResult[],
  can: string,
): BayDrain | undefined {
  const line = variant.lines.find((l) => l.kind === 'drain' && (l.from.part === can || l.to.part === can))
  const points = line && wayOf(build.bay, variant, line)
  if (!line || !points || !(line.boreMm > 0)) return undefined
  const way = line.from.part === can ? points : points.toReversed()
  const lengthM = way.slice(1).reduce((sum, p, i) => sum + Math.hypot(...p.map((v, k) => v - way[i]![k]!)), 0)
  if (!(lengthM > 0)) return undefined
  const profile = profileOf(way, line.boreMm / 1000)
  return {
    line,
    way,
    profile,
    states: states.filter(isSolved).map((s) => stateOf(s, can, line, profile, lengthM)),
  }
}

/** Whether a measured return lets nothing down in any state: what it serves is then a can like any other. */
export function neverDrains(build: Build, variant: Variant, states: readonly StateResult[], can: string): boolean {
  const drain = drainInBay(build, variant, states, can)
  return drain !== undefined && drain.states.length > 0 && drain.states.every((s) => s.headM <= 0)
}
