/** How a separator's return drains in the bay as it was measured: fall, traps, and the oil column that each state holds up. */
import type { StateId } from '@/core/engine/states'
import { circleArea } from '@/core/circle'
import { drainOf } from '@/core/drain/drain'
import { profileOf, type Point3, type Profile } from '@/core/drain/profile'
import { oilDensity, OIL_POURED, oilViscosity } from '@/core/gas/oil'
import type { Build, Line, LineEnd, Part, PartOf, Variant } from '../document/schema'
import type { SolvedState, StateResult } from '../model/results'
import { isSolved, oilSum } from '../model/results'
import { endPlace, pointOf } from '../catalogue/bay-geometry'

/** Kinematic viscosity of an ordinary engine oil at 40 and 100 C, mm2/s (SAE J300 grade 40, typical). */
const [NU_40, NU_100] = [95, 14]

export type DrainState = {
  readonly id: StateId
  /** oil that suction holds up, m; head that is left, m; what a full hose lets down, m3/s */
  readonly columnM: number
  readonly headM: number
  readonly capacity: number
  /** the same of oil at 0 C, and what is caught in this state, m3/s */
  readonly coldCapacity: number
  readonly caught: number
}
export type BayDrain = {
  readonly line: Line
  /** from the separator's floor to the return */
  readonly way: readonly Point3[]
  readonly profile: Profile
  /** oil that stands in the hose since its end lies below the pan's level, m3; 0 where it does not, or the level is not known */
  readonly standsM3: number
  /** how deep its end lies below that level, m */
  readonly underM: number
  /** a valve on the way that lets no oil down */
  readonly against: Part | undefined
  readonly states: readonly DrainState[]
}

const COLD_K = 273.15

/** The way of a separator's oil to where it goes back: its lines from the can on, the valves between them, and where it ends. */
export type DrainPath = {
  readonly lines: readonly Line[]
  /** what opens the valves on the way, Pa */
  readonly crackPa: number
  /** a valve that lets no oil down: stuck shut, or with its outlet to the can */
  readonly against: Part | undefined
  readonly end: LineEnd
}

/** Undefined for a separator without a drain. */
export function drainPathOf(variant: Variant, can: string): DrainPath | undefined {
  const lines: Line[] = []
  let [at, crackPa, against]: [LineEnd | undefined, number, Part | undefined] = [undefined, 0, undefined]
  let from = can
  for (;;) {
    const line = variant.lines.find(
      (l) => l.kind === 'drain' && !lines.includes(l) && (l.from.part === from || l.to.part === from),
    )
    if (!line) break
    lines.push(line)
    at = line.from.part === from ? line.to : line.from
    const there = variant.parts.find((p) => p.id === at!.part)
    if (there?.kind !== 'check') break
    // stuck open it holds nothing back; the other way round it holds all
    if (there.stuck === 'shut' || (there.stuck === undefined && at.port !== 'in')) against ??= there
    if (there.stuck === undefined) crackPa += there.crackKpa * 1000
    from = there.id
  }
  return at && { lines, crackPa, against, end: at }
}

/**
 * What the bowl of a can stands at, Pa gauge: a hollow or baffled body and a cyclone hang on the side that gas comes in by, a pad or
 * coalescer on the clean side; what has no stages that are known, on the lower. What the builder says comes first.
 */
export function bowlGauge(s: SolvedState, can: PartOf<'can'>): number {
  const gauge = (port: string) => s.gauge[`${can.id}.${port}`] ?? 0
  const wrongWay = (s.passages[can.id]?.flow ?? 0) < 0
  const [dirty, clean] = wrongWay ? [gauge('out'), gauge('in')] : [gauge('in'), gauge('out')]
  if (can.bowl !== undefined) return gauge(can.bowl === 'inlet' ? 'in' : 'out')
  if (can.packed) return clean
  return can.stages.length > 0 ? dirty : Math.min(dirty, clean)
}

