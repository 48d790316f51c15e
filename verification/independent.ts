/**
 * A plan's pressures found a second time, from the document alone: its own reader, its own laws (from the same sources), Newton with differences.
 * It shares no code with `core/network` or `plan/model`, is slow and has no cleverness, so that a slip in one is not a slip in both.
 */
import type { LineEnd, Part, Variant } from '../src/plan/document/schema'

const [R, GAMMA] = [287.05, 1.4]
const area = (mm: number) => (Math.PI / 4) * (mm / 1000) ** 2

/** What a state says of the surroundings: Pa absolute, kg/s, K. */
export type OutsideAir = {
  readonly ambientPa: number
  readonly manifoldPa: number
  readonly inletDepressionPa: number
  readonly flowShare: number
  readonly rpm: number
  readonly gasK: number
  readonly blowBy: number
}

/** Flow kg/s from the pressures at its ends; positive onwards. */
type Law = (p1: number, p2: number) => number
type Branch = { readonly id: string; readonly from: string; readonly to: string; readonly law: Law }

const CD = { passage: 0.6, pcv: 0.7, check: 0.62, relief: 0.62, restrictor: 0.62, regulator: 0.62, sensor: 0.9 }

/** Isentropic nozzle (any text on gas dynamics), one way. */
function nozzle(cdA: number, p1: number, p2: number, T: number): number {
  if (p1 <= p2) return 0
  const r = Math.max(p2 / p1, (2 / (GAMMA + 1)) ** (GAMMA / (GAMMA - 1)))
  const psi = Math.sqrt(((2 * GAMMA) / (GAMMA - 1)) * (r ** (2 / GAMMA) - r ** ((GAMMA + 1) / GAMMA)))
  return (cdA * p1 * psi) / Math.sqrt(R * T)
}
const hole =
  (cdA: number, T: number): Law =>
  (p1, p2) =>
    nozzle(cdA, p1, p2, T) - nozzle(cdA, p2, p1, T)

/** dp = a Q + b rho Q^2 at the mean density, from the drop at 100 l/min of 1.2 kg/m3. */
function drop(kpaAt100: number, linear: number, T: number): Law {
  const q = 0.1 / 60
  const dp = kpaAt100 * 1000
  const a = dp > 0 ? (linear * dp) / q : 0.1 / q
  const b = ((1 - linear) * dp) / (1.2 * q * q)
  return (p1, p2) => {
    const rho = (p1 + p2) / 2 / (R * T)
    const over = Math.abs(p1 - p2)
    const Q = (2 * over) / (a + Math.sqrt(a * a + 4 * b * rho * over))
    return Math.sign(p1 - p2) * Q * rho
  }
}

/** Darcy friction: laminar, Colebrook by repetition, straight in Re between 2 000 and 4 000. */
function friction(re: number, rel: number): number {
  if (re <= 2000) return 64 / re
  const rough = (at: number) => {
    for (let x = 7, k = 0; ; k++) {
      const next = -2 * Math.log10(rel / 3.7 + (2.51 * x) / at)
      if (Math.abs(next - x) < 1e-13 || k > 60) return 1 / (next * next)
      x = next
    }
  }
  return re >= 4000 ? rough(re) : 0.032 + ((rough(4000) - 0.032) * (re - 2000)) / 2000
}

/** Sutherland's viscosity of air. */
const viscosity = (T: number) => 1.716e-5 * (T / 273.15) ** 1.5 * ((273.15 + 110.4) / (T + 110.4))

type HoseSizes = {
  readonly boreMm: number
  readonly lengthMm: number
  readonly bends: readonly { readonly angleDeg: number; readonly radiusMm: number }[]
  readonly elbows: readonly number[]
  /** least bore at each end and whether it opens into a space */
  readonly ends: readonly (readonly [boreMm: number, space: boolean])[]
}

