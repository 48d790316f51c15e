/** The bay of a plan in metres: where ports are, what body a can has, which way its lines go. */
import type { Point3 } from '@/core/drain/profile'
import tables from './fittings.json'
import type { POINTS } from '../document/bounds'
import { KINDS } from '../document/kinds'
import type { Bay, LineEnd, Part, PartOf, Variant } from '../document/schema'

type PlacedEnd = { readonly forwardMm: number; readonly leftMm: number; readonly upMm: number }

/**
 * Where the mouth of a measured end lies, m, in the axes of the bay.
 *
 * @example
 * import { pointOf } from '@/plan/catalogue/bay-geometry'
 *
 * console.log(pointOf({ forwardMm: 120, leftMm: -300, upMm: 450 })) // [ 0.12, -0.3, 0.45 ]
 */
export const pointOf = (p: PlacedEnd): Point3 => [p.forwardMm / 1000, p.leftMm / 1000, p.upMm / 1000]

/** A point of the bay, m, as the document keeps it: whole millimetres. */
export const placedAt = ([x, y, z]: Point3): PlacedEnd => ({
  forwardMm: Math.round(x * 1000),
  leftMm: Math.round(y * 1000),
  upMm: Math.round(z * 1000),
})

/** Name under which an end of a line is measured: a can by its floor, what stands in a line by itself, else the port. */
export const spotId = (part: Part, port: string): string =>
  part.kind === 'can' || !KINDS[part.kind].engine ? part.id : `${part.id}.${port}`

/**
 * What the tape measured of an end, by its name (`spotId`); undefined while it was not measured.
 *
 * @example
 * import { spotIn } from '@/plan/catalogue/bay-geometry'
 *
 * const bay = { keepOuts: [], bonnet: [], spots: [{ id: 'can', forwardMm: 120, leftMm: -300, upMm: 450 }] }
 * console.log(spotIn(bay, 'can').upMm) // 450
 */
export const spotIn = (bay: Bay | undefined, id: string) => bay?.spots.find((s) => s.id === id)

const DIRECTIONS: Readonly<Record<(typeof POINTS)[number], Point3>> = {
  ahead: [1, 0, 0],
  back: [-1, 0, 0],
  left: [0, 1, 0],
  right: [0, -1, 0],
  up: [0, 0, 1],
  down: [0, 0, -1],
}

/** Room in a can above its bowl, m, and thickness of its wall (estimates). */
const [HEAD_M, WALL_M] = [0.06, 0.003]

/** A can as a body: upright cylinder over its floor. */
export type CanBody = { readonly floor: Point3; readonly radiusM: number; readonly heightM: number }

/** How thick and high a can is outside, m. */
export function canSize(can: PartOf<'can'>): { readonly radiusM: number; readonly heightM: number } {
  const face = can.faceCm2 * 1e-4
  return { radiusM: Math.sqrt(face / Math.PI) + WALL_M, heightM: (can.bowlMl * 1e-6) / face + HEAD_M }
}

/** The cylinder that a measured can fills, m: foot, axis, radius and height; undefined while its foot is not measured. */
export function canBody(bay: Bay | undefined, can: PartOf<'can'>): CanBody | undefined {
  const spot = spotIn(bay, can.id)
  return spot && { floor: pointOf(spot), ...canSize(can) }
}

/** Parts of the circuit that are screwed together without a hose with any of these, themselves among them; what belongs to the engine ends the row. */
export function joinedBy(variant: Variant, parts: readonly string[]): ReadonlySet<string> {
  const all = new Set(parts)
  // a set that grows while it is walked is walked to its end
  for (const id of all) {
    const part = variant.parts.find((p) => p.id === id)
    if (!part || KINDS[part.kind].engine) continue
    for (const l of variant.lines) {
      if (l.kind !== 'direct') continue
      if (l.from.part === id) all.add(l.to.part)
      if (l.to.part === id) all.add(l.from.part)
    }
  }
  return all
}

