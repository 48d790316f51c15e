/** When the circuit will freeze first, through the months of a climate, and what the crankcase does then. */
import { climateOf } from '../catalogue/climates'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { actionsFor } from '../edit/actions'
import { chain, perform, setField, setLine, setPart, type EditBuilder } from '../edit/edit-builders'
import { withFault } from './graded-faults'
import { isSolved, type Figures } from '../model/results'
import { canRates } from '../service/can-rates'
import { perMetre, hourly, NO_OIL } from '../model/duty'

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
  /** what would put it off, or make it bearable, each worked out */
  readonly helps: readonly FrostHelp[]
}
export type FrostHelp = {
  readonly what: 'insulated' | 'shorter' | 'relief'
  /** driving until ice shuts it, km; the same as without where it does not change that */
  readonly kmToPlug: number
  /** highest crankcase pressure with it shut, Pa gauge */
  readonly frozenPa: number | undefined
}

/** Water that shuts an outlet or a restrictor as ice, m3 (estimate), and least that counts on a month's driving. */
const PLUG = 5e-6
/** Months in which so little is driven that nothing gathers, m. */
const MONTH_LEAST = 1000

/** Share of the vapour through a cold restrictor that stays on it (estimate). */
const STUCK = 0.02

const highest = (build: Build, evaluator: Evaluator): number | undefined => {
  const gauges = figuresOf(build, evaluator)
    .states.filter(isSolved)
    .map((s) => s.crankcaseGauge)
  return gauges.length > 0 ? Math.max(...gauges) : undefined
}

/**
 * Twelve months of a plan; undefined where nobody said what winters it sees.
 * @param from month that is now, 0 January
 */
export function frost(build: Build, from: number): Frost | undefined {
  const facts = climateOf(build.site)
  if (!facts) return undefined
  const evaluator = makeEvaluator()
  const monthly = (build.duty.kmPerYear * 1000) / 12
  // the same water as the forecast's
  const figures = figuresOf(build, evaluator)
  const months = facts.nights.map((nightC, month): FrostMonth => {
    const meanC = facts.means[month]!
    // worked out only where it matters: months without frost gather water, but no ice
    if (nightC >= 0) return { month, nightC, meanC, wet: [], freezes: false }
    const wet = wetIn(build, figures, meanC).filter((w) => w.perMetre * monthly > 0)
    const freezes = monthly >= MONTH_LEAST && wet.some((w) => w.perMetre * monthly >= PLUG)
    return { month, nightC, meanC, wet, freezes }
  })
  const order = Array.from({ length: 12 }, (_, i) => months[(from + i) % 12]!)
  const found = order.find((m) => m.freezes)
  const worst = found?.wet.toSorted((a, b) => b.perMetre - a.perMetre)[0]
  if (!found || !worst) return { months, first: undefined, frozenPa: undefined, openPa: undefined, helps: [] }
  const cold = perform(build, setField(['site', 'ambientC'], found.meanC))
  const shut = cold.ok ? withFault(cold.value, `${worst.part}-frozen`) : undefined
  return {
    months,
    first: { month: found.month, part: worst.part, name: worst.name, kmToPlug: PLUG / worst.perMetre / 1000 },
    frozenPa: shut && highest(shut, evaluator),
    openPa: cold.ok ? highest(cold.value, evaluator) : undefined,
    helps: cold.ok ? helpsAgainst(cold.value, worst.part, PLUG / worst.perMetre / 1000, evaluator) : [],
  }
}

/** Water that gathers in each can and restrictor of a plan with the outside air so warm, m3 per metre driven. */
function wetIn(build: Build, figures: Figures, airC: number): FrostMonth['wet'] {
  const passing = (id: string) =>
    perMetre(build, (a) =>
      hourly(build, figures.states, a, {
        oilOf: () => NO_OIL,
        waterOf: (s) => (s.passages[id]?.water ?? 0) * STUCK,
      }),
    )
  return activeVariant(build).parts.flatMap((p) => {
    if (p.kind !== 'can' && p.kind !== 'restrictor') return []
    const rate = p.kind === 'can' ? canRates(build, figures, p.id).at(airC).all : passing(p.id)
    return rate && rate.water > 0 ? [{ part: p.id, name: p.name, perMetre: rate.water }] : []
  })
}

/** Heat that foam of a finger's width lets through, as a share of a bare wall's (estimate). */
const FOAM = 0.3

/** What insulation, half the hose or a relief cap would change, in the same cold. */
function helpsAgainst(cold: Build, part: string, kmToPlug: number, evaluator: Evaluator): FrostHelp[] {
  const variant = activeVariant(cold)
  const can = variant.parts.find((p) => p.id === part)
  const shut = (b: Build) => {
    const broken = withFault(b, `${part}-frozen`)
    return broken && highest(broken, evaluator)
  }
  const tried = (what: FrostHelp['what'], ...builders: readonly EditBuilder[]): FrostHelp[] => {
    const then = builders.length > 0 ? perform(cold, chain(...builders)) : undefined
    if (!then?.ok) return []
    const rate = wetIn(then.value, figuresOf(then.value, evaluator), then.value.site.ambientC).find(
      (w) => w.part === part,
    )
    return [{ what, kmToPlug: rate ? PLUG / rate.perMetre / 1000 : Infinity, frozenPa: shut(then.value) }]
  }
  const hoses = variant.lines.filter((l) => l.kind === 'hose' && [l.from, l.to].some((e) => e.part === part))
  const offers = variant.parts
    .filter((p) => p.kind === 'cover')
    .flatMap((p) => actionsFor(cold, variant, { kind: 'part', id: p.id }))
  const relief = offers.find((a) => a.key === 'relief')
  return [
    ...(can?.kind === 'can' ? tried('insulated', setPart(part, { surfaceCm2: can.surfaceCm2 * FOAM })) : []),
    ...tried('shorter', ...hoses.map((l) => setLine(l.id, { lengthMm: l.lengthMm / 2 }))),
    ...(relief ? tried('relief', () => relief.edits).map((h) => ({ ...h, kmToPlug })) : []),
  ]
}
