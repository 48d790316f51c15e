/** What it takes to build a plan onto the engine as its maker left it: hours, price, and what must be done for it. */
import { coverBaffleOf } from '../catalogue/cover-baffle'
import type { Build, Line, LineEnd, Variant } from '../document/schema'
import { KINDS } from '../document/kinds'
import {
  BLOCK_RETURN,
  COVER_BAFFLES,
  COVER_NIPPLE,
  HOSE_EFFORT,
  HOSE_METRE_PRICE,
  PART_EFFORT,
  PLUG,
  TRACT_NIPPLE,
  TURBO_RETURN,
  type Effort,
  type Means,
} from '../catalogue/effort'
import { TURBO_DRAIN } from '../edit/ports'
import { makersCircuit } from '../schools/schools'

export type PlanEffort = {
  readonly hours: number
  readonly price: number
  /** what must be done for it that no bench is sure to have */
  readonly means: readonly Means[]
}

/** Where a line has an end on the engine. */
const endsOf = ({ lines }: Variant) =>
  lines.flatMap((l: Line) => [l.from, l.to].map((end) => ({ line: l, end, name: `${end.part}.${end.port}` })))

/**
 * Hours, price and means of a plan, over the circuit that the maker laid (estimates).
 *
 * @example
 * import { effortOf } from '@/plan/studies/effort'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'x', engineClass: 'v8-na', use: 'street', ambientC: 15, units: 'metric', school: 'stock' })
 * console.log(effortOf(build, build.variants[0]).hours) // 0
 */
export const effortOf = ({ engine }: Pick<Build, 'engine'>, plan: Variant): PlanEffort => effortForEngine(engine)(plan)

/**
 * `effortOf` for who asks of many plans of one engine: the maker's circuit is laid out once.
 *
 * @example
 * import { newBuild } from '@/plan/schools/new-build'
 * import { effortForEngine } from '@/plan/studies/effort'
 *
 * const build = newBuild({ name: 'x', engineClass: 'v8-na', use: 'street', ambientC: 15, units: 'metric', school: 'stock' })
 * console.log(effortForEngine(build.engine)(build.variants[0]).price) // 0
 */
export function effortForEngine(engine: Build['engine']): (plan: Variant) => PlanEffort {
  const maker = makersCircuit(engine)
  const had = new Map(maker.parts.map((p) => [p.id, p.kind]))
  const hoses = new Set(maker.lines.map((l) => l.id))
  const makersEnds = endsOf(maker)
  const nipples = new Set(makersEnds.map((e) => e.name))
  return (plan) => {
    const all: Effort[] = []
    for (const p of plan.parts) if (had.get(p.id) !== p.kind) all.push(PART_EFFORT[p.kind])
    for (const l of plan.lines) {
      if (hoses.has(l.id) || l.kind === 'direct') continue
      all.push({ ...HOSE_EFFORT, price: HOSE_EFFORT.price + (HOSE_METRE_PRICE * l.lengthMm) / 1000 })
    }
    const kindOf = (end: LineEnd) => plan.parts.find((p) => p.id === end.part)?.kind
    for (const { line, end, name } of endsOf(plan)) {
      if (nipples.has(name)) continue
      const kind = kindOf(end)
      // a filler neck and a turbo's drain are openings that are there
      if (end.port === TURBO_DRAIN) all.push(TURBO_RETURN)
      else if (kind === 'cover' && !end.port.includes('filler')) all.push(COVER_NIPPLE)
      else if (kind === 'crankcase') all.push(line.kind === 'drain' ? BLOCK_RETURN : TRACT_NIPPLE)
      else if (kind === 'inlet' || kind === 'manifold') all.push(TRACT_NIPPLE)
    }
    const plates = plan.parts.some((p) => p.ports.some((q) => coverBaffleOf(q) !== undefined))
    if (plates || (plan.pickUp !== undefined && plan.pickUp !== engine.pickUp)) all.push(COVER_BAFFLES)
    const used = new Set(endsOf(plan).map((e) => e.name))
    for (const { end, name } of makersEnds)
      if (!used.has(name) && plan.parts.some((p) => p.id === end.part) && KINDS[had.get(end.part)!].engine)
        all.push(PLUG)
    return {
      hours: all.reduce((sum, e) => sum + e.hours, 0),
      price: all.reduce((sum, e) => sum + e.price, 0),
      means: [...new Set(all.flatMap((e) => e.means))],
    }
  }
}
