/**
 * What a tee costs by how its flow splits. All flow is gathered in one leg, the combined one; every other leg stands at another pressure
 * than it, by a loss straight on or round the corner.
 */
import { circleArea } from '../circle'
import type { Element, Tee } from './elements'

/** A leg of a tee: kg/s into it (negative: out of it) and the area of its bore, m2. The first two run straight through, others branch off. */
export type TeeLeg = { readonly into: number; readonly areaM2: number }

/** Share of the combined flow within which another leg may become the combined one. */
const STEP_SHARE = 0.1
/** Straight from 1 at 0.75 to 0.9 at 0.85, where the table steps at 0.8. */
const roundCorner = (velocities: number) => 1 - 0.1 * Math.min(1, Math.max(0, (velocities - 0.75) / 0.1))

/**
 * Loss of a leg of a sharp-edged tee at 90 degrees, in heads of the combined leg: `share` of the flow, `areas` combined over own. Below
 * zero where the stream sucks: an idle branch stands about a head below the run that passes it.
 * Idelchik, Handbook of Hydraulic Resistance, ch. 7 (converging and dividing wyes of standard shape; from memory):
 * - into the run: branch A (1 + (x a)^2 - 2 (1 - x)^2), A 0.9 (1 - x) to x = 0.4, then 0.55 (1 where the branch is a third or less);
 *   straight 1.55 x - x^2, x the branch's share;
 * - out of the run: branch A (1 + (x a)^2), A 1 to 0.9; straight 2 (2 x - 1) x^2 to x = 0.5, then 0.3 (2 x - 1) x^2, x what branched off;
 * - two run legs that meet and leave by the branch: 1 + a^2 (1 + 3 (x^2 - x)); parted from it: 1 + 0.3 (x a)^2.
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
    return (branched <= 0.5 ? 2 : 0.3) * (2 * branched - 1) * branched * branched
  }
  if (!gathers) return roundCorner(velocities) * (1 + velocities * velocities)
  const a = areas >= 1 / 0.35 ? 1 : share <= 0.4 ? 0.9 * (1 - share) : 0.55
  return a * (1 + velocities * velocities - 2 * (1 - share) ** 2)
}

/** Pressure of each leg over that of the first, Pa, with all flow gathered in the leg `most`. */
function against(legs: readonly TeeLeg[], most: number, density: number): number[] {
  const all = legs[most]!
  const head = (all.into / all.areaM2) ** 2 / (2 * density)
  const gathers = all.into < 0
  const runs = (i: number) => i < 2
  const over = legs.map((leg, i) => {
    if (i === most || all.into === 0) return 0
    // a leg that runs with the combined one (two feed a third, seen from the lesser) is about to be idle
    const share = Math.min(1, Math.max(0, -leg.into / all.into))
    const way = !runs(i) ? 'corner' : runs(most) ? 'straight' : 'facing'
    return (gathers ? head : -head) * headsLost(way, gathers, share, all.areaM2 / leg.areaM2)
  })
  return over.map((p) => p - over[0]!)
}

/**
 * Pressure of each leg of a tee over that of its first, Pa (total pressures, as joints of a network have them). Where a third leg turns from
 * giving to taking, another leg becomes the combined one and the tables have a step: within a tenth of the flow it is gone over.
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
  const apart = 1 - size(next) / size(most)
  if (!(apart < STEP_SHARE)) return own
  const weight = 0.5 + (0.5 * apart) / STEP_SHARE
  const other = against(legs, next, density)
  return own.map((p, i) => weight * p + (1 - weight) * other[i]!)
}

const boreArea = (e: Element) => (e.kind === 'hose' ? circleArea(e.boreM) : 0)

/**
 * What tees add to the pressure that each element meets at its ends, Pa: at `from` in the first half, at `to` in the second.
 * @param flow kg/s through an element @param density of the gas at a tee, kg/m3, by its place among the tees
 */
export function teeShifts(
  elements: readonly Element[],
  tees: readonly Tee[],
  flow: (element: number) => number,
  density: (tee: Tee) => number,
): Float64Array {
  const shifts = new Float64Array(2 * elements.length)
  for (const tee of tees) {
    const areas = tee.legs.map((l) => (typeof l === 'string' ? 0 : boreArea(elements[l.element]!)))
    // a leg that is no hose is as wide as the widest that is
    const widest = Math.max(...areas)
    if (widest <= 0) continue
    const flows = tee.legs.map((l) => (typeof l === 'string' ? 0 : l.inwards * flow(l.element)))
    const rest = -flows.reduce((sum, m) => sum + m, 0)
    const told = tee.legs.map((l, i): TeeLeg => ({
      into: l === 'rest' ? rest : flows[i]!,
      areaM2: areas[i]! > 0 ? areas[i]! : widest,
    }))
    teePressures(told, density(tee)).forEach((pa, i) => {
      const leg = tee.legs[i]!
      if (typeof leg !== 'string') shifts[leg.element + (leg.inwards > 0 ? elements.length : 0)]! += pa
    })
  }
  return shifts
}
