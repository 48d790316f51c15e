/** What a job costs a customer: parts by their prices, hours by a rate, tax on both; in the builder's own currency. */
import type { Build } from '../document/schema'
import type { Item } from './lists'

export type Estimate = {
  readonly parts: number
  /** things of the list that have no price yet */
  readonly unpriced: number
  readonly hours: number
  readonly labour: number
  readonly tax: number
  readonly total: number
  /** as the builder writes it; empty while he has not said */
  readonly currency: string
}

/** Of an item, what is not in the drawer and has to be bought; of hose, mm. */
export const toBuy = (build: Pick<Build, 'fit'>, { key, count }: Pick<Item, 'key' | 'count'>): number =>
  Math.max(0, count - (build.fit?.stock.find((s) => s.id === key)?.have ?? 0))

/** Price of what is to be bought of an item; of hose, of a metre. `undefined` while nobody has noted one. */
export function costOf(build: Pick<Build, 'fit'>, item: Pick<Item, 'key' | 'count' | 'unit'>): number | undefined {
  const price = build.fit?.stock.find((s) => s.id === item.key)?.price
  return price === undefined ? undefined : (price * toBuy(build, item)) / (item.unit === 'mm' ? 1000 : 1)
}

/**
 * The estimate of a list. Hours as the builder says, else as such work usually takes; without a rate labour is 0, without a tax none is
 * put on.
 * @param usualHours of the plan
 *
 * @example
 * import { estimateOf } from '@/plan/fit/estimate'
 *
 * const fit = { ticks: [], ends: [], stock: [{ id: 'clamp', price: 2 }], estimate: { ratePerHour: 60, taxPct: 20 } }
 * const item = { key: 'clamp', count: 5, unit: 'piece' }
 * console.log(estimateOf({ fit }, [item], 2).total) // 156
 */
export function estimateOf(
  build: Pick<Build, 'fit'>,
  items: readonly Pick<Item, 'key' | 'count' | 'unit'>[],
  usualHours: number,
): Estimate {
  const { ratePerHour = 0, taxPct = 0, hours = usualHours, currency = '' } = build.fit?.estimate ?? {}
  const costs = items.map((i) => costOf(build, i))
  const parts = costs.reduce<number>((sum, c) => sum + (c ?? 0), 0)
  const labour = hours * ratePerHour
  const tax = ((parts + labour) * taxPct) / 100
  return {
    parts,
    unpriced: costs.filter((c) => c === undefined).length,
    hours,
    labour,
    tax,
    total: parts + labour + tax,
    currency,
  }
}

/** "12.50 EUR" */
export const money = (x: number, currency: string): string => `${x.toFixed(2)}${currency === '' ? '' : ` ${currency}`}`

/** What the total is made of, in lines of two. */
export function estimateLines(e: Estimate, taxPct: number | undefined): readonly (readonly [string, string])[] {
  return [
    [e.unpriced > 0 ? `Parts, ${e.unpriced} of them without a price yet` : 'Parts', money(e.parts, e.currency)],
    [`Work, ${Number(e.hours.toFixed(1))} h`, money(e.labour, e.currency)],
    ...(taxPct ? ([[`Tax, ${taxPct} %`, money(e.tax, e.currency)]] as const) : []),
    ['Total', money(e.total, e.currency)],
  ]
}
