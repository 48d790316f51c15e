/**
 * Where everything stands on the schematic. The engine's own parts have fixed places on its picture; what is plumbed between them is strung
 * along lanes above it, shortest spans lowest. Pure and stable: a part keeps its place while its chain does.
 */
import type { Engine, Line, Part, PartKind, Variant } from '@/plan/document/schema'
import { isThrough, KINDS } from '@/plan/document/kinds'

export type Point2 = readonly [x: number, y: number]
export type PlacedPart = { readonly part: Part; readonly at: Point2; readonly onEngine: boolean }
export type StraightRun = { readonly line: Line; readonly points: readonly Point2[] }
export type SchematicLayout = {
  readonly parts: readonly PlacedPart[]
  readonly runs: readonly StraightRun[]
  /** parts that screw into each other, free of the engine's own picture */
  readonly joins: readonly { readonly id: string; readonly points: readonly Point2[] }[]
  /** top of what is drawn: more lanes reach higher */ readonly top: number
}

export const VIEW = { width: 484, height: 400 }
/** half the angle between banks, degrees */
export const BANK: Readonly<Record<Engine['layout'], number>> = { inline: 0, vee: 36, flat: 66 }
/** Where the plenum of a layout stands, and the intake's pipe ends. */
export const plenumX = ({ layout }: Pick<Engine, 'layout'>) => (layout === 'inline' ? 398 : 418)
export const CRANK: Point2 = [230, 318]
/** from one lane of hoses to the next */
const LANE = 44
/** between two parts that screw into each other */
const CLOSE = 36

/** what stands beside the sump is joined beside it, not over the covers */
const LOW: readonly PartKind[] = ['crankcase', 'tank']
function lowPath(from: Point2, to: Point2, fromCrankcase: boolean): Point2[] {
  const [sump, tank] = fromCrankcase ? [from, to] : [to, from]
  const path: Point2[] = [
    [sump[0] - 50, sump[1]],
    [tank[0], sump[1]],
    [tank[0], tank[1] + 28],
  ]
  return fromCrankcase ? path : path.toReversed()
}

const INTERNAL: readonly PartKind[] = ['crankcase', 'passage', 'cover']

/** Middle of a cam cover's top on a bank leaning `deg` from upright. */
export function coverTop(deg: number): Point2 {
  const a = (deg * Math.PI) / 180
  const reach = deg === 0 ? 158 : 132
  return [CRANK[0] + Math.sin(a) * reach, CRANK[1] - Math.cos(a) * reach]
}

/** Places on the engine: left and right bank by order of the covers. */
function anchors(variant: Variant, engine: Engine): Map<string, Point2> {
  const at = new Map<string, Point2>()
  const lean = BANK[engine.layout]
  const order = (kind: PartKind) => variant.parts.filter((p) => p.kind === kind)
  const bank = (i: number, n: number) => (lean === 0 ? 0 : n === 1 || i === 0 ? -lean : lean)
  const covers = order('cover')
  covers.forEach((p, i) => at.set(p.id, coverTop(bank(i, covers.length))))
  order('tank').forEach((p, i) => at.set(p.id, p.at ? [p.at.x, p.at.y] : [112, 290 - i * 70]))
  // passages between crankcase and covers; others are no part of the picture
  const covered = new Set(covers.map((p) => p.id))
  const passages = order('passage').filter((p) =>
    variant.lines.some(
      (l) => (l.from.part === p.id && covered.has(l.to.part)) || (l.to.part === p.id && covered.has(l.from.part)),
    ),
  )
  passages.forEach((p, i) => {
    const top = coverTop(bank(i, passages.length))
    at.set(p.id, [CRANK[0] + (top[0] - CRANK[0]) * 0.52, CRANK[1] + (top[1] - CRANK[1]) * 0.52])
  })
  order('crankcase').forEach((p) => at.set(p.id, [CRANK[0], 352]))
  order('manifold').forEach((p, i) => at.set(p.id, [plenumX(engine), 196 + i * 30]))
  order('inlet').forEach((p, i) => at.set(p.id, [42, 232 + i * 44]))
  order('chargePipe').forEach((p, i) => at.set(p.id, [300 + i * 40, 384]))
  order('blowerInlet').forEach((p, i) => at.set(p.id, [plenumX(engine), 292 + i * 20]))
  order('exhaust').forEach((p, i) => at.set(p.id, [120, 350 + i * 20]))
  return at
}

type PathStep = { readonly line: Line; readonly forward: boolean }
type Chain = {
  readonly from: string
  readonly to: string | undefined
  readonly steps: readonly PathStep[]
  readonly free: readonly string[]
}

