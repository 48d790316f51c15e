/** What hangs in hoses without a place of its own, or is screwed to a can: put where it suits. */
import type { Point3 } from '@/core/drain/profile'
import { distanceToBox, heightAt } from '@/core/route/distance'
import { boxInWay } from '@/core/route/room'
import { canBody, endPlace, placedAt, pointOf, seatOf, spotId, spotIn, spotsAsked } from '../catalogue/bay-geometry'
import { KINDS } from '../document/kinds'
import type { Bay, Build, LineEnd, Part, PartOf, Variant } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { tubeRadius } from './clearance'
import { bodiesFor } from './find-way'
import { withLengths } from './lay'
import { BONNET_ASKED } from './place'

/** What is screwed to a can stands so far out of its mouth, and each further piece again, m. */
const PIECE = 0.03
/** Grid that a valve's or tee's place is looked for on, how far round where its hoses come from, and how far apart from others, m. */
const [STEP, ROUND, APART] = [0.03, 0.24, 0.07]
/** What a hose that has to bend round something is worth, m of hose. */
const HIDDEN = 0.3
/** How far a vent's mouth stands over the lid of its can, m (estimate). */
const OVER_LID = 0.03

type Spot = Bay['spots'][number]

/** The build with some places of its bay other than they were, not measured; lengths follow. */
export function withSpots(build: Build, places: ReadonlyMap<string, Point3>): Build {
  const { bay } = build
  if (!bay || places.size === 0) return build
  const moved = (s: Spot): Spot => {
    const to = places.get(s.id)
    return to ? { ...s, ...placedAt(to), measured: false } : s
  }
  const known = new Set(bay.spots.map((s) => s.id))
  const added = [...places].flatMap(([id, to]): Spot[] =>
    known.has(id) ? [] : [{ id, ...placedAt(to), points: undefined, turnDeg: undefined, measured: false }],
  )
  const next = { ...bay, spots: [...bay.spots.map(moved), ...added] }
  return { ...build, bay: next, variants: build.variants.map((v) => withLengths(next, v)) }
}

/** Parts that are screwed to a can without a hose, and to those, with how many pieces lie between and by which of its ports. */
export function piecesOn(variant: Variant, can: string): { part: Part; port: string; pieces: number }[] {
  const out: { part: Part; port: string; pieces: number }[] = []
  const follow = (of: string, port: string | undefined, pieces: number) => {
    for (const line of variant.lines) {
      if (line.kind !== 'direct') continue
      const ends: [LineEnd, LineEnd][] = [
        [line.from, line.to],
        [line.to, line.from],
      ]
      for (const [here, there] of ends) {
        const part = here.part === of ? variant.parts.find((p) => p.id === there.part) : undefined
        if (!part || part.kind === 'can' || KINDS[part.kind].engine || out.some((o) => o.part === part)) continue
        out.push({ part, port: port ?? here.port, pieces })
        follow(part.id, port ?? here.port, pieces + 1)
      }
    }
  }
  follow(can, undefined, 0)
  return out
}

/** Parts that hang in hoses alone: their places are for the asking, unless the tape has been there. */
export function looseParts(build: Build, variant: Variant): Part[] {
  const onCans = new Set(
    variant.parts.flatMap((p) => (p.kind === 'can' ? piecesOn(variant, p.id).map((o) => o.part.id) : [])),
  )
  const asked = new Set(spotsAsked(variant).map((a) => a.id))
  return variant.parts.filter(
    (p) =>
      asked.has(p.id) &&
      !['can', 'tank', 'pump'].includes(p.kind) &&
      !onCans.has(p.id) &&
      !seatOf(variant, p) &&
      !spotIn(build.bay, p.id)?.measured,
  )
}

/** The build with what is screwed to its cans standing at their mouths. */
export function withPiecesAtMouths(build: Build): Build {
  const variant = activeVariant(build)
  const places = new Map<string, Point3>()
  for (const can of variant.parts) {
    if (can.kind !== 'can') continue
    for (const { part, port, pieces } of piecesOn(variant, can.id)) {
      const body = canBody(build.bay, can)
      const mouth = endPlace(build.bay, variant, { part: can.id, port } as LineEnd)
      if (!body || !mouth || spotIn(build.bay, part.id)?.measured) continue
      const out = [mouth.at[0] - body.floor[0], mouth.at[1] - body.floor[1]] as const
      const away = Math.hypot(...out) || 1
      const by = PIECE * (pieces + 1)
      places.set(part.id, [mouth.at[0] + (out[0] / away) * by, mouth.at[1] + (out[1] / away) * by, mouth.at[2]])
    }
  }
  return withSpots(build, places)
}

