/**
 * Ready bays by layout: the engine of the plan as a body with its ports on it, and what stands round it in such a car. Every figure is an
 * estimate until the tape has been there. Where cans, valves and hoses go is found, not listed (`bay/open-bay`).
 */
import type { Bay, Build, Part, Variant } from '../document/schema'
import { seatOf, spotId, spotsAsked } from './bay-geometry'
import { BAY_LAYOUTS, type BayLayout, type Position, type Surrounding, type BaySurroundings } from './bay-layouts'
import { engineBody, STUB, type EngineBody, type EnginePoint } from './engine-body'

/** What stands on a port that is pressed or screwed into the engine reaches so far out of it, and each further piece again, mm. */
const PIECE = 30
/** A second port where only one is known stands so far along the crank from it, mm. */
const BESIDE = 60

/** From the axes of the engine into those of the bay. */
const TURNED: Readonly<Record<BayLayout['crank'], (p: EnginePoint) => Position>> = {
  ahead: ([along, left, up]) => [along, left, up],
  right: ([along, left, up]) => [left, -along, up],
  left: ([along, left, up]) => [-left, along, up],
}
const plus = (a: Position, b: Position): Position => [a[0] + b[0], a[1] + b[1], a[2] + b[2]]

type EngineThere = { readonly body: EngineBody; readonly place: (p: EnginePoint) => Position }
type Joint = { readonly at: Position; readonly out: Position }

/** A port of the engine; one that the body does not know stands beside one that it knows of the same part or kind. */
function portOf({ body, place }: EngineThere, part: Part, port: string, others: number): Joint | undefined {
  const turn = (p: EnginePoint): Position => {
    const [zero, there] = [place([0, 0, 0]), place(p)]
    return [there[0] - zero[0], there[1] - zero[1], there[2] - zero[2]]
  }
  const known = body.ports.get(`${part.id}.${port}`) ?? body.ports.get(part.kind)
  if (known) return { at: place(known.at), out: turn(known.out) }
  const near = [part.id, part.kind, 'inlet'].flatMap((of) =>
    [...body.ports].filter(([id]) => id.startsWith(`${of}.`)),
  )[0]?.[1]
  if (!near) return undefined
  const [along, left, up] = near.at
  return { at: place([along - BESIDE * (1 + others), left, up]), out: turn(near.out) }
}

/** Where a part stands as the ready bay has it, if that follows from the engine; cans and what hangs in hoses find their places later. */
function seatedPlace(engine: EngineThere, variant: Variant, part: Part): Position | undefined {
  const seat = seatOf(variant, part)
  const joint = seat && portOf(engine, seat.part, seat.port, 0)
  if (!seat || !joint) return undefined
  // a can stands on the cover itself, a valve out of its seat
  const reach = part.kind === 'can' ? -STUB : PIECE * (seat.pieces + 1)
  return plus(joint.at, [joint.out[0] * reach, joint.out[1] * reach, joint.out[2] * reach])
}

type KeepOut = Bay['keepOuts'][number]
const keepOut = (s: Surrounding & { readonly pullMm?: number | undefined }, i: number): KeepOut => ({
  id: `keep-out-${i + 1}`,
  name: s.name,
  kind: s.kind,
  forwardMm: (s.from[0] + s.to[0]) / 2,
  leftMm: (s.from[1] + s.to[1]) / 2,
  upMm: (s.from[2] + s.to[2]) / 2,
  longMm: Math.abs(s.to[0] - s.from[0]),
  wideMm: Math.abs(s.to[1] - s.from[1]),
  highMm: Math.abs(s.to[2] - s.from[2]),
  surfaceC: s.surfaceC,
  pullMm: s.pullMm,
  round: s.round === undefined ? undefined : true,
  lies: s.round === undefined || s.round === 'up' ? undefined : s.round,
  measured: false,
})

const cylinder = (name: string, kind: KeepOut['kind'], [x, y, z]: Position, [r, high]: readonly [number, number]) => ({
  name,
  kind,
  from: [x - r, y - r, z] as const,
  to: [x + r, y + r, z + high] as const,
  round: 'up' as const,
})