/** What a part of the circuit is screwed to without a hose, down to a port of the engine, and how many pieces lie between; undefined where it hangs. */
export function seatOf(
  variant: Variant,
  part: Part,
  seen: readonly string[] = [],
): { part: Part; port: string; pieces: number } | undefined {
  if (seen.includes(part.id)) return undefined
  for (const line of variant.lines) {
    if (line.kind !== 'direct' || (line.from.part !== part.id && line.to.part !== part.id)) continue
    const other = line.from.part === part.id ? line.to : line.from
    const joined = variant.parts.find((p) => p.id === other.part)
    if (!joined || joined.kind === 'can') continue
    if (KINDS[joined.kind].engine) return { part: joined, port: other.port, pieces: seen.length }
    const further = seatOf(variant, joined, [...seen, part.id])
    if (further) return further
  }
  return undefined
}

/**
 * Where the hoses go that leave a port of a can, seen from above: their next points, or what they end at. A lid that carries a piece without
 * a hose is set by what the hoses end at alone: the piece turns with it, and its hoses' points do not.
 */
function nextOf(bay: Bay | undefined, variant: Variant, can: string, port: string): readonly PlacedEnd[] {
  const line = variant.lines.find((l) => [l.from, l.to].some((e) => e.part === can && e.port === port))
  if (!line) return []
  const leaves = line.from.part === can && line.from.port === port
  const other = leaves ? line.to : line.from
  const there = (end: LineEnd): PlacedEnd[] => {
    const part = variant.parts.find((p) => p.id === end.part)
    const spot = part && spotIn(bay, spotId(part, end.port))
    return spot ? [spot] : []
  }
  const carries = variant.lines.some((l) => l.kind === 'direct' && (l.from.part === can || l.to.part === can))
  if (line.kind !== 'direct') {
    if (carries) return there(other)
    const point = leaves ? line.way?.[0] : line.way?.at(-1)
    return point ? [point] : there(other)
  }
  const row = joinedBy({ ...variant, lines: variant.lines.filter((l) => l !== line) }, [other.part])
  return variant.lines.flatMap((l) => {
    if (l.kind === 'direct' || row.has(l.from.part) === row.has(l.to.part)) return []
    return there(row.has(l.from.part) ? l.to : l.from)
  })
}

/**
 * How a lid that nobody has turned is best set, degrees: its inlet and outlet, which face away from each other, towards where their hoses go, so
 * that none has to pass through the can.
 */
export function suitedTurn(bay: Bay | undefined, variant: Variant, can: PartOf<'can'>): number {
  const [x, y] = pointOf(spotIn(bay, can.id)!)
  const [into, out] = (['in', 'out'] as const).map((port) => {
    const next = nextOf(bay, variant, can.id, port)
    const mean = (of: (p: PlacedEnd) => number) => next.reduce((sum, p) => sum + of(p), 0) / (1000 * next.length)
    const [dx, dy] = next.length > 0 ? [mean((p) => p.forwardMm) - x, mean((p) => p.leftMm) - y] : [0, 0]
    const away = Math.hypot(dx, dy)
    return away > 0 ? ([dx / away, dy / away] as const) : ([0, 0] as const)
  }) as [readonly [number, number], readonly [number, number]]
  const [sx, sy] = [into[0] - out[0], into[1] - out[1]]
  // both go the same way: their ports stand across it
  const [fx, fy] = Math.hypot(sx, sy) > 1e-6 ? [sx, sy] : [-into[1], into[0]]
  return fx === 0 && fy === 0 ? 0 : (Math.atan2(-fx, fy) * 180) / Math.PI
}

/** Which way a can's inlet and outlet point with its lid turned by `turnDeg`, seen from above: the inlet to the left at 0. */
function canSide(turnDeg: number, port: 'in' | 'out'): Point3 {
  const turn = (turnDeg * Math.PI) / 180
  const side = port === 'in' ? 1 : -1
  return [-side * Math.sin(turn), side * Math.cos(turn), 0]
}

