/** How a separator's return drains in the bay as it was measured: fall, traps, and the oil column that each state holds up. */
import type { StateId } from '@/core/engine/states'
import { drainOf } from '@/core/drain/drain'
import { profileOf, type Point3, type Profile } from '@/core/drain/profile'
import { oilDensity, OIL_POURED, oilViscosity } from '@/core/gas/oil'
import type { Build, Line, Variant } from '../document/schema'
import type { SolvedState, StateResult } from '../model/results'
import { isSolved, oilSum } from '../model/results'
import { wayOf } from './lay'

/** Kinematic viscosity of an ordinary engine oil at 40 and 100 C, mm2/s (SAE J300 grade 40, typical). */
const [NU_40, NU_100] = [95, 14]

export type DrainState = {
  readonly id: StateId
  /** oil that suction holds up, m; head that is left, m; what a full hose lets down, m3/s */
  readonly columnM: number
  readonly headM: number
  readonly capacity: number
  /** the same of oil at 0 C, and what is gathered in this state, m3/s */
  readonly coldCapacity: number
  readonly gathered: number
}
export type BayDrain = {
  readonly line: Line
  /** from the separator's floor to the return */
  readonly way: readonly Point3[]
  readonly profile: Profile
  /** oil that stands in the hose since its end lies below the pan's level, m3; 0 where it does not, or the level is not known */
  readonly standsM3: number
  readonly states: readonly DrainState[]
}

const COLD_K = 273.15

type DrainSize = { readonly heightM: number; readonly lengthM: number }
function stateOf(s: SolvedState, can: string, line: Line, { heightM, lengthM }: DrainSize): DrainState {
  const end = line.from.part === can ? line.to : line.from
  const at = s.gauge[`${end.part}.${end.port}`] ?? s.gauge[end.part] ?? 0
  const at0 = (oilK: number) =>
    drainOf({
      returnPa: at,
      canPa: s.gauge[`${can}.in`] ?? 0,
      oilDensity: oilDensity(oilK),
      viscosity: oilViscosity(oilK, NU_40, NU_100),
      boreM: line.boreMm / 1000,
      lengthM,
      heightM,
    })
  const { columnM, headM, capacity } = at0(s.operating.oilK)
  const gathered = oilSum(s.cans[can]?.caught) / OIL_POURED
  return { id: s.id, columnM, headM, capacity, coldCapacity: at0(COLD_K).capacity, gathered }
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
  // what ends below the pan's oil ends at its level
  const home = line.from.part === can ? line.to : line.from
  const inPan = variant.parts.find((p) => p.id === home.part)?.kind === 'crankcase'
  const levelMm = inPan ? build.bay?.oilLevelMm : undefined
  const under = levelMm === undefined ? 0 : Math.max(0, levelMm / 1000 - way.at(-1)![2])
  return {
    line,
    way,
    profile,
    standsM3: under > 0 ? lengthBelow(way, way.at(-1)![2] + under) * (Math.PI / 4) * (line.boreMm / 1000) ** 2 : 0,
    states: states.filter(isSolved).map((s) => stateOf(s, can, line, { heightM: profile.fallM - under, lengthM })),
  }
}

/** How much of a way lies below a height, m. */
function lengthBelow(way: readonly Point3[], level: number): number {
  return way.slice(1).reduce((sum, p, i) => {
    const from = way[i]!
    const [low, high] = [Math.min(from[2], p[2]), Math.max(from[2], p[2])]
    const share = high <= level ? 1 : low >= level ? 0 : (level - low) / (high - low)
    return sum + share * Math.hypot(...p.map((v, k) => v - from[k]!))
  }, 0)
}

/** How a separator drains where it was measured, in a word; undefined where it was not. */
export function drainWord(
  build: Build,
  variant: Variant,
  states: readonly StateResult[],
  can: string,
): 'drains' | 'drains at times' | 'never drains' | undefined {
  const drain = drainInBay(build, variant, states, can)
  if (!drain || drain.states.length === 0) return undefined
  const draining = drain.states.filter((s) => s.headM > 0).length
  return draining === 0 ? 'never drains' : draining < drain.states.length ? 'drains at times' : 'drains'
}

/** Whether a measured return lets nothing down in any state: what it serves is then a can like any other. */
export function neverDrains(build: Build, variant: Variant, states: readonly StateResult[], can: string): boolean {
  return drainWord(build, variant, states, can) === 'never drains'
}