/** p1^2 - p2^2 = G^2 R T (f L/D + K), losses by Rennels & Hudson; the flow by steps of its square root, or halving. */
function hose({ boreMm, lengthMm, bends, elbows, ends }: HoseSizes, T: number): Law {
  const D = boreMm / 1000
  const mu = viscosity(T)
  const enters = ([bore, space]: readonly [number, boolean]) => {
    const beta = bore / boreMm
    return ((space ? 0.5 : 0) + (1 - beta ** 2) ** 2) / beta ** 4
  }
  const leaves = ([bore, space]: readonly [number, boolean]) => {
    const beta = bore / boreMm
    const lambda = 1 + 0.622 * (1 - 0.215 * beta ** 2 - 0.785 * beta ** 5)
    const narrows = 0.0696 * (1 - beta ** 5) * lambda ** 2 + (lambda - 1) ** 2
    return ((space ? 1 : 0) + narrows) / beta ** 4
  }
  const K = (f: number, [first, last]: HoseSizes['ends']) => {
    const bent = bends.reduce((sum, { angleDeg, radiusMm }) => {
      const [a, s, rd] = [(angleDeg * Math.PI) / 180, Math.sin((angleDeg * Math.PI) / 360), radiusMm / boreMm]
      return sum + f * a * rd + (0.1 + 2.4 * f) * s + (6.6 * f * (Math.sqrt(s) + s)) / rd ** ((4 * a) / Math.PI)
    }, 0)
    const mitred = elbows.reduce((sum, deg) => {
      const s = Math.sin((deg * Math.PI) / 360)
      return sum + 0.42 * s + 2.56 * s ** 3
    }, 0)
    return bent + mitred + enters(first!) + leaves(last!)
  }
  const forward = (p1: number, p2: number, along: HoseSizes['ends']) => {
    const wanted = p1 * p1 - p2 * p2
    if (wanted <= 0) return 0
    const dropAt = (G: number) => {
      const f = friction(Math.max(1e-9, (G * D) / mu), 1.5e-6 / D)
      return G * G * R * T * ((f * lengthMm) / boreMm + K(f, along))
    }
    let [low, high] = [0, 1]
    while (dropAt(high) < wanted) high *= 2
    let G = high
    for (let k = 0; k < 80 && high - low > 1e-14 * high; k++) {
      const over = dropAt(G) - wanted
      if (over < 0) low = G
      else high = G
      // nearly a square: a step that way, or halving where it leaves the bounds
      const step = G * Math.sqrt(wanted / (over + wanted))
      if (Math.abs(step - G) < 1e-14 * G) break
      G = step > low && step < high ? step : (low + high) / 2
    }
    return G * area(boreMm)
  }
  return (p1, p2) => (p1 >= p2 ? forward(p1, p2, ends) : -forward(p2, p1, ends.toReversed()))
}

const barb = (end: LineEnd, boreMm: number) => end.barbMm ?? Math.max(boreMm - 3.2, boreMm / 2)
const portBore = (part: Part, id: string) => part.ports.find((p) => p.id === id)?.boreMm ?? Infinity
const THROUGH = new Set([
  'passage',
  'pcv',
  'check',
  'regulator',
  'relief',
  'pump',
  'restrictor',
  'can',
  'sensor',
  'filter',
])
const HELD = new Set(['manifold', 'inlet', 'chargePipe', 'blowerInlet', 'exhaust', 'atmosphere'])

