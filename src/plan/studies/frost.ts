/** When the circuit will freeze first, through the months of a climate, and what the crankcase does then. */
import { CLIMATE_FACTS } from '../catalogue/climates'
import type { CLIMATES } from '../document/bounds'
import { figuresOf } from '../analyse'
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { perform, setField } from '../edit/deeds'
import { withFault } from '../faults/faults'
import { isSolved } from '../model/results'
import { perMetre, hourly, NO_OIL } from '../service/duty'

export type FrostMonth = {
  /** 0 January */
  readonly month: number
  readonly nightC: number
  readonly meanC: number
  /** water that gathers, m3 per metre driven, in that month's cold; per can or restrictor */
  readonly wet: readonly { readonly part: string; readonly name: string; readonly perMetre: number }[]
  readonly freezes: boolean
}
export type Frost = {
  readonly months: readonly FrostMonth[]
  /** the first month from `from` on in which something freezes, and what */
  readonly first:
    { readonly month: number; readonly part: string; readonly name: string; readonly kmToPlug: number } | undefined
  /** highest crankcase pressure, Pa gauge, with that shut by ice, in any state; undefined where there is no answer or nothing freezes */
  readonly frozenPa: number | undefined
  /** the same while it is open */
  readonly openPa: number | undefined
}

/** Water that shuts an outlet or a restrictor as ice, m3 (estimate), and least that counts on a month's driving. */
const PLUG = 5e-6
/** Months in which so little is driven that nothing gathers, m. */
const MONTH_LEAST = 1000

/** Share of the vapour through a cold restrictor that stays on it (estimate). */
const STUCK = 0.02

const highest = (build: Build): number | undefined => {
  const gauges = figuresOf(build)
    .states.filter(isSolved)
    .map((s) => s.crankcaseGauge)
  return gauges.length > 0 ? Math.max(...gauges) : undefined
}

/**
 * Twelve months of a plan.
 * @param from month that is now, 0 January
 */
export function frost(build: Build, climate: (typeof CLIMATES)[number], from: number): Frost {
  const facts = CLIMATE_FACTS[climate]
  const variant = activeVariant(build)
  const monthly = (build.duty.kmPerYear * 1000) / 12
  const months = facts.nights.map((nightC, month): FrostMonth => {
    const meanC = facts.means[month]!
    // worked out only where it matters: months without frost gather water, but no ice
    if (nightC >= 0) return { month, nightC, meanC, wet: [], freezes: false }
    const cold = perform(build, setField(['site', 'ambientC'], meanC))
    if (!cold.ok) return { month, nightC, meanC, wet: [], freezes: false }
    const { states } = figuresOf(cold.value)
    const wet = variant.parts.flatMap((p) => {
      if (p.kind !== 'can' && p.kind !== 'restrictor') return []
      const rate = perMetre(cold.value, (a) =>
        hourly(
          cold.value,
          states,
          a,
          () => NO_OIL,
          (s) => s.cans[p.id]?.waterCaught ?? (p.kind === 'restrictor' ? (s.passages[p.id]?.water ?? 0) * STUCK : 0),
        ),
      )
      return rate && rate.water * monthly > 0 ? [{ part: p.id, name: p.name, perMetre: rate.water }] : []
    })
    const freezes = monthly >= MONTH_LEAST && wet.some((w) => w.perMetre * monthly >= PLUG)
    return { month, nightC, meanC, wet, freezes }
  })
  const order = Array.from({ length: 12 }, (_, i) => months[(from + i) % 12]!)
  const found = order.find((m) => m.freezes)
  const worst = found?.wet.toSorted((a, b) => b.perMetre - a.perMetre)[0]
  if (!found || !worst) return { months, first: undefined, frozenPa: undefined, openPa: undefined }
  const cold = perform(build, setField(['site', 'ambientC'], found.meanC))
  const shut = cold.ok ? withFault(cold.value, `${worst.part}-frozen`) : undefined
  return {
    months,
    first: { month: found.month, part: worst.part, name: worst.name, kmToPlug: PLUG / worst.perMetre / 1000 },
    frozenPa: shut && highest(shut),
    openPa: cold.ok ? highest(cold.value) : undefined,
  }
}
