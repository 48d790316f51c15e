/** Bodies that a plan puts mouth to mouth, with no hose between: what joins them, by the forms of their ports. */
import { ok, type Result } from '@/core/result'
import { KINDS } from '../document/kinds'
import type { Build, Line, LineEnd, Part, Variant } from '../document/schema'
import { barbFor, chainsTo, rubberHose, type EndChain, type HoseSold } from './ends'
import { ownPieces } from './own-pieces'
import { stockVariant, widestAt } from './stock'
import { portForm } from './strips'

/** Hose between two mouths that stand a hand's width apart, on both barbs, m (common practice, no source). */
export const SLEEVE_M = 0.08

export type CouplingEnd = {
  readonly end: LineEnd
  readonly part: Part
  /** name of the port */
  readonly port: string
  readonly form: string
  /** from the port to the sleeve; of what stands in or on the other body, no chain */
  readonly chain: Result<EndChain> | undefined
}
/**
 * neck: one closes the filler neck by its own seal. seat: one is pushed into a grommet. mouth: one has a rubber neck of its own, clamped.
 * sleeve: a hand's width of hose between two clamps.
 */
export type CouplingKind = 'neck' | 'seat' | 'mouth' | 'sleeve'
export type Coupling = {
  readonly line: Line
  readonly kind: CouplingKind
  readonly ends: readonly [CouplingEnd, CouplingEnd]
  readonly hose: HoseSold | undefined
}

/** Bore of the gas way at a joint, mm: of the widest hose that leads on from either body, else of its ports. */
export function couplingBoreMm(variant: Variant, line: Line): number {
  const bodies = new Set([line.from.part, line.to.part])
  const ports = variant.parts.flatMap((p) => (bodies.has(p.id) ? p.ports.flatMap((q) => q.boreMm ?? []) : []))
  return widestAt(variant, line) || Math.max(0, ...ports) || 12.7
}

function kindOf(parts: readonly [Part, Part], forms: readonly [string, string]): CouplingKind {
  if (forms.includes('neck')) return 'neck'
  if (forms.includes('seat')) return 'seat'
  if (parts.some((p) => p.kind === 'filter')) return 'mouth'
  return 'sleeve'
}

/** Every joint of a plan that the maker's circuit has not, in the order of the plan; what ends in the open air is none. */
export function couplingsOf(build: Build, variant: Variant): readonly Coupling[] {
  const stock = stockVariant(build)
  const own = ownPieces(build)
  const at = (e: LineEnd) => `${e.part}.${e.port}`
  const makers = new Set(stock.lines.map((l) => `${at(l.from)} ${at(l.to)}`))
  return variant.lines.flatMap((line): Coupling[] => {
    if (line.kind !== 'direct' || makers.has(`${at(line.from)} ${at(line.to)}`)) return []
    const parts = [line.from, line.to].map((e) => variant.parts.find((p) => p.id === e.part))
    const [a, b] = parts
    if (!a || !b || a.kind === 'atmosphere' || b.kind === 'atmosphere') return []
    // drillings in the block are nobody's joint
    if (a.kind === 'passage' || b.kind === 'passage' || (KINDS[a.kind].engine && KINDS[b.kind].engine)) return []
    const boreMm = couplingBoreMm(variant, line)
    const led: Line = { ...line, kind: 'hose', boreMm }
    const forms = [
      portForm(build, { part: a, port: line.from.port, line: led }, stock).form,
      portForm(build, { part: b, port: line.to.port, line: led }, stock).form,
    ] as const
    const kind = kindOf([a, b], forms)
    // pushed on and clamped: made-up ends need more room than there is
    const hose = kind === 'sleeve' ? rubberHose(barbFor(boreMm)) : undefined
    const end = (e: LineEnd, part: Part, form: string): CouplingEnd => ({
      end: e,
      part,
      port: part.ports.find((p) => p.id === e.port)?.name ?? e.port,
      form,
      chain: hose && firstChain(form, hose, own),
    })
    return [{ line, kind, ends: [end(line.from, a, forms[0]), end(line.to, b, forms[1])], hose }]
  })
}

function firstChain(form: string, hose: HoseSold, own: Parameters<typeof chainsTo>[2]): Result<EndChain> {
  const chains = chainsTo(form, hose, own)
  return chains.ok ? ok(chains.value[0]!) : chains
}
