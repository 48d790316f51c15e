/** The bay of a plan in metres: where ports are, what body a can has, which way its lines go. */
import type { Point } from '@/core/drain/profile'
import { pathOf, type Path } from '@/core/route/path'
import { fail, type Result } from '@/core/result'
import { KINDS } from '../document/kinds'
import type { Bay, Line, LineEnd, Part, PartOf, Variant } from '../document/schema'

type Place = { readonly forwardMm: number; readonly leftMm: number; readonly upMm: number }
export const pointOf = (p: Place): Point => [p.forwardMm / 1000, p.leftMm / 1000, p.upMm / 1000]

/** Name under which an end of a line is measured: a can by its floor, what stands in a line by itself, else the port. */
export const spotId = (part: Part, port: string): string =>
  part.kind === 'can' || !KINDS[part.kind].engine ? part.id : `${part.id}.${port}`

export const spotIn = (bay: Bay | undefined, id: string) => bay?.spots.find((s) => s.id === id)

/** Room in a can above its bowl, m, and thickness of its wall (estimates). */
const [HEAD_M, WALL_M] = [0.06, 0.003]

/** A can as a body: upright cylinder over its floor. */
export type CanBody = { readonly floor: Point; readonly radiusM: number; readonly heightM: number }

export function canBody(bay: Bay | undefined, can: PartOf<'can'>): CanBody | undefined {
  const spot = spotIn(bay, can.id)
  if (!spot) return undefined
  const face = can.faceCm2 * 1e-4
  return {
    floor: pointOf(spot),
    radiusM: Math.sqrt(face / Math.PI) + WALL_M,
    heightM: (can.bowlMl * 1e-6) / face + HEAD_M,
  }
}

/** Where an end of a line is: at a port that was measured, at the side of a can near its lid, or at its floor for a drain. */
export function endPoint(bay: Bay | undefined, variant: Variant, end: LineEnd): Point | undefined {
  const part = variant.parts.find((p) => p.id === end.part)
  if (!part) return undefined
  if (part.kind !== 'can') {
    const spot = spotIn(bay, spotId(part, end.port))
    return spot && pointOf(spot)
  }
  const body = canBody(bay, part)
  if (!body) return undefined
  const [x, y, z] = body.floor
  if (end.port !== 'in' && end.port !== 'out') return body.floor
  const side = end.port === 'in' ? 1 : -1
  return [x, y + side * body.radiusM, z + body.heightM - HEAD_M / 2]
}

/** Least bend radius of reinforced rubber by bore, m (SAE 100R5 table, from memory), linear between. */
const RADII = [
  [0.0048, 0.076],
  [0.0079, 0.102],
  [0.0103, 0.117],
  [0.0127, 0.14],
  [0.0159, 0.165],
  [0.0222, 0.187],
] as const
/** @example bendRadius(0.0127) // 0.14 */
export function bendRadius(boreM: number): number {
  const above = RADII.findIndex(([b]) => boreM <= b)
  if (above === 0) return RADII[0][1]
  if (above < 0) return (RADII.at(-1)![1] * boreM) / RADII.at(-1)![0]
  const [[b0, r0], [b1, r1]] = [RADII[above - 1]!, RADII[above]!]
  return r0 + ((r1 - r0) * (boreM - b0)) / (b1 - b0)
}

/** Points of a line from end to end; undefined while one of its ends is not measured. */
export function wayOf(bay: Bay | undefined, variant: Variant, line: Line): readonly Point[] | undefined {
  const [from, to] = [endPoint(bay, variant, line.from), endPoint(bay, variant, line.to)]
  return from && to && [from, ...(line.way ?? []).map(pointOf), to]
}

/** The path of a line through the bay, with arcs of its hose's least radius. */
export function pathOfLine(bay: Bay | undefined, variant: Variant, line: Line): Result<Path> {
  const way = wayOf(bay, variant, line)
  if (!way) return fail('One of its ends has not been measured yet.')
  return pathOf(way, bendRadius(line.boreMm / 1000))
}

/** What the tape has to tell for a plan: the ends of its hoses and drains, cans by their floors, each once. */
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

/** Lines of a plan with the lengths and bends that the bay gives them; one whose way is not known keeps what was entered. */
export function withLengths(bay: Bay | undefined, variant: Variant): Variant {
  const lines = variant.lines.map((line) => {
    if (line.kind === 'direct') return line
    const path = pathOfLine(bay, variant, line)
    if (!path.ok) return line
    const radiusMm = Math.round(bendRadius(line.boreMm / 1000) * 1000)
    const bends = path.value.bendsDeg
      .filter((d) => d > 1)
      .map((angleDeg) => ({ angleDeg: Math.round(angleDeg), radiusMm }))
    const arcs = bends.reduce((sum, b) => sum + (b.angleDeg * Math.PI * b.radiusMm) / 180, 0)
    return { ...line, lengthMm: Math.max(0, Math.round(path.value.lengthM * 1000 - arcs)), bends }
  })
  return { ...variant, lines }
}
