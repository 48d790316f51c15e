/** The lists of Parts as tables. */
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { figuresOf } from '../model/figures'
import { csvOf } from '../files/csv'
import { cutList, shoppingList } from './lists'
import { stripsOf } from './strips'

/** What to buy, with what lies in the drawer and what it costs: read in again by its keys. */
export function shoppingCsv(build: Build): string {
  const stock = new Map((build.fit?.stock ?? []).map((s) => [s.id, s]))
  return csvOf([
    ['key', 'group', 'what', 'must be', 'needs', 'spare', 'unit', 'have', 'price', 'for'],
    ...shoppingList(build, activeVariant(build), figuresOf(build).states).map((i) => {
      const { have, price } = stock.get(i.key) ?? {}
      return [i.key, i.group, i.name, i.asks.join('; '), i.count, i.spare, i.unit, have, price, i.for.join('; ')]
    }),
  ])
}

/** A row a hose that is cut. */
export const cutCsv = (build: Build): string =>
  csvOf([
    ['label', 'line', 'hose', 'cut_mm', 'tape_mm', 'first_end', 'second_end', 'clocking_deg'],
    ...cutList(stripsOf(build, activeVariant(build))).map((c) => [
      c.label,
      c.line,
      c.hose,
      c.cutMm,
      c.tapeMm,
      c.ends[0],
      c.ends[1],
      c.clockingDeg === undefined ? undefined : Math.round(c.clockingDeg),
    ]),
  ])