type DrainSize = { readonly heightM: number; readonly lengthM: number }
function stateOf(s: SolvedState, can: PartOf<'can'>, path: DrainPath, { heightM, lengthM }: DrainSize): DrainState {
  const { end, lines, crackPa } = path
  const at = s.gauge[`${end.part}.${end.port}`] ?? s.gauge[end.part] ?? 0
  const at0 = (oilK: number) =>
    drainOf({
      returnPa: at,
      canPa: bowlGauge(s, can),
      crackPa,
      oilDensity: oilDensity(oilK),
      viscosity: oilViscosity(oilK, NU_40, NU_100),
      boreM: Math.min(...lines.map((l) => l.boreMm)) / 1000,
      lengthM,
      heightM,
    })
  const { columnM, headM, capacity } = at0(s.operating.oilK)
  const caught = oilSum(s.cans[can.id]?.caught) / OIL_POURED
  return { id: s.id, columnM, headM, capacity, coldCapacity: at0(COLD_K).capacity, caught }
}

/** Points of a drain from the can on; undefined while can or return are not measured. A valve on the way that is not counts as on a straight. */
function wayDown(build: Build, variant: Variant, can: string, { lines }: DrainPath): readonly Point3[] | undefined {
  const way: Point3[] = []
  let from = can
  for (const [k, line] of lines.entries()) {
    const onward = line.from.part === from
    const [first, last] = onward ? [line.from, line.to] : [line.to, line.from]
    const at = (end: LineEnd) => endPlace(build.bay, variant, end)?.at
    const [top, bottom] = [at(first), at(last)]
    if ((k === 0 && !top) || (k === lines.length - 1 && !bottom)) return undefined
    const between = (line.way ?? []).map(pointOf)
    way.push(...(top ? [top] : []), ...(onward ? between : between.toReversed()), ...(bottom ? [bottom] : []))
    from = last.part
  }
  // a valve between two lines stands where they end: no point comes twice
  return way.filter((p, i) => i === 0 || p.some((v, k) => v !== way[i - 1]![k]))
}

/**
 * The drain of a separator in every state that has an answer; undefined while its ends are not measured.
 *
 * @example
 * import { drainInBay } from '@/plan/bay/drains'
 * import { figuresOf } from '@/plan/model/figures'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(drainInBay(build, build.variants[0], figuresOf(build).states, 'can')) // undefined
 */
export function drainInBay(
  build: Build,
  variant: Variant,
  states: readonly StateResult[],
  can: string,
): BayDrain | undefined {
  const part = variant.parts.find((p) => p.id === can)
  const path = part?.kind === 'can' ? drainPathOf(variant, can) : undefined
  const way = path && wayDown(build, variant, can, path)
  if (part?.kind !== 'can' || !path || !way || path.lines.some((l) => !(l.boreMm > 0))) return undefined
  const line = path.lines[0]!
  const lengthM = way.slice(1).reduce((sum, p, i) => sum + Math.hypot(...p.map((v, k) => v - way[i]![k]!)), 0)
  if (!(lengthM > 0)) return undefined
  const profile = profileOf(way, line.boreMm / 1000)
  // what ends below the pan's oil ends at its level
  const inPan = variant.parts.find((p) => p.id === path.end.part)?.kind === 'crankcase'
  const levelMm = inPan ? build.bay?.oilLevelMm : undefined
  const underM = levelMm === undefined ? 0 : Math.max(0, levelMm / 1000 - way.at(-1)![2])
  const solved = path.against ? [] : states.filter(isSolved)
  return {
    line,
    way,
    profile,
    underM,
    against: path.against,
    standsM3: underM > 0 ? lengthBelow(way, way.at(-1)![2] + underM) * circleArea(line.boreMm / 1000) : 0,
    states: solved.map((s) => stateOf(s, part, path, { heightM: profile.fallM - underM, lengthM })),
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
  if (drain?.against) return 'never drains'
  if (!drain || drain.states.length === 0) return undefined
  const draining = drain.states.filter((s) => s.headM > 0).length
  return draining === 0 ? 'never drains' : draining < drain.states.length ? 'drains at times' : 'drains'
}

/** Whether a measured return lets nothing down in any state: what it serves is then a can like any other. */
export function neverDrains(build: Build, variant: Variant, states: readonly StateResult[], can: string): boolean {
  return drainWord(build, variant, states, can) === 'never drains'
}