/** Strings of free parts from one placed part to the next. */
function chainsOf(variant: Variant, placed: ReadonlySet<string>): Chain[] {
  const parts = new Map(variant.parts.map((p) => [p.id, p]))
  const used = new Set<string>()
  const chains: Chain[] = []
  const known = new Set(placed)
  const touching = (id: string) =>
    variant.lines.filter((l) => l.kind !== 'drain' && !used.has(l.id) && (l.from.part === id || l.to.part === id))
  const grow = (start: string) => {
    for (const first of touching(start)) {
      if (used.has(first.id)) continue
      const steps: PathStep[] = []
      const free: string[] = []
      let here = start
      let line: Line | undefined = first
      while (line) {
        used.add(line.id)
        const forward: boolean = line.from.part === here
        steps.push({ line, forward })
        here = forward ? line.to.part : line.from.part
        if (known.has(here)) break
        known.add(here)
        free.push(here)
        line = touching(here)[0]
      }
      chains.push({ from: start, to: placed.has(here) || !free.includes(here) ? here : undefined, steps, free })
      // branches of a tee grow from it
      for (const id of free) if (!isThrough(parts.get(id)!.kind)) queue.push(id)
    }
  }
  const queue = variant.parts.filter((p) => placed.has(p.id)).map((p) => p.id)
  for (let id = queue.shift(); id !== undefined; id = queue.shift()) grow(id)
  return chains
}

const lengthOf = (points: readonly Point2[]) =>
  points.reduce((s, p, i) => (i === 0 ? 0 : s + Math.hypot(p[0] - points[i - 1]![0], p[1] - points[i - 1]![1])), 0)

/** The part of a polyline between two distances along it. */
function slice(points: readonly Point2[], from: number, to: number): Point2[] {
  const out: Point2[] = []
  let walked = 0
  const on = (a: Point2, b: Point2, d: number, l: number): Point2 => [
    a[0] + ((b[0] - a[0]) * d) / l,
    a[1] + ((b[1] - a[1]) * d) / l,
  ]
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1]!, points[i]!]
    const l = Math.hypot(b[0] - a[0], b[1] - a[1])
    if (l > 0 && walked + l >= from && walked <= to) {
      if (out.length === 0) out.push(on(a, b, Math.max(0, from - walked), l))
      out.push(on(a, b, Math.min(l, to - walked), l))
    }
    walked += l
  }
  return out
}

