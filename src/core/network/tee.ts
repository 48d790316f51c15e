/**
 * What a tee costs by how its flow splits. All flow is gathered in one leg, the combined one; every other leg stands at another pressure
 * than it, by a loss straight on or round the corner.
 */
import type { Tee } from './elements'

/** A leg of a tee: kg/s into it (negative: out of it) and the area of its bore, m2. The first two run straight through, others branch off. */
export type TeeLeg = { readonly into: number; readonly areaM2: number }

/** Share of the combined flow within which another leg may become the combined one. */
const STEP_SHARE = 0.1
/** The tables' factor of a combining branch falls from 0.9 (1 - q) to 0.55 at q = 0.4: gone over within this share. */
const CORNER_STEP = 0.005

/** Factor of a branch that joins: 1 where its area is up to 0.35 of the run's. */
function joiningFactor(share: number, areas: number): number {
  if (areas >= 1 / 0.35) return 1
  const falling = 0.9 * (1 - share)
  if (share <= 0.4) return falling
  const beyond = Math.min(1, (share - 0.4) / CORNER_STEP)
  return falling + beyond * (0.55 - falling)
}

/**
 * Loss of a leg of a tee at 90 degrees, in heads of the combined leg: `share` of the flow in it. Below zero where the stream sucks: an idle
 * branch stands about a head below the run that passes it.
 * - into the run: branch C (1 + (q a)^2 - 2 (1 - q)^2), q the branch's share, C 0.9 (1 - q) to q = 0.4, then 0.55 (1 where the branch is up to
 *   0.35 of the run); straight 1.55 q - q^2;
 * - out of the run: branch (1 + 0.3 q^2)^2 at equal bores, 1 + (q a)^2 at up to half the run's area, between them straight in the areas to
 *   0.8, so that nothing jumps; straight 2 (2 q - 1) q^2 to q = 0.5, then 0.3 (2 q - 1) q^2, 0.4 q^2 for a branch up to 0.4 of the run's bore
 *   (Crane, Technical Paper 410, 2009, 2-14 to 2-16; from memory);
 * - two run legs that meet and leave by the branch: 1 + a^2 (1 + 3 (x^2 - x)); parted from it: 1 + 0.3 (x a)^2 (Idelchik, Handbook of
 *   Hydraulic Resistance, ch. 7; from memory).
 *
 * @param areas of the run over that of the branch; where the branch is the combined leg, of the branch over that of the run
 *
 * @example
 * import { headsLost } from '@/core/network/tee'
 *
 * console.log(headsLost('straight', true, 0.75, 1)) // 0.325
 */
export function headsLost(
  way: 'straight' | 'corner' | 'facing',
  gathers: boolean,
  share: number,
  areas: number,
): number {
  const velocities = share * areas
  if (way === 'facing')
    return gathers ? 1 + areas * areas * (1 + 3 * share * (share - 1)) : 1 + 0.3 * velocities * velocities
  if (way === 'straight') {
    const branched = 1 - share
    if (gathers) return 1.55 * branched - branched * branched
    if (areas >= 1 / 0.16) return 0.4 * branched * branched
    return (branched <= 0.5 ? 2 : 0.3) * (2 * branched - 1) * branched * branched
  }
  if (gathers) return joiningFactor(share, areas) * (1 + velocities * velocities - 2 * (1 - share) ** 2)
  const narrow = 1 + velocities * velocities
  const even = (1 + 0.3 * share * share) ** 2
  const blend = Math.min(1, Math.max(0, (1 / areas - 0.5) / 0.3))
  return narrow + blend * (even - narrow)
}