function partLaw(part: Part, at: OutsideAir): Law {
  const T = at.gasK
  switch (part.kind) {
    case 'passage':
      return hole((part.cd ?? CD.passage) * area(part.boreMm) * part.count, T)
    case 'restrictor':
      return hole((part.cd ?? CD.restrictor) * area(part.boreMm), T)
    case 'sensor':
      return hole(CD.sensor * area(part.boreMm), T)
    case 'can':
    case 'filter':
      return drop(part.dropKpaAt100 * (part.fouling ?? 1), part.linearPct / 100, T)
    case 'check':
    case 'relief': {
      const opensAt = 1000 * (part.kind === 'check' ? part.crackKpa : part.openKpa)
      return (p1, p2) => nozzle((part.cd ?? CD.check) * area(part.seatMm), p1 - opensAt, p2, T)
    }
    case 'pcv': {
      const points = part.areaMm2ByKpa
      const open = (kpa: number) => {
        if (kpa <= points[0]![0]) return points[0]![1]
        const k = points.findIndex(([x]) => x >= kpa)
        if (k < 0) return points.at(-1)![1]
        const [[x1, y1], [x2, y2]] = [points[k - 1]!, points[k]!]
        return y1 + ((y2 - y1) * (kpa - x1)) / (x2 - x1)
      }
      return (p1, p2) => nozzle((part.cd ?? CD.pcv) * open((p1 - p2) / 1000) * 1e-6, p1, p2, T)
    }
    case 'regulator': {
      const cdA = (part.cd ?? CD.regulator) * area(part.boreMm)
      const shut = at.ambientPa + 1000 * (part.setKpa - part.bandKpa / 2)
      return (p1, p2) => {
        const lift = Math.min(1, Math.max(0, (p1 - shut) / (1000 * part.bandKpa)))
        return p1 >= p2 ? lift * nozzle(cdA, p1, p2, T) : -nozzle(cdA, p2, p1, T)
      }
    }
    default:
      throw new Error(`${part.kind} is not one that this knows`)
  }
}

function heldAt(part: Part, at: OutsideAir): number {
  const tract = at.ambientPa - at.inletDepressionPa
  switch (part.kind) {
    case 'manifold':
      return at.manifoldPa
    case 'inlet':
      return at.ambientPa - (at.inletDepressionPa * part.depressionPct) / 100
    case 'chargePipe':
      return Math.max(at.manifoldPa, tract)
    case 'blowerInlet':
      return Math.min(at.manifoldPa, tract)
    case 'exhaust':
      return at.ambientPa - part.suctionKpa * 1000 * at.flowShare ** 2
    default:
      return at.ambientPa
  }
}

/** A leg of a tee: the branch that runs there with its sign into the tee, and its bore's area; none for what is capped or left over. */
type Leg = { readonly id: string | undefined; readonly into: 1 | -1; readonly areaM2: number; readonly capped: boolean }
type Tee = { readonly joint: string; readonly legs: readonly Leg[] }

/**
 * Pressures at the legs of a tee over that of its first, Pa, by Crane TP-410 (2009) and Idelchik, every loss counted from the leg that carries
 * all: a stream into the branch, out of it, straight on, or both runs by the branch.
 */