/** Ends of the hoses that a part hangs in, as far as they are known, and the widest of those hoses, mm. */
function hungBetween(build: Build, variant: Variant, part: Part, settled: ReadonlySet<string>) {
  const lines = variant.lines.filter((l) => l.kind !== 'direct' && (l.from.part === part.id || l.to.part === part.id))
  const ends = lines.flatMap((l): Point3[] => {
    const end = l.from.part === part.id ? l.to : l.from
    const place = settled.has(end.part) ? endPlace(build.bay, variant, end) : undefined
    return place ? [place.at] : []
  })
  return { ends, boreMm: Math.max(10, ...lines.map((l) => l.boreMm)) }
}

/** The can whose gas a vent filter lets out. */
export const canOfVent = (variant: Variant, filter: Part): PartOf<'can'> | undefined =>
  variant.parts.find(
    (p): p is PartOf<'can'> =>
      p.kind === 'can' &&
      variant.lines.some(
        (l) => (l.from.part === filter.id && l.to.part === p.id) || (l.to.part === filter.id && l.from.part === p.id),
      ),
  )

/** A free place for a part that hangs between these points, the nearest to all of them; undefined where none is. */
function freePlace(
  build: Build,
  { ends, boreMm }: { readonly ends: readonly Point3[]; readonly boreMm: number },
  lowest: number,
  taken: readonly Point3[],
): Point3 | undefined {
  const { bay } = build
  if (!bay || ends.length === 0) return undefined
  const variant = activeVariant(build)
  const radiusM = tubeRadius(boreMm)
  const boxes = bodiesFor(build, variant, radiusM, new Set())
  const space = { boxes, ceiling: () => undefined }
  const bonnet = bay.bonnet.map(pointOf)
  const bound = (k: 0 | 1 | 2, s: 1 | -1) => (s < 0 ? Math.min : Math.max)(...ends.map((p) => p[k])) + s * ROUND
  const found: { readonly at: Point3; readonly cost: number }[] = []
  for (let x = bound(0, -1); x <= bound(0, 1); x += STEP)
    for (let y = bound(1, -1); y <= bound(1, 1); y += STEP)
      for (let z = Math.max(lowest, bound(2, -1)); z <= Math.max(lowest, bound(2, 1)); z += STEP) {
        const at: Point3 = [x, y, z]
        const lid = heightAt(bonnet, x, y)
        if (lid !== undefined && z > lid - BONNET_ASKED - radiusM - 0.005) continue
        if (taken.some((t) => Math.hypot(t[0] - x, t[1] - y, t[2] - z) < APART)) continue
        if (!boxes.every(({ box, keepM }) => distanceToBox(at, box) > keepM)) continue
        const away = ends.map((e) => Math.hypot(e[0] - x, e[1] - y, e[2] - z))
        // near to each, and not on top of any
        found.push({ at, cost: away.reduce((sum, d) => sum + d + Math.max(0, 0.12 - d), 0) })
      }
  let best: { readonly at: Point3; readonly cost: number } | undefined
  for (const { at, cost } of found.toSorted((p, q) => p.cost - q.cost)) {
    if (best && cost >= best.cost) break
    // from where it sees what its hoses go to, they need no bends
    const hidden = ends.filter((e) => boxInWay(space, [e, at], 0) !== undefined).length
    if (!best || cost + HIDDEN * hidden < best.cost) best = { at, cost: cost + HIDDEN * hidden }
  }
  return best?.at
}

/** The build with what hangs in hoses placed: valves and tees between what they join, vent filters over their cans. */
export function withLooseParts(build: Build, cans: ReadonlySet<string>): Build {
  let now = withPiecesAtMouths(build)
  const variant = activeVariant(now)
  const loose = looseParts(now, variant)
  const settled = new Set(
    variant.parts.filter((p) => !loose.includes(p) && (p.kind !== 'can' || cans.has(p.id))).map((p) => p.id),
  )
  for (const part of loose) {
    const can = part.kind === 'filter' ? canOfVent(variant, part) : undefined
    const body = can && canBody(now.bay, can)
    const taken = now.bay!.spots.flatMap((s) => (s.id !== part.id && settled.has(s.id) ? [pointOf(s)] : []))
    const lowest = body ? body.floor[2] + body.heightM + OVER_LID : -Infinity
    const at = freePlace(now, hungBetween(now, variant, part, settled), lowest, taken)
    if (!at) continue
    now = withSpots(now, new Map([[spotId(part, ''), at]]))
    settled.add(part.id)
  }
  return now
}
