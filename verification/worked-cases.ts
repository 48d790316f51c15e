/** Worked cases: `{ case, answer }` in SI, run through the core and compared. */
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Element, Gas, Node } from '@/core/network/elements'
import { makeHose } from '@/core/network/hose'
import { flatLength, type BentStrip } from '@/core/bracket/bending'
import { firstFrequency, type LoadedStrip } from '@/core/bracket/vibration'
import { drainOf, wallis } from '@/core/drain/drain'
import { profileOf, type Point3 } from '@/core/drain/profile'
import { oilViscosity } from '@/core/gas/oil'
import { pathOf } from '@/core/route/path'
import { threadOf, type ThreadForm } from '@/core/sizes/threads'
import { untilFull, type Range } from '@/core/service/fill'
import { learn } from '@/core/service/learn'
import { nextFilling } from '@/core/service/next-filling'
import { CHANGE, SCATTER } from '@/core/service/prior'
import { solveNetwork } from '@/core/network/solve'
import { circleArea } from '@/core/circle'
import { headsLost } from '@/core/network/tee'
import { bendDeposition } from '@/core/separation/bend'
import type { Mode } from '@/core/separation/droplets'
import { burntWater, type FuelFormula } from '@/core/water/fuel'
import { separate } from '@/core/separation/separate'
import type { Stage } from '@/core/separation/stages'
import { condensedWater, dewPoint, WATER_KG_PER_MOL } from '@/core/water/vapour'

type Row = { readonly what: string; readonly expected: number; readonly got: number; readonly allowed: number }
export type CaseResult = { readonly file: string; readonly kind: string } & (
  | { readonly status: 'pass' | 'fail'; readonly rows: readonly Row[]; readonly worst: Row | undefined }
  | { readonly status: 'error'; readonly reason: string }
)

type CaseElement = {
  id: string
  from: string
  to: string
  kind: string
  Cd: number
  A: number
  crack: number
  area: [number, number][]
  a: number
  b: number
  D: number
  L: number
  roughness: number
  K: number
  bends: { angle: number; r: number }[]
  mitres: { angle: number }[]
}
type NetworkCase = { gas: Gas; nodes: Record<string, Node>; elements: CaseElement[] }
type NetworkAnswer = { pressure: Record<string, number>; flow: Record<string, number> }
type SeparatorCase = { T: number; p: number; oilDensity: number; flow: number; modes: Mode[]; stages: Stage[] }
type WaterCase = { dryFlow: number; y: number; Tout: number; p: number }

export function elementOf(e: CaseElement): Element {
  const ends = { id: e.id, from: e.from, to: e.to }
  switch (e.kind) {
    case 'hose':
      return makeHose(e.id, e.from, e.to, {
        boreM: e.D,
        lengthM: e.L,
        roughnessM: e.roughness,
        k: e.K,
        bends: e.bends.map((b) => ({ angleDeg: b.angle, radiusM: b.r })),
        mitres: e.mitres.map((m) => m.angle),
      })
    case 'orifice':
      return { ...ends, kind: 'orifice', cd: e.Cd, areaM2: e.A }
    case 'check':
      return { ...ends, kind: 'check', cd: e.Cd, areaM2: e.A, crackPa: e.crack }
    case 'pcv':
      return { ...ends, kind: 'pcv', cd: e.Cd, area: e.area }
    case 'loss':
      return { ...ends, kind: 'loss', a: e.a, b: e.b }
    default:
      throw new Error(`element kind ${e.kind} is not known`)
  }
}

/** methods.md: pressures within 0.5 % of the gauge value or 2 Pa, flows 0.5 % (a shut one below 1e-9 kg/s). */
function network(c: NetworkCase, answer: NetworkAnswer): Row[] {
  const solved = solveNetwork({ gas: c.gas, nodes: c.nodes, elements: c.elements.map(elementOf) })
  if (!solved.ok) throw new Error(solved.reason)
  return [
    ...Object.entries(answer.pressure).map(([id, expected]) => ({
      what: `pressure ${id}`,
      expected,
      got: solved.value.pressure[id] ?? Number.NaN,
      allowed: Math.max(2, 0.005 * Math.abs(expected - 101325)),
    })),
    ...Object.entries(answer.flow).map(([id, expected]) => ({
      what: `flow ${id}`,
      expected,
      got: solved.value.flow[id] ?? Number.NaN,
      allowed: Math.max(1e-9, 0.005 * Math.abs(expected)),
    })),
  ]
}

function separator(c: SeparatorCase, answer: { penetrationAfter: number[]; captured: number }): Row[] {
  const got = separate(c.modes, c.stages, { flow: c.flow, pPa: c.p, tK: c.T, oilDensity: c.oilDensity })
  return [
    ...answer.penetrationAfter.map((expected, i) => ({
      what: `penetration after stage ${i + 1}`,
      expected,
      got: got.penetrationAfter[i] ?? Number.NaN,
      allowed: 0.003,
    })),
    { what: 'captured', expected: answer.captured, got: got.captured, allowed: 0.003 },
  ]
}

