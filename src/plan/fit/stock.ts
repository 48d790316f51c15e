/** What the maker gave, and what of it a plan keeps, takes off or leaves open. */
import type { Build, Line, Part, Variant } from '../document/schema'
import { KINDS } from '../document/kinds'
import { lowered } from '../document/words'
import { yardstickOf } from '../catalogue/fresh-air'
import { schoolOf, variantOf } from '../schools/schools'

/** The plan as the maker laid it for this engine. */
export const stockVariant = (build: Build): Variant =>
  variantOf(schoolOf(yardstickOf(build.engine))!, build.engine, 'stock')

export type StockComparison = {
  /** new to the engine: to be bought */
  readonly added: readonly Part[]
  readonly takenOff: readonly Part[]
  readonly linesOff: readonly Line[]
  /** ports of the engine that the maker's plan uses and this one does not: to be capped */
  readonly open: readonly {
    readonly part: Part
    readonly port: string
    readonly name: string
    /** the maker's line that ended there */
    readonly line: Line
    readonly boreMm: number
  }[]
}

/** Bore of the widest hose that leads on from either body of a joint, mm; 0 where none does. */
export const widestAt = ({ lines }: Variant, { from, to }: Line): number =>
  Math.max(
    0,
    ...lines.flatMap((l) =>
      l.kind !== 'direct' && [l.from.part, l.to.part].some((p) => p === from.part || p === to.part) ? [l.boreMm] : [],
    ),
  )

/** A plan against the maker's. */
export function compareWithStock(build: Build, variant: Variant): StockComparison {
  const stock = stockVariant(build)
  const has = (v: Variant, id: string) => v.parts.some((p) => p.id === id)
  const at = (part: string, port: string) => `${part}.${port}`
  const used = new Set(variant.lines.flatMap((l) => [at(l.from.part, l.from.port), at(l.to.part, l.to.port)]))
  const engine = (p: Part) => KINDS[p.kind].engine
  return {
    added: variant.parts.filter((p) => !has(stock, p.id) && !engine(p) && p.kind !== 'atmosphere'),
    takenOff: stock.parts.filter((p) => !has(variant, p.id) && !engine(p)),
    linesOff: stock.lines.filter(
      (l) =>
        l.kind === 'hose' &&
        !variant.lines.some(
          (m) =>
            at(m.from.part, m.from.port) === at(l.from.part, l.from.port) &&
            at(m.to.part, m.to.port) === at(l.to.part, l.to.port),
        ),
    ),
    open: stock.lines.flatMap((l) =>
      [l.from, l.to].flatMap((e) => {
        const part = variant.parts.find((p) => p.id === e.part)
        const port = part?.ports.find((p) => p.id === e.port)
        if (!part || !port || used.has(at(e.part, e.port))) return []
        return [
          {
            part,
            port: e.port,
            name: `${part.name}, ${lowered(port.name)}`,
            line: l,
            boreMm: l.kind === 'direct' ? (port.boreMm ?? widestAt(stock, l)) : l.boreMm,
          },
        ]
      }),
    ),
  }
}