function crane(m: readonly number[], areas: readonly number[], rho: number): number[] {
  const sizes = m.map(Math.abs)
  const order = m.map((_, i) => i).toSorted((i, j) => sizes[j]! - sizes[i]!)
  const run = Math.max(areas[0]!, areas[1]!)
  const from = (c: number) => {
    if (m[c] === 0) return m.map(() => 0)
    const joining = m[c]! < 0
    const velocity = m[c]! / rho / (c < 2 ? run : areas[c]!)
    const head = (rho * velocity * velocity) / 2
    const q = m.map((x) => Math.min(1, Math.max(0, -x / m[c]!)))
    const branch = m
      .map((_, i) => i)
      .slice(2)
      .toSorted((i, j) => sizes[j]! - sizes[i]!)[0]
    const K = m.map((_, i) => {
      if (i === c) return 0
      if (i < 2 && c >= 2) {
        const a = areas[c]! / run
        return joining ? 1 + a * a * (1 + 3 * (q[i]! ** 2 - q[i]!)) : 1 + 0.3 * (q[i]! * a) ** 2
      }
      if (i < 2) {
        const y = 1 - q[i]!
        if (joining) return 1.55 * y - y * y
        if (branch !== undefined && areas[branch]! / run <= 0.16) return 0.4 * y * y
        return y <= 0.5 ? 2 * (2 * y - 1) * y * y : 0.3 * (2 * y - 1) * y * y
      }
      const b2 = areas[i]! / (c < 2 ? run : areas[c]!)
      const y = q[i]!
      if (joining) {
        const over = Math.min(1, Math.max(0, (y - 0.4) / 0.005))
        const C = b2 <= 0.35 ? 1 : 0.9 * (1 - y) + over * (0.55 - 0.9 * (1 - y))
        return C * (1 + (y / b2) ** 2 - 2 * (1 - y) ** 2)
      }
      const wide = Math.min(1, Math.max(0, (b2 - 0.5) / 0.3))
      return (1 - wide) * (1 + (y / b2) ** 2) + wide * (1 + 0.3 * y * y) ** 2
    })
    const gain = Math.min(
      0,
      K.reduce((sum, k, i) => sum + q[i]! * k, 0),
    )
    const over = K.map((k, i) => (i === c ? 0 : (joining ? 1 : -1) * head * (k - gain)))
    return over.map((pa) => pa - over[0]!)
  }
  const [c, d] = order as [number, number]
  const apart = sizes[c]! > 0 ? 1 - sizes[d]! / sizes[c]! : 1
  const own = from(c)
  if (apart >= 0.1) return own
  const near = apart / 0.1
  const w = c < 2 === d < 2 ? 0.5 + 0.5 * near : c < 2 ? 1 : near
  const other = from(d)
  return own.map((pa, i) => w * pa + (1 - w) * other[i]!)
}

type Circuit = {
  readonly tees: readonly Tee[]
  readonly branches: readonly Branch[]
  readonly held: ReadonlyMap<string, number>
  readonly crankcase: string
  readonly jointOf: (part: string, port: string) => string
}

