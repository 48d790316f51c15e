/**
 * How an engine's maker lets fresh air in: it decides what the crankcase reads at idle, and stands in every circuit
 * laid on that engine.
 */
import type { Engine, Line, LineEnd, Part, Variant } from '../document/schema'
import { sizesOf } from './engine-side'
import { check, direct, restrictor, space, port } from './parts'

export type FreshAir = NonNullable<Engine['freshAir']>
type Circuit = Pick<Variant, 'parts' | 'lines'>

/** How an engine takes fresh air: as entered, else metered where it has a hole, else by an open hose. */
export const freshAirOf = (e: Pick<Engine, 'freshAir' | 'freshHoleMm'>): FreshAir =>
  e.freshAir ?? (e.freshHoleMm === undefined ? 'wide' : 'metered')

/** Bore of the hole that meters fresh air, mm: as entered, else typical of the engine's size (estimate). */
export const freshHoleMm = (e: Pick<Engine, 'displacementCc' | 'freshHoleMm'>): number =>
  e.freshHoleMm ?? (e.displacementCc < 1500 ? 4 : e.displacementCc < 2500 ? 4.5 : e.displacementCc < 4000 ? 5 : 5.5)

/** What a small hole with a full-load check beside it is made of. */
export const FRESH_HOLE = 'fresh-hole'
const [TEE, FULL_LOAD_CHECK, FULL_LOAD_PORT] = ['fresh-tee', 'full-load-check', 'full-load']

const isInlet = (parts: readonly Part[], id: string) => parts.some((p) => p.id === id && p.kind === 'inlet')
const lineTo = (c: Circuit, is: (e: LineEnd) => boolean): { line: Line; side: 'from' | 'to' } | undefined => {
  for (const line of c.lines)
    for (const side of ['from', 'to'] as const) if (line.kind === 'hose' && is(line[side])) return { line, side }
  return undefined
}
const withEnd = (c: Circuit, line: Line, side: 'from' | 'to', end: LineEnd): Line[] =>
  c.lines.map((l) => (l === line ? { ...l, [side]: { ...line[side], part: end.part, port: end.port } } : l))

/** The bore of the port by which the inlet tract breathes: a hole, or as wide as the hose. */
function withPortBore<C extends Circuit>(c: C, boreMm: number | undefined): C {
  const parts = c.parts.map((p) => {
    if (p.kind !== 'inlet') return p
    const ports = p.ports.map((x) => {
      if (x.id !== 'breather') return x
      const { boreMm: _was, ...rest } = x
      return boreMm === undefined
        ? { ...rest, name: 'Breather port' }
        : { ...rest, name: 'Breather port, metered', boreMm }
    })
    return { ...p, ports }
  })
  return { ...c, parts }
}

/** The circuit without a hole and check beside it: its breather ends at the inlet tract again. */
function withoutHoleAndCheck<C extends Circuit>(c: C): C {
  const at = lineTo(c, (e) => e.part === TEE)
  const out = c.lines.find((l) => l.from.part === FRESH_HOLE && isInlet(c.parts, l.to.part))
  if (!at || !out) return c
  const ours = new Set([TEE, FRESH_HOLE, FULL_LOAD_CHECK])
  const lines = withEnd(c, at.line, at.side, out.to).filter((l) => !ours.has(l.from.part) && !ours.has(l.to.part))
  const parts = c.parts
    .filter((p) => !ours.has(p.id))
    .map((p) => (p.kind === 'inlet' ? { ...p, ports: p.ports.filter((x) => x.id !== FULL_LOAD_PORT) } : p))
  return { ...c, parts, lines }
}

/** A small hole meters what comes in at idle; beside it a check lets out what full load makes. */
function withHoleAndCheck<C extends Circuit>(c: C, engine: Engine): C {
  const at = lineTo(c, (e) => e.port === 'breather' && isInlet(c.parts, e.part))
  if (!at || c.parts.some((p) => p.id === TEE)) return c
  const end = at.line[at.side]
  const tee = space('tee', TEE, 'Fresh-air tee', port('a', 'Breather line'), port('b', 'Hole'), port('c', 'Check'))
  const parts: Part[] = [
    ...c.parts.map((p) =>
      p.id === end.part ? ({ ...p, ports: [...p.ports, port(FULL_LOAD_PORT, 'Full-load port')] } as Part) : p,
    ),
    tee,
    restrictor(FRESH_HOLE, 'Fresh-air hole', freshHoleMm(engine)),
    check(FULL_LOAD_CHECK, 'Full-load check', sizesOf(engine).bigCheck),
  ]
  const lines = [
    ...withEnd(c, at.line, at.side, { part: TEE, port: 'a' }),
    direct('fresh-hole-in', 'Hole, from the tee', `${TEE}.b`, `${FRESH_HOLE}.in`),
    direct('fresh-hole-out', 'Hole, into the inlet', `${FRESH_HOLE}.out`, `${end.part}.${end.port}`),
    direct('full-load-in', 'Check, from the tee', `${TEE}.c`, `${FULL_LOAD_CHECK}.in`),
    direct('full-load-out', 'Check, into the inlet', `${FULL_LOAD_CHECK}.out`, `${end.part}.${FULL_LOAD_PORT}`),
  ]
  return { ...c, parts, lines }
}

/**
 * A circuit with fresh air taken the way its engine does. What the builder laid otherwise than at the stock breather port stays as it is.
 *
 * @example
 * import { withFreshAir } from '@/plan/catalogue/fresh-air'
 *
 * console.log(withFreshAir({ parts: [], lines: [] }, { freshAir: 'wide' })) // { parts: [], lines: [] }
 */
export function withFreshAir<C extends Circuit>(circuit: C, engine: Engine): C {
  const kind = freshAirOf(engine)
  const plain = withPortBore(withoutHoleAndCheck(circuit), kind === 'metered' ? freshHoleMm(engine) : undefined)
  return kind === 'checked' ? withHoleAndCheck(plain, engine) : plain
}

/** The school that is the stock circuit of an engine. */
export const yardstickOf = (e: Pick<Engine, 'freshAir' | 'freshHoleMm'>): string =>
  freshAirOf(e) === 'regulator' ? 'stock-regulator' : 'stock'