/** Everything that stands in the bay of this plan: the engine's blocks, the car's, the filler where nothing sits on it, an oil tank. */
function standing(layout: BayLayout, engine: EngineThere, around: BaySurroundings, variant: Variant): KeepOut[] {
  const { body, place } = engine
  const blocks = body.blocks.map((b) => {
    const [p, q] = [place(b.from), place(b.to)]
    const low = (k: 0 | 1 | 2) => Math.min(p[k], q[k])
    const high = (k: 0 | 1 | 2) => Math.max(p[k], q[k])
    return {
      ...b,
      from: [low(0), low(1), low(2)] as const,
      to: [high(0), high(1), high(2)] as const,
      ...(b.pipe ? { round: layout.crank === 'ahead' ? ('ahead' as const) : ('left' as const) } : {}),
    }
  })
  const cover = variant.parts.find((p) => p.kind === 'cover')
  const filled = variant.lines.some((l) => [l.from, l.to].some((e) => e.part === cover?.id && e.port === 'filler'))
  const filler = cover && body.ports.get(`${cover.id}.filler`)
  const cap =
    filler && !filled
      ? [{ ...cylinder('Oil filler', 'service', plus(place(filler.at), [0, 0, -STUB]), [32, 30]), pullMm: 60 }]
      : []
  const tank = variant.parts.some((p) => p.kind === 'tank')
    ? [cylinder('Oil tank', 'engine', around.tank.at, [around.tank.radiusMm, around.tank.heightMm])]
    : []
  return [...blocks, ...cap, ...around.blocks, ...tank].map(keepOut)
}

/**
 * A ready bay for a plan: what the tape has measured already stays.
 *
 * @example
 * import { bayFor, readyBay } from '@/plan/catalogue/bays'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(readyBay(build, build.variants[0], bayFor(build.engine)).keepOuts.length) // 21
 */
export function readyBay(build: Build, variant: Variant, key: string): Bay {
  const layout = BAY_LAYOUTS.find((r) => r.key === key) ?? BAY_LAYOUTS[0]!
  const body = engineBody(build.engine, layout.inletAt)
  const ahead = layout.crank === 'ahead'
  const around = layout.around({
    halfAhead: ahead ? body.halfLong : body.halfWide,
    halfAcross: ahead ? body.halfWide : body.halfLong,
  })
  const engine: EngineThere = { body, place: (p) => plus(around.engineAt, TURNED[layout.crank](p)) }
  const known = new Map((build.bay?.spots ?? []).filter((s) => s.measured).map((s) => [s.id, s]))
  const { tank } = around
  let [hung, others] = [0, 0]
  const hang = (by: number): Position => {
    const mount = around.mounts[by % around.mounts.length]!.at
    return [mount[0], mount[1], mount[2] - 250 - 40 * by]
  }
  const placeOf = (part: Part, id: string): Position => {
    if (part.kind === 'tank') return plus(tank.at, [0, 0, tank.heightMm + STUB])
    if (part.kind === 'pump' || id !== spotId(part, '')) {
      const joint = portOf(engine, part, id.slice(part.id.length + 1), others)
      if (joint && !body.ports.has(id)) others++
      if (joint) return joint.at
    }
    return seatedPlace(engine, variant, part) ?? hang(hung++)
  }
  const spots = spotsAsked(variant).map(({ id, part }): Bay['spots'][number] => {
    const measured = known.get(id)
    const [forwardMm, leftMm, upMm] = placeOf(part, id).map(Math.round) as unknown as Position
    known.delete(id)
    return measured ?? { id, forwardMm, leftMm, upMm, points: undefined, turnDeg: undefined, measured: false }
  })
  const point = ([forwardMm, leftMm, upMm]: Position) => ({ forwardMm, leftMm, upMm, measured: false })
  return {
    datum: layout.datum,
    middleMm: Math.round(around.middleMm),
    spots: [...spots, ...known.values()],
    keepOuts: standing(layout, engine, around, variant),
    bonnet: around.bonnet.map((p, i) => ({ id: `bonnet-${i + 1}`, ...point(p) })),
    mounts: around.mounts.map(({ name, kind, at }, i) => ({ id: `mount-${i + 1}`, name, kind, ...point(at) })),
  }
}

/**
 * The ready bay that an engine's layout suggests.
 *
 * @example
 * import { bayFor } from '@/plan/catalogue/bays'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(bayFor(build.engine)) // 'transverse'
 */
export function bayFor(e: Build['engine']): string {
  if (e.cylinders <= 2) return 'motorcycle'
  if (e.layout === 'flat') return 'flat'
  return e.layout === 'vee' ? 'longitudinal' : 'transverse'
}