/** Pressure of each leg over that of the first, Pa, with all flow gathered in the leg `most`. */
function against(legs: readonly TeeLeg[], most: number, density: number): number[] {
  const all = legs[most]!
  if (all.into === 0) return legs.map(() => 0)
  const gathers = all.into < 0
  const runs = (i: number) => i < 2
  // runs of two bores by the larger
  const run = Math.max(legs[0]!.areaM2, legs[1]!.areaM2)
  const head = (all.into / (runs(most) ? run : all.areaM2)) ** 2 / (2 * density)
  const branches = legs.filter((_, i) => !runs(i))
  // a run that goes on sees the branch that takes or gives most
  const branch = branches.reduce((b, leg) => (Math.abs(leg.into) > Math.abs(b?.into ?? -1) ? leg : b), branches[0])
  // a leg that runs with the combined one (two feed a third, seen from the lesser) is about to be idle
  const shares = legs.map((leg) => Math.min(1, Math.max(0, -leg.into / all.into)))
  const lost = legs.map((leg, i) => {
    if (i === most) return 0
    const way = !runs(i) ? 'corner' : runs(most) ? 'straight' : 'facing'
    const other = way === 'corner' ? leg : way === 'straight' ? branch : undefined
    const areas = other ? (runs(most) ? run : all.areaM2) / other.areaM2 : all.areaM2 / run
    return headsLost(way, gathers, shares[i]!, areas)
  })
  // one stream may gain what the other loses, never both together
  const gained = Math.min(
    0,
    lost.reduce((sum, k, i) => sum + shares[i]! * k, 0),
  )
  const over = lost.map((k, i) => (i === most ? 0 : (gathers ? head : -head) * (k - gained)))
  return over.map((p) => p - over[0]!)
}

/**
 * Pressure of each leg of a tee over that of its first, Pa (total pressures, as joints of a network have them). Where a third leg turns from
 * giving to taking, another leg becomes the combined one and the tables have a step: within a tenth of the flow it is gone over. Where all
 * goes one way, from a run into the branch or back, the run is the combined leg.
 *
 * @example
 * import { teePressures } from '@/core/network/tee'
 *
 * console.log(
 *   teePressures(
 *     [
 *       { into: 1e-3, areaM2: 1e-4 },
 *       { into: -1e-3, areaM2: 1e-4 },
 *       { into: 0, areaM2: 1e-4 },
 *     ],
 *     1,
 *   ),
 * ) // [ 0, 0, -47.5 ]
 */
export function teePressures(legs: readonly TeeLeg[], density: number): number[] {
  const size = (i: number) => Math.abs(legs[i]!.into)
  const [most, next] = legs.map((_, i) => i).toSorted((i, j) => size(j) - size(i)) as [number, number]
  const own = against(legs, most, density)
  const apart = size(most) > 0 ? 1 - size(next) / size(most) : 1
  if (!(apart < STEP_SHARE)) return own
  const near = apart / STEP_SHARE
  // of a run and a branch the run counts where all goes one way; of two runs, either is as good
  const weight = most < 2 === next < 2 ? 0.5 + 0.5 * near : most < 2 ? 1 : near
  if (weight === 1) return own
  const other = against(legs, next, density)
  return own.map((p, i) => weight * p + (1 - weight) * other[i]!)
}

/**
 * What tees add to the pressure that each element meets at its ends, Pa: at `from` in the first half, at `to` in the second.
 * @param flow kg/s through an element @param density of the gas at a tee, kg/m3, by its place among the tees
 */
export function teeShifts(
  elements: number,
  tees: readonly Tee[],
  flow: (element: number) => number,
  density: (tee: Tee) => number,
): Float64Array {
  const shifts = new Float64Array(2 * elements)
  for (const tee of tees) {
    const areas = tee.legs.map((l) => (typeof l === 'string' ? 0 : l.areaM2))
    // a leg that is no hose is as wide as the widest that is
    const widest = Math.max(...areas)
    if (widest <= 0) continue
    const flows = tee.legs.map((l) => (typeof l === 'string' ? 0 : l.inwards * flow(l.element)))
    const rest = -flows.reduce((sum, m) => sum + m, 0)
    const legs = tee.legs.map((l, i): TeeLeg => ({
      into: l === 'rest' ? rest : flows[i]!,
      areaM2: areas[i]! > 0 ? areas[i]! : widest,
    }))
    teePressures(legs, density(tee)).forEach((pa, i) => {
      const leg = tee.legs[i]!
      if (typeof leg !== 'string') shifts[leg.element + (leg.inwards > 0 ? elements : 0)]! += pa
    })
  }
  return shifts
}