/** Where an end of a line is, and which way it leaves there if that is known. */
export type EndPlace = { readonly at: Point3; readonly points: Point3 | undefined }

/**
 * At a port that was measured, at the side of a can near its lid, or at its floor for a drain.
 *
 * @example
 * import { endPlace } from '@/plan/catalogue/bay-geometry'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const [variant] = build.variants
 * console.log(endPlace(undefined, variant, variant.lines[0].from)) // undefined
 */
export function endPlace(bay: Bay | undefined, variant: Variant, end: LineEnd): EndPlace | undefined {
  const part = variant.parts.find((p) => p.id === end.part)
  if (!part) return undefined
  const spot = spotIn(bay, spotId(part, end.port))
  if (!spot) return undefined
  if (part.kind !== 'can') return { at: pointOf(spot), points: spot.points && DIRECTIONS[spot.points] }
  const body = canBody(bay, part)!
  if (end.port !== 'in' && end.port !== 'out') return { at: body.floor, points: undefined }
  const [x, y, z] = body.floor
  const side = canSide(spot.turnDeg ?? suitedTurn(bay, variant, part), end.port)
  const at: Point3 = [x + side[0] * body.radiusM, y + side[1] * body.radiusM, z + body.heightM - HEAD_M / 2]
  // a lid that was never turned may yet be: its hoses leave as they like
  return { at, points: spot.turnDeg === undefined ? undefined : side }
}

const RADII = tables.bends.rows.map((r) => [r.boreMm / 1000, r.radiusMm / 1000] as const)
/** Braided hose is known by its dash, whatever bore it is made with. */
const dashed: ReadonlyMap<number, number | undefined> = new Map(
  tables.dashes.rows.map((d) => [d.hoseMm, tables.bends.rows.find((r) => r.dash === d.dash)?.radiusMm]),
)
/**
 * Least bend radius of reinforced hose by its bore, m; of a dash size its own.
 *
 * @example
 * import { bendRadius } from '@/plan/catalogue/bay-geometry'
 *
 * console.log(bendRadius(0.0143)) // 0.14
 */
export function bendRadius(boreM: number): number {
  const own = dashed.get(Number((1000 * boreM).toFixed(2)))
  if (own !== undefined) return own / 1000
  const [first, last] = [RADII[0]!, RADII.at(-1)!]
  const above = RADII.findIndex(([b]) => boreM <= b)
  if (above === 0) return first[1]
  if (above < 0) return (last[1] * boreM) / last[0]
  const [[b0, r0], [b1, r1]] = [RADII[above - 1]!, RADII[above]!]
  return r0 + ((r1 - r0) * (boreM - b0)) / (b1 - b0)
}

/**
 * What the tape has to tell for a plan: the ends of its hoses and drains, cans by their floors, each once.
 *
 * @example
 * import { spotsAsked } from '@/plan/catalogue/bay-geometry'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(spotsAsked(build.variants[0])[0].name) // 'PCV valve'
 */
export function spotsAsked(variant: Variant): { readonly id: string; readonly name: string; readonly part: Part }[] {
  const asked = new Map<string, { id: string; name: string; part: Part }>()
  for (const line of variant.lines) {
    if (line.kind === 'direct') continue
    for (const end of [line.from, line.to]) {
      const part = variant.parts.find((p) => p.id === end.part)
      if (!part) continue
      const id = spotId(part, end.port)
      const port = part.ports.find((p) => p.id === end.port)
      const name =
        part.kind === 'can'
          ? `${part.name}, floor`
          : id === part.id
            ? part.name
            : `${part.name}, ${(port?.name ?? end.port).toLowerCase()}`
      asked.set(id, { id, name, part })
    }
  }
  // in the order of walking round the engine: cans last, since they are placed by what they serve
  return [...asked.values()].toSorted((a, b) => Number(a.part.kind === 'can') - Number(b.part.kind === 'can'))
}
