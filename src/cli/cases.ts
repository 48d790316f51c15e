/** Worked cases: `{ case, answer }` in SI, run through the core and compared. */
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Element, Gas, Node } from '@/core/network/elements'
import { makeHose } from '@/core/network/hose'
import { solveNetwork } from '@/core/network/solve'
import type { Mode } from '@/core/separation/droplets'
import { separate } from '@/core/separation/separate'
import type { Stage } from '@/core/separation/stages'
import { condensedWater, dewPoint, WATER_KG_PER_MOL } from '@/core/water/vapour'

type Row = { readonly what: string; readonly expected: number; readonly got: number; readonly allowed: number }
export type CaseResult = { readonly file: string; readonly kind: string } & (
  | { readonly status: 'pass' | 'fail'; readonly rows: readonly Row[]; readonly worst: Row | undefined }
  | { readonly status: 'error' | 'skipped'; readonly reason: string }
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

const kinds: Record<string, (c: never, answer: never) => Row[]> = { network, separator, water }

export function runCase(file: string, text: string): CaseResult {
  try {
    const parsed = JSON.parse(text) as { case?: { kind?: string }; answer?: unknown }
    const kind = parsed.case?.kind ?? 'none'
    const run = kinds[kind]
    if (!run) return { file, kind, status: 'skipped', reason: `kind ${kind} is not computed yet` }
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
