/** Short ways to write parts and lines of a circuit. */
import { CANS } from './cans'
import { catalogueEntry } from './entry'
import { CHECKS, PCVS } from './valves'
import type { Line, Part, PartOf, Port } from '../document/schema'

const IN_OUT: Port[] = [
  { id: 'in', name: 'In' },
  { id: 'out', name: 'Out' },
]
const inOut = () => IN_OUT.map((p) => ({ ...p }))

/**
 * A port by its id within the part.
 *
 * @example
 * import { port } from '@/plan/catalogue/parts'
 *
 * console.log(port('in', 'inlet')) // { id: 'in', name: 'inlet' }
 */
export const port = (id: string, name: string): Port => ({ id, name })
/** A part that is one space: a crankcase, a cover, a manifold. */
export const space = <
  K extends 'crankcase' | 'cover' | 'tee' | 'tank' | 'manifold' | 'chargePipe' | 'blowerInlet' | 'atmosphere',
>(
  kind: K,
  id: string,
  name: string,
  ...ports: Port[]
) => ({ kind, id, name, ports, at: undefined }) as unknown as PartOf<K> & Part
/** The inlet tract at a place that has `depressionPct` percent of the depression ahead of throttle or compressor. */
export const inlet = (id: string, name: string, depressionPct: number, ...ports: Port[]): Part => ({
  kind: 'inlet',
  id,
  name,
  depressionPct,
  ports,
  at: undefined,
})
/** Drillings in the block: `count` of them, each `boreMm` wide. */
export const passage = (id: string, name: string, boreMm: number, count: number): Part => ({
  kind: 'passage',
  id,
  name,
  ports: inOut(),
  boreMm,
  count,
  at: undefined,
})
/** A can of the catalogue by its model. */
export const can = (id: string, name: string, model: string): Part => ({
  kind: 'can',
  id,
  name,
  ports: inOut(),
  at: undefined,
  ...catalogueEntry(CANS, model).spec,
})
/** A PCV valve of the catalogue by its model. */
export const pcv = (id: string, name: string, model: string): Part => ({
  kind: 'pcv',
  id,
  name,
  ports: inOut(),
  at: undefined,
  ...catalogueEntry(PCVS, model).spec,
})
/** A check valve of the catalogue by its model. */
export const check = (id: string, name: string, model: string): Part => ({
  kind: 'check',
  id,
  name,
  ports: inOut(),
  at: undefined,
  ...catalogueEntry(CHECKS, model).spec,
})
/** A restrictor with a sharp hole of so many mm. */
export const restrictor = (id: string, name: string, boreMm: number): Part => ({
  kind: 'restrictor',
  id,
  name,
  ports: inOut(),
  boreMm,
  at: undefined,
})
/** A filter by its drop in kPa at 100 l/min (0.12 for a clean one is an estimate). */
export const filter = (id: string, name: string, dropKpaAt100 = 0.12): Part => ({
  kind: 'filter',
  id,
  name,
  ports: inOut(),
  dropKpaAt100,
  linearPct: 40,
  at: undefined,
})

/** A flow sensor that the gas passes, 12 mm wide. */
export const sensor = (id: string, name: string): Part => ({
  kind: 'sensor',
  id,
  name,
  ports: inOut(),
  boreMm: 12,
  at: undefined,
})
/** A relief cap whose seat is so many mm wide; it opens at 1.2 kPa. */
export const relief = (id: string, name: string, seatMm = 18): Part => ({
  kind: 'relief',
  id,
  name,
  ports: inOut(),
  seatMm,
  openKpa: 1.2,
  at: undefined,
})
/** A diaphragm regulator whose seat is so many mm wide. */
export const regulator = (id: string, name: string, boreMm: number): Part => ({
  kind: 'regulator',
  id,
  name,
  ports: inOut(),
  boreMm,
  setKpa: -2.5,
  bandKpa: 1.5,
  at: undefined,
})
/** A vacuum pump: cc a turn, turns by turn of the engine, and the share of a turn that leaks back, in percent. */
export const pump = (
  id: string,
  name: string,
  { ccPerTurn, ratio, clearancePct }: { ccPerTurn: number; ratio: number; clearancePct: number },
): Part => ({
  kind: 'pump',
  id,
  name,
  ports: inOut(),
  ccPerTurn,
  ratio,
  clearancePct,
  at: undefined,
})
/** A tee of three ports; which are its run follows from how it is led. */
export const tee = (id: string, name: string): Part => ({
  kind: 'tee',
  id,
  name,
  ports: [port('a', 'First'), port('b', 'Second'), port('c', 'Third')],
  at: undefined,
})

const endOf = (text: string) => {
  const [part, at] = text.split('.') as [string, string]
  return { part, port: at }
}

/** `direct('a', 'crankcase.top', 'passage.in')`: one opening, no hose. */
export const direct = (id: string, name: string, from: string, to: string): Line => ({
  id,
  name,
  kind: 'direct',
  from: endOf(from),
  to: endOf(to),
  boreMm: 0,
  lengthMm: 0,
  bends: [],
})

/** How a hose or drain is laid: ends as `part.port`, sizes in mm, degrees of the elbows at either end. */
export type HoseRun = {
  readonly from: string
  readonly to: string
  readonly boreMm: number
  readonly lengthMm: number
  readonly bends?: readonly (readonly [angleDeg: number, radiusMm: number])[]
  readonly elbows?: readonly [number?, number?]
}

/**
 * A hose from port to port, bore and length in mm, with its bends and bent ends.
 *
 * @example
 * import { hose } from '@/plan/catalogue/parts'
 *
 * console.log(hose('dirty', 'Dirty line', { from: 'cover.a', to: 'can.in', boreMm: 15.9, lengthMm: 600 }).from) // { part: 'cover', port: 'a' }
 */
export function hose(id: string, name: string, { from, to, boreMm, lengthMm, bends = [], elbows = [] }: HoseRun): Line {
  return {
    id,
    name,
    kind: 'hose',
    from: { ...endOf(from), ...(elbows[0] ? { elbowDeg: elbows[0] } : {}) },
    to: { ...endOf(to), ...(elbows[1] ? { elbowDeg: elbows[1] } : {}) },
    boreMm,
    lengthMm,
    bends: bends.map(([angleDeg, radiusMm]) => ({ angleDeg, radiusMm })),
  }
}

/** Oil runs back through it; it stands full, so no gas does. */
export const drain = (id: string, name: string, laid: HoseRun): Line => ({
  ...hose(id, name, laid),
  kind: 'drain',
})