export function schematicLayout(variant: Variant, engine: Engine): SchematicLayout {
  const at = anchors(variant, engine)
  const parts = new Map<string, Part>(variant.parts.map((p) => [p.id, p]))
  const onEngine = new Set(at.keys())
  const chains = chainsOf(variant, onEngine)
  const internal = (c: Chain) =>
    c.free.length === 0 && c.steps.every((s) => s.line.kind === 'direct') && INTERNAL.includes(parts.get(c.from)!.kind)
  const open = chains.filter((c) => !internal(c))
  const runs: StraightRun[] = []

  // ports along a cover's top, spread so that lines that go left leave on the left
  const xOf = (id: string | undefined, fallback: number) =>
    id === undefined ? fallback : (at.get(id)?.[0] ?? fallback)
  const leaving = new Map<string, Chain[]>()
  for (const c of open)
    for (const id of [c.from, c.to])
      if (id !== undefined && onEngine.has(id)) leaving.set(id, [...(leaving.get(id) ?? []), c])
  // sorted before anything between the engine's own parts has its place: no two chains may take one port for theirs
  const sorted = new Map(
    [...leaving].map(([id, here]) => {
      const other = (k: Chain) => xOf(k.from === id ? k.to : k.from, 440)
      return [id, here.toSorted((a, b) => other(a) - other(b))]
    }),
  )
  const portX = (id: string, c: Chain): number => {
    // a branch leaves a tee from its middle
    if (!onEngine.has(id)) return at.get(id)?.[0] ?? 230
    const here = sorted.get(id) ?? []
    const spread = parts.get(id)?.kind === 'cover' ? 52 : 30
    return (at.get(id)?.[0] ?? 230) + (here.indexOf(c) - (here.length - 1) / 2) * spread
  }
  const portY = (id: string) =>
    (at.get(id)?.[1] ?? 120) - (!onEngine.has(id) ? 0 : parts.get(id)?.kind === 'cover' ? 8 : 14)

  /** a chain that ends in the open runs out to the right, by as much as its parts need; to the left where there is no room */
  const openEnd = (c: Chain): number => {
    const from = portX(c.from, c)
    const need = 60 + 56 * c.free.length
    return from + need <= 440 ? from + need : from - need >= 30 ? from - need : 440
  }
  const span = (c: Chain) => Math.abs(portX(c.from, c) - (c.to === undefined ? 440 : portX(c.to, c)))
  // two chains may share a lane when neither reaches over the other; the nearest lane that is free is taken
  const lanes: (readonly [number, number])[][] = []
  const laneFor = (from: number, to: number): number => {
    const [left, right] = [Math.min(from, to) - 16, Math.max(from, to) + 16]
    let k = 0
    while (lanes[k]?.some(([a, b]) => left < b && right > a)) k++
    ;(lanes[k] ??= []).push([left, right])
    return 104 - k * LANE
  }
  open
    .toSorted((a, b) => span(a) - span(b))
    .forEach((c) => {
      const reach = c.to === undefined ? openEnd(c) : portX(c.to, c)
      const lane = laneFor(portX(c.from, c), reach)
      const a: Point2 = [portX(c.from, c), portY(c.from)]
      const b: Point2 = c.to === undefined ? [openEnd(c), lane] : [portX(c.to, c), portY(c.to)]
      const low = c.to !== undefined && LOW.includes(parts.get(c.from)!.kind) && LOW.includes(parts.get(c.to)!.kind)
      const path: Point2[] = low
        ? lowPath(at.get(c.from)!, at.get(c.to!)!, parts.get(c.from)!.kind === 'crankcase')
        : [a, [a[0], lane], [b[0], lane], b]
      const total = lengthOf(path)
      // ports that are one opening stand close; hoses share what is left of the way
      const gap = (k: number) => (k === 0 || (c.to !== undefined && k === c.steps.length - 1) ? 22 : CLOSE)
      const hoses = c.steps.filter((s) => s.line.kind !== 'direct').length
      const fixed = c.steps.reduce((sum, s, k) => sum + (s.line.kind === 'direct' ? gap(k) : 0), 0)
      const each = hoses > 0 ? Math.max(12, total - fixed) / hoses : 0
      const shrink = hoses > 0 ? Math.min(1, total / (fixed + each * hoses)) : total / Math.max(1, fixed)
      let walked = 0
      const stops = c.free.map((_, k) => {
        walked += (c.steps[k]!.line.kind === 'direct' ? gap(k) : each) * (hoses > 0 ? shrink : Math.min(1, shrink))
        return c.to === undefined && k === c.free.length - 1 && hoses > 0 ? total : walked
      })
      c.free.forEach((id, k) => {
        const part = parts.get(id)!
        const [p] = slice(path, stops[k]!, stops[k]! + 0.01)
        at.set(id, part.at ? [part.at.x, part.at.y] : (p ?? a))
      })
      const marks = [0, ...stops, total]
      c.steps.forEach((s, k) => {
        if (s.line.kind === 'direct') return
        const moved = [c.free[k - 1], c.free[k]].some((id) => id !== undefined && parts.get(id)?.at)
        const points = moved
          ? elbow(at.get(c.free[k - 1] ?? c.from) ?? a, at.get(c.free[k] ?? c.to ?? c.from) ?? b)
          : slice(path, marks[k]!, marks[k + 1] ?? total)
        runs.push({ line: s.line, points: s.forward ? points : points.toReversed() })
      })
    })

  // drains hang between what the gas has already placed
  for (const line of variant.lines) {
    const [a, b] = [at.get(line.from.part), at.get(line.to.part)]
    if (line.kind === 'drain' && a && b) runs.push({ line, points: elbow([a[0] + 8, a[1]], [b[0] + 14, b[1]]) })
  }

  // what nothing joins stands in a row at the foot, in sight
  let spare = 40
  for (const p of variant.parts)
    if (!at.has(p.id)) {
      at.set(p.id, [spare, 388])
      spare += 70
    }
  const joins = variant.lines.flatMap((l) => {
    const [a, b] = [at.get(l.from.part), at.get(l.to.part)]
    if (l.kind !== 'direct' || !a || !b || (onEngine.has(l.from.part) && onEngine.has(l.to.part))) return []
    return [{ id: l.id, points: level(a, b) ? [a, b] : elbow(a, b) }]
  })
  // no room is kept above the highest of what is drawn
  const top = Math.min(
    60,
    ...[...at.values()].map((p) => p[1] - 44),
    ...runs.flatMap((r) => r.points.map((p) => p[1] - 34)),
  )
  return {
    parts: variant.parts.map((part) => ({
      part,
      at: at.get(part.id)!,
      onEngine: onEngine.has(part.id) && KINDS[part.kind].engine === true,
    })),
    runs,
    joins,
    top,
  }
}

/** Two points on one level or one plumb line. */
const level = (a: Point2, b: Point2) => Math.abs(a[0] - b[0]) < 4 || Math.abs(a[1] - b[1]) < 4

const elbow = (a: Point2, b: Point2): Point2[] => [a, [a[0], b[1]], b]

/** SVG path of a polyline with its corners rounded. */
export function roundedPath(points: readonly Point2[], radius = 14): string {
  if (points.length < 2) return ''
  let d = `M${points[0]![0]} ${points[0]![1]}`
  for (let i = 1; i < points.length - 1; i++) {
    const [p, q, r] = [points[i - 1]!, points[i]!, points[i + 1]!]
    const [l1, l2] = [Math.hypot(q[0] - p[0], q[1] - p[1]), Math.hypot(r[0] - q[0], r[1] - q[1])]
    const k = Math.min(radius, l1 / 2, l2 / 2)
    if (k < 0.5) {
      d += `L${q[0]} ${q[1]}`
      continue
    }
    d += `L${q[0] - ((q[0] - p[0]) * k) / l1} ${q[1] - ((q[1] - p[1]) * k) / l1}Q${q[0]} ${q[1]} ${q[0] + ((r[0] - q[0]) * k) / l2} ${q[1] + ((r[1] - q[1]) * k) / l2}`
  }
  const end = points[points.length - 1]!
  return `${d}L${end[0]} ${end[1]}`
}