/** Joints and branches of a plan. Undefined for one with pumps or stuck parts, which this does not know. */
function circuitOf(variant: Variant, at: OutsideAir): Circuit | undefined {
  if (variant.parts.some((p) => p.kind === 'pump' || ('stuck' in p && p.stuck !== undefined))) return undefined
  const partOf = new Map(variant.parts.map((p) => [p.id, p]))
  const name = (e: { part: string; port: string }) => `${e.part}.${e.port}`
  const fromBelow = (l: Variant['lines'][number]) => [l.from, l.to].some((e) => partOf.get(e.part)!.kind === 'passage')
  // ports of a cover behind a baffle: those that gas leaves by
  const baffled = new Map<string, number>()
  for (const l of variant.lines)
    for (const e of [l.from, l.to]) {
      const part = partOf.get(e.part)!
      const kpa = part.ports.find((p) => p.id === e.port)?.lossKpaAt100 ?? 0.5
      if (l.kind !== 'drain' && part.kind === 'cover' && !fromBelow(l) && kpa > 0) baffled.set(name(e), kpa)
    }
  const own = (e: { part: string; port: string }) =>
    THROUGH.has(partOf.get(e.part)!.kind) || baffled.has(name(e)) ? name(e) : e.part
  const direct = variant.lines.filter((l) => l.kind === 'direct').map((l) => [own(l.from), own(l.to)] as const)
  const leader = (joint: string, seen = new Set([joint])): string => {
    for (const [a, b] of direct)
      for (const [x, y] of [
        [a, b],
        [b, a],
      ] as const)
        if (seen.has(x) && !seen.has(y)) return leader(joint, seen.add(y))
    return [...seen].toSorted()[0]!
  }
  const jointOf = (part: string, port: string) => leader(own({ part, port }))
  const at2 = (e: LineEnd, boreMm: number): readonly [number, boolean] => {
    const part = partOf.get(e.part)!
    return [Math.min(boreMm, barb(e, boreMm), portBore(part, e.port)), !THROUGH.has(part.kind) && part.kind !== 'tee']
  }
  const branches: Branch[] = [
    ...variant.parts.flatMap((p) =>
      THROUGH.has(p.kind)
        ? [{ id: p.id, from: jointOf(p.id, 'in'), to: jointOf(p.id, 'out'), law: partLaw(p, at) }]
        : [],
    ),
    ...[...baffled].map(([port, kpa]) => {
      const [part, id] = port.split('.') as [string, string]
      return { id: port, from: leader(part), to: jointOf(part, id), law: drop(kpa, 0.1, at.gasK) }
    }),
    ...variant.lines.flatMap((l) =>
      l.kind === 'hose'
        ? [
            {
              id: l.id,
              from: jointOf(l.from.part, l.from.port),
              to: jointOf(l.to.part, l.to.port),
              law: hose(
                {
                  boreMm: l.boreMm,
                  lengthMm: l.lengthMm,
                  bends: l.bends,
                  elbows: [l.from.elbowDeg ?? 0, l.to.elbowDeg ?? 0].filter((deg) => deg > 0),
                  ends: [at2(l.from, l.boreMm), at2(l.to, l.boreMm)],
                },
                at.gasK,
              ),
            },
          ]
        : [],
    ),
  ]
  const held = new Map(variant.parts.flatMap((p) => (HELD.has(p.kind) ? [[leader(p.id), heldAt(p, at)] as const] : [])))
  const legOf = (tee: string, port: string): Leg => {
    const line = variant.lines.find(
      (l) => l.kind !== 'drain' && [l.from, l.to].some((e) => e.part === tee && e.port === port),
    )
    if (!line) return { id: undefined, into: 1, areaM2: 0, capped: true }
    const outward = line.from.part === tee && line.from.port === port
    const [here, there] = outward ? [line.from, line.to] : [line.to, line.from]
    if (line.kind === 'hose')
      return { id: line.id, into: outward ? -1 : 1, areaM2: area(at2(here, line.boreMm)[0]), capped: false }
    if (THROUGH.has(partOf.get(there.part)!.kind))
      return { id: there.part, into: there.port === 'in' ? -1 : 1, areaM2: 0, capped: false }
    return { id: baffled.has(name(there)) ? name(there) : undefined, into: 1, areaM2: 0, capped: false }
  }
  const tees = variant.parts.flatMap((p) =>
    p.kind === 'tee'
      ? [{ joint: jointOf(p.id, p.ports[0]!.id), legs: p.ports.map((port) => legOf(p.id, port.id)) }]
      : [],
  )
  return { branches, tees, held, crankcase: leader(variant.parts.find((p) => p.kind === 'crankcase')!.id), jointOf }
}

/** Straight elimination with the largest pivot. */
function solveLinear(a: number[][], b: number[]): number[] {
  const n = b.length
  for (let k = 0; k < n; k++) {
    let best = k
    for (let i = k + 1; i < n; i++) if (Math.abs(a[i]![k]!) > Math.abs(a[best]![k]!)) best = i
    ;[a[k], a[best]] = [a[best]!, a[k]!]
    ;[b[k], b[best]] = [b[best]!, b[k]!]
    for (let i = k + 1; i < n; i++) {
      const m = a[i]![k]! / a[k]![k]!
      for (let j = k; j < n; j++) a[i]![j]! -= m * a[k]![j]!
      b[i]! -= m * b[k]!
    }
  }
  for (let i = n - 1; i >= 0; i--) {
    for (let j = i + 1; j < n; j++) b[i]! -= a[i]![j]! * b[j]!
    b[i]! /= a[i]![i]!
  }
  return b
}

/**
 * Gauge pressure, Pa, of every port of what is joined to the crankcase; undefined for plans that this does not know and where it finds no rest.
 * @param near where it begins, Pa gauge by `part.port`; any will do
 */