function water(c: WaterCase, answer: { condensed: number; dewPoint: number }): Row[] {
  const condensed = condensedWater(c.dryFlow, c.y, c.Tout, c.p).molPerS * WATER_KG_PER_MOL
  return [
    {
      what: 'condensed',
      expected: answer.condensed,
      got: condensed,
      allowed: Math.max(1e-12, 0.001 * answer.condensed),
    },
    { what: 'dew point', expected: answer.dewPoint, got: dewPoint(c.y, c.p), allowed: 0.001 * answer.dewPoint },
  ]
}

type FillCase = {
  prior: { median: number; sigma: number }
  scale: { median: number; sigma: number }
  degrees: number
  change: { odds: number; sigma: number }
  entries: { predicted: { oil: number; water: number }; found?: number; atLeast?: number; atMost?: number }[]
  rate: { oil: number; water: number }
  bowl: number
}
type Quantiles = { p10: number; p50: number; p90: number }
type FillAnswer = { ratePerKm: Quantiles; kmToFull: Quantiles; scatter: number; changed: number; changedLast: number }

/** Learning and the next filling, in ml; the cases leave the wet wall out. */
function fill(c: FillCase, answer: FillAnswer): Row[] {
  const asked = [c.scale.median, c.scale.sigma, c.degrees, c.change.odds, c.change.sigma]
  const here = [SCATTER.median, SCATTER.sigma, 4, CHANGE.probability, CHANGE.sigma]
  if (asked.some((value, k) => Math.abs(value - here[k]!) > 1e-9))
    throw new Error(`scale, degrees and change are ${here.join(', ')} here`)
  const entries = c.entries.map(({ predicted, found, atLeast, atMost }) => ({
    predicted,
    all: found !== undefined ? { found } : atLeast !== undefined ? { atLeast } : { atMost: atMost ?? Number.NaN },
  }))
  const spread = { mu: Math.log(c.prior.median), sigma: c.prior.sigma }
  const known = learn(entries, { oil: spread, water: spread }, 0)
  const rate = nextFilling(known, c.rate)
  const range = (what: string, got: Range, expected: Quantiles): Row[] =>
    (
      [
        ['10 %', got.low, expected.p10],
        ['50 %', got.mid, expected.p50],
        ['90 %', got.high, expected.p90],
      ] as const
    ).map(([q, value, e]) => ({ what: `${what} ${q}`, expected: e, got: value, allowed: 0.02 * Math.abs(e) }))
  const changed = known.changes.reduce((sum, change) => sum + change.any, 0)
  return [
    ...range('ml a km', rate, answer.ratePerKm),
    ...range('km to full', untilFull(rate, c.bowl), answer.kmToFull),
    { what: 'scatter', expected: answer.scatter, got: known.scatter, allowed: 0.05 * answer.scatter },
    { what: 'changed', expected: answer.changed, got: changed, allowed: 0.02 },
    { what: 'changed last', expected: answer.changedLast, got: known.changes.at(-1)?.any ?? 0, allowed: 0.02 },
  ]
}

/** Rows within 0.1 %, the tolerance of everything that is no network, separator or lesson. */
const within = (rows: readonly (readonly [what: string, got: number, expected: number])[]): Row[] =>
  rows.map(([what, got, expected]) => ({ what, expected, got, allowed: Math.max(1e-12, 0.001 * Math.abs(expected)) }))

type TeeCase = {
  way: 'combining' | 'dividing'
  runBoreM: number
  branchBoreM: number
  branchShare: number
  flowM3S: number
  densityKgM3: number
}
function tee(c: TeeCase, answer: { branchK: number; runK: number; branchPa: number; runPa: number }): Row[] {
  const areas = (c.runBoreM / c.branchBoreM) ** 2
  const gathers = c.way === 'combining'
  const branchK = headsLost('corner', gathers, c.branchShare, areas)
  const runK = headsLost('straight', gathers, 1 - c.branchShare, areas)
  const head = (c.densityKgM3 / 2) * (c.flowM3S / circleArea(c.runBoreM)) ** 2
  return within([
    ['branch, heads', branchK, answer.branchK],
    ['run, heads', runK, answer.runK],
    ['branch, Pa', branchK * head, answer.branchPa],
    ['run, Pa', runK * head, answer.runPa],
  ])
}

type BendCase = {
  boreM: number
  flowM3S: number
  angleDeg: number
  dropletsM: number[]
  densityKgM3: number
  viscosityPaS: number
}
/** The cases' mean free path is that of air at 20 C. */
function bend(c: BendCase, answer: { deposited: number[] }): Row[] {
  const gas = {
    boreM: c.boreM,
    flowM3S: c.flowM3S,
    oilDensity: c.densityKgM3,
    viscosity: c.viscosityPaS,
    meanFreePathM: 66.4e-9,
  }
  return within(
    c.dropletsM.map((d, k) => [`${d * 1e6} um`, bendDeposition(gas, c.angleDeg, d), answer.deposited[k]!] as const),
  )
}

const fuel = (c: FuelFormula, answer: { waterShare: number }): Row[] =>
  within([['water', burntWater(c), answer.waterShare]])