export function pressuresOf(
  variant: Variant,
  at: OutsideAir,
  near: (port: string) => number,
): Map<string, number> | undefined {
  const circuit = circuitOf(variant, at)
  if (!circuit) return undefined
  const { branches, held, crankcase, jointOf, tees } = circuit
  const reached = new Set([crankcase])
  for (let grew = true; grew;) {
    grew = false
    for (const { from, to } of branches)
      if (reached.has(from) !== reached.has(to)) {
        reached.add(from).add(to)
        grew = true
      }
  }
  const free = [...reached].filter((j) => !held.has(j))
  const p = new Map<string, number>(held)
  const ports = variant.parts.flatMap((q) =>
    q.ports.map((port) => [`${q.id}.${port.id}`, jointOf(q.id, port.id)] as const),
  )
  for (const j of free) {
    const port = ports.find(([, joint]) => joint === j)?.[0]
    p.set(j, at.ambientPa + (port === undefined ? 0 : near(port)))
  }
  // a trickle ties what a shut valve cuts off
  const shift = new Map<string, number>()
  const flow = ({ id, law, from, to }: Branch) => {
    const [p1, p2] = [p.get(from)! + (shift.get(`${id}<`) ?? 0), p.get(to)! + (shift.get(`${id}>`) ?? 0)]
    return law(p1, p2) + 1e-15 * (p1 - p2)
  }
  const residual = () => {
    const sum = new Map(free.map((j) => [j, j === crankcase ? at.blowBy : 0]))
    for (const b of branches) {
      if (!reached.has(b.from)) continue
      const m = flow(b)
      if (sum.has(b.from)) sum.set(b.from, sum.get(b.from)! - m)
      if (sum.has(b.to)) sum.set(b.to, sum.get(b.to)! + m)
    }
    return free.map((j) => sum.get(j)!)
  }
  const size = (r: readonly number[]) => Math.max(...r.map(Math.abs))
  /** Newton at the tees' pressures of now; false where it finds no rest. */
  const settle = () => {
    let r = residual()
    for (let round = 0; round < 200 && size(r) > 1e-12; round++) {
      const h = 1e-3
      const columns = free.map((j) => {
        const before = p.get(j)!
        p.set(j, before + h)
        const moved = residual()
        p.set(j, before)
        return moved.map((v, i) => (v - r[i]!) / h)
      })
      const step = solveLinear(
        free.map((_, i) => columns.map((c) => c[i]!)),
        r.map((v) => -v),
      )
      const before = free.map((j) => p.get(j)!)
      let share = 1
      let next: number[] = r
      for (; share > 1e-6; share /= 2) {
        free.forEach((j, i) => p.set(j, before[i]! + share * Math.max(-2000, Math.min(2000, step[i]!))))
        next = residual()
        if (size(next) < size(r)) break
      }
      if (share <= 1e-6) break
      r = next
    }
    return size(r) <= 1e-9
  }
  if (!settle()) return undefined
  // tees a quarter of the way each time, until their pressures are those of their flows
  for (let round = 0, off = tees.length > 0 ? Infinity : 0; off > 0.02; round++) {
    if (round > 400) return undefined
    off = 0
    for (const { joint, legs } of tees) {
      if (!reached.has(joint)) continue
      const widest = Math.max(...legs.map((l) => l.areaM2))
      if (widest <= 0) continue
      const m = legs.map((l) => (l.id === undefined ? 0 : l.into * flow(branches.find((b) => b.id === l.id)!)))
      const rest = -m.reduce((sum, x) => sum + x, 0)
      crane(
        legs.map((l, i) => (l.id === undefined && !l.capped ? rest : m[i]!)),
        legs.map((l) => l.areaM2 || widest),
        p.get(joint)! / (R * at.gasK),
      ).forEach((pa, i) => {
        const { id, into } = legs[i]!
        if (id === undefined) return
        const key = `${id}${into > 0 ? '>' : '<'}`
        const was = shift.get(key) ?? 0
        off = Math.max(off, Math.abs(pa - was))
        shift.set(key, was + (pa - was) / 4)
      })
    }
    if (!settle()) return undefined
  }
  return new Map(ports.flatMap(([port, j]) => (reached.has(j) ? [[port, p.get(j)! - at.ambientPa] as const] : [])))
}