type DrainIn = {
  oilDensity: number
  nu40: number
  nu100: number
  pReturn: number
  pCan: number
  oilT: number
  D: number
  height: number
  length: number
  crack?: number
  gasFlow?: number
  gasDensity?: number
  oilFlow?: number
}
function drain(
  c: DrainIn,
  answer: { column: number; head: number; viscosity: number; capacity: number; wallis?: number },
): Row[] {
  const viscosity = oilViscosity(c.oilT, c.nu40, c.nu100)
  const got = drainOf({
    returnPa: c.pReturn,
    canPa: c.pCan,
    crackPa: c.crack ?? 0,
    oilDensity: c.oilDensity,
    viscosity,
    boreM: c.D,
    lengthM: c.length,
    heightM: c.height,
  })
  const shared = wallis(
    { flow: c.gasFlow ?? 0, density: c.gasDensity ?? 0 },
    { flow: c.oilFlow ?? 0, density: c.oilDensity },
    c.D,
  )
  return within([
    ['column', got.columnM, answer.column],
    ['head', got.headM, answer.head],
    ['viscosity', viscosity, answer.viscosity],
    ['capacity', got.capacity, answer.capacity],
    ...(answer.wallis === undefined ? [] : [['Wallis', shared, answer.wallis] as const]),
  ])
}

function profile(
  c: { bore: number; points: Point3[]; gravity?: Point3 },
  answer: { fall: number; trappedVolume: number; traps: number; leastFall: number },
): Row[] {
  const got = profileOf(c.points, c.bore, c.gravity)
  return within([
    ['fall', got.fallM, answer.fall],
    ['trapped volume', got.trappedM3, answer.trappedVolume],
    ['traps', got.traps, answer.traps],
    ['least fall', got.leastFall, answer.leastFall],
  ])
}

function path(c: { points: Point3[]; radius: number }, answer: { length: number; bends: number[] }): Row[] {
  const got = pathOf(c.points, c.radius)
  if (!got.ok) throw new Error(got.reason)
  return within([
    ['length', got.value.lengthM, answer.length],
    ...answer.bends.map((b, i) => [`bend ${i + 1}`, got.value.bendsDeg[i] ?? Number.NaN, b] as const),
  ])
}

function thread(
  c: { form: ThreadForm; size: string },
  answer: { major: number; pitch: number; tapDrill?: number },
): Row[] {
  const got = threadOf(c.form, c.size)
  if (!got.ok) throw new Error(got.reason)
  return within([
    ['major', got.value.majorM, answer.major],
    ['pitch', got.value.pitchM, answer.pitch],
    ...(answer.tapDrill === undefined
      ? []
      : [['tap drill', got.value.tapDrillM ?? Number.NaN, answer.tapDrill] as const]),
  ])
}

type BracketIn = {
  youngs: number
  density: number
  thickness: number
  width: number
  legs: number[]
  insideRadius: number
  angleDeg: number
  kFactor: number
  freeLength: number
  endMass: number
  supports: 1 | 2
}
function bracket(c: BracketIn, answer: { flatLength: number; frequency: number }): Row[] {
  const b: BentStrip & LoadedStrip = {
    youngs: c.youngs,
    density: c.density,
    thicknessM: c.thickness,
    widthM: c.width,
    legsM: c.legs,
    insideRadiusM: c.insideRadius,
    angleDeg: c.angleDeg,
    kFactor: c.kFactor,
    freeLengthM: c.freeLength,
    endMassKg: c.endMass,
    supports: c.supports,
  }
  return within([
    ['flat length', flatLength(b), answer.flatLength],
    ['first frequency', firstFrequency(b), answer.frequency],
  ])
}

const kinds: Record<string, (c: never, answer: never) => Row[]> = {
  network,
  separator,
  water,
  fill,
  tee,
  bend,
  fuel,
  drain,
  profile,
  path,
  thread,
  bracket,
}

export function runCase(file: string, text: string): CaseResult {
  try {
    const parsed = JSON.parse(text) as { case?: { kind?: string }; answer?: unknown }
    const kind = parsed.case?.kind ?? 'none'
    const run = kinds[kind]
    if (!run) return { file, kind, status: 'error', reason: `kind ${kind} is not computed` }
    const rows = run(parsed.case as never, parsed.answer as never)
    const share = (r: Row) => (Number.isFinite(r.got) ? Math.abs(r.got - r.expected) / r.allowed : Infinity)
    const worst = rows.toSorted((a, b) => share(b) - share(a))[0]
    return { file, kind, status: worst && share(worst) <= 1 ? 'pass' : 'fail', rows, worst }
  } catch (error) {
    return { file, kind: '?', status: 'error', reason: error instanceof Error ? error.message : String(error) }
  }
}

/** Runs every .json case in a folder. */
export function runCases(dir: string): CaseResult[] {
  return readdirSync(dir)
    .filter((f) => f.endsWith('.json'))
    .toSorted()
    .map((f) => runCase(f, readFileSync(join(dir, f), 'utf8')))
}
