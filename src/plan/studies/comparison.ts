/** What a comparison of plans tells: its rows, a conclusion in words, a sheet and a table for a spreadsheet. */
import type { StateId } from '@/core/engine/states'
import type { Range } from '@/core/service/fill'
import { quantityText } from '@/core/units/format'
import { fromSi, shownUnit, unitLabel } from '@/core/units/units'
import type { Build } from '../document/schema'
import { lowered, STATE_NAMES, unitFormatter } from '../document/words'
import { perform, showPlan } from '../edit/edit-builders'
import { MEASURE_PARTS, PART_NAMES, type PlanMeasure } from './measure-parts'
import { because, equals, gains, reasonText, type Measured } from './reasons'

export type Comparison = {
  readonly id: string
  readonly letter: string
  readonly name: string
  readonly sealed: boolean
  readonly law: string
  readonly states: readonly {
    readonly id: StateId
    readonly gauge: number | undefined
    readonly band: Range | undefined
  }[]
  /** m3 of oil per metre that reaches the intake on this duty; and per track session */
  readonly intakeOil: number
  /** factor on all oil that the log has taught, part of `intakeOil` */
  readonly oilLearned: number
  /** m3 a metre, all cans */
  /** how each separator's return drains where it was measured */
  readonly drain: readonly string[]
  readonly caught: number
  readonly water: number
  /** metres until the can that fills first may be full; Infinity with nothing to empty */
  readonly interval: number
  readonly bypass: number | undefined
  /** highest pressure at any can, Pa gauge; undefined without one */
  readonly canHighest: number | undefined
  readonly parts: number
  /** kinds of thing to buy */
  readonly toBuy: number
  /** places that can leak, as its hoses are made */
  readonly joints: number
  readonly hoseM: number
  readonly open: Readonly<Record<'stop' | 'fix' | 'watch', number>>
  readonly measure: PlanMeasure
}

export const MOST_COMPARED = 6
/** The build with one of its plans shown. */
export const showing = (build: Build, id: string): Build => {
  const shown = perform(build, showPlan(id))
  return shown.ok ? shown.value : build
}

/**
 * Which plan to take, why, and what speaks for another, in a sentence or two; undefined with fewer than two that have an answer. Weighs as
 * the ranking of schools does.
 */
export function conclusion(build: Build, rows: readonly Comparison[]): string | undefined {
  if (rows.length < 2) return undefined
  const say = unitFormatter(build.units)
  const named = (r: Comparison): Measured => ({ name: r.letter, measure: r.measure })
  const head = (r: Comparison) => `${r.letter}, ${lowered(r.name)}`
  const [best, next] = rows.toSorted((a, b) => a.measure.total - b.measure.total) as [Comparison, Comparison]
  const why = because(named(best), named(next), say)
  const [other] = gains(next.measure, best.measure)
  const like = equals(best.measure, next.measure)
  const first = like ? `${best.letter} and ${next.letter} are as good as each other; take either` : `Take ${head(best)}`
  const when = other
    ? ` ${head(next)}, has this for it: ${reasonText(other.part, named(next), named(best), say)}.`
    : ' No other is better in anything.'
  return `${first}: ${why.replace(/^as good as [^:]+: /, '')}.${when}`
}

/** Rows as a sheet: heads and cells as text in the build's units, for print and CSV. */
export function comparisonSheet(
  build: Build,
  rows: readonly Comparison[],
): readonly (readonly [head: string, ...cells: string[]])[] {
  const text = (si: number, d: Parameters<typeof quantityText>[1], digits = 2) =>
    quantityText(si, d, build.units, digits)
  const row = (head: string, of: (r: Comparison) => string): readonly [string, ...string[]] => [head, ...rows.map(of)]
  return [
    row('Plan', (r) => `${r.letter} ${r.name}`),
    ...(rows[0]?.states ?? []).map((s, i) =>
      row(`Crankcase, ${STATE_NAMES[s.id].toLowerCase()}`, (r) => {
        const x = r.states[i]!
        return x.gauge === undefined
          ? 'no answer'
          : `${text(x.gauge, 'pressure')}${x.band ? ` (${text(x.band.low, 'pressure').replace(/\s?[^\d−.]+$/, '')} to ${text(x.band.high, 'pressure')})` : ''}`
      }),
    ),
    row('Oil to the intake', (r) => text(r.intakeOil, 'perDistance')),
    row('Oil caught', (r) => text(r.caught, 'perDistance')),
    row('Water caught', (r) => text(r.water, 'perDistance')),
    row('Its drain, in the bay', (r) => (r.drain.length === 0 ? 'none' : r.drain.join(', '))),
    row('Look within', (r) => (Number.isFinite(r.interval) ? text(r.interval, 'distance') : 'nothing to empty')),
    row('Air past the throttle at idle', (r) =>
      r.bypass === undefined ? 'no answer' : `${Math.round(r.bypass * 100)} %`,
    ),
    row('Highest pressure at a can', (r) => (r.canHighest === undefined ? 'no can' : text(r.canHighest, 'pressure'))),
    row('Parts', (r) => String(r.parts)),
    row('Things to buy', (r) => String(r.toBuy)),
    row('Joints', (r) => String(r.joints)),
    row('Hose', (r) =>
      build.units.system === 'metric' ? `${r.hoseM.toFixed(1)} m` : `${(r.hoseM / 0.3048).toFixed(1)} ft`,
    ),
    row('Stop, fix, watch', (r) => `${r.open.stop}, ${r.open.fix}, ${r.open.watch}`),
    row('Law', (r) => `${r.sealed ? 'sealed' : 'vented'}. ${r.law}`),
    row('Hours at the bench (estimate)', (r) => String(Number(r.measure.facts.effort.hours.toPrecision(2)))),
    row('Parts cost about (estimate)', (r) => String(Math.round(r.measure.facts.effort.price / 5) * 5)),
    row('What fails worst', (r) => r.measure.facts.worstFailure?.name ?? 'nothing'),
    row('Weighed, points, less is better', (r) => {
      const parts = MEASURE_PARTS.filter((k) => r.measure.points[k] >= 0.5)
      const shares = parts.map((k) => `${PART_NAMES[k]} ${Math.round(r.measure.points[k])}`)
      return `${Math.round(r.measure.total)}: ${shares.join(', ')}`
    }),
  ]
}

/** Rows for a spreadsheet: one figure a cell, its unit in the head, a plain minus; empty where there is none. */
export function comparisonCsv(build: Build, rows: readonly Comparison[]): readonly (readonly string[])[] {
  const figure = (head: string, d: Parameters<typeof shownUnit>[0], of: (r: Comparison) => number | undefined) => {
    const unit = shownUnit(d, build.units)
    const cell = (si: number | undefined) =>
      si === undefined || !Number.isFinite(si) ? '' : String(Number(fromSi(d, si, unit).toPrecision(5)))
    return [`${head} (${unitLabel(unit)})`, ...rows.map((r) => cell(of(r)))]
  }
  const plain = (head: string, of: (r: Comparison) => string | number | undefined) => [
    head,
    ...rows.map((r) => String(of(r) ?? '')),
  ]
  const states = (rows[0]?.states ?? []).flatMap((s, i) => {
    const name = `Crankcase, ${STATE_NAMES[s.id].toLowerCase()}`
    return [
      figure(name, 'pressure', (r) => r.states[i]?.gauge),
      figure(`${name}, low of four in five`, 'pressure', (r) => r.states[i]?.band?.low),
      figure(`${name}, high of four in five`, 'pressure', (r) => r.states[i]?.band?.high),
    ]
  })
  return [
    plain('Plan', (r) => `${r.letter} ${r.name}`),
    ...states,
    figure('Oil to the intake', 'perDistance', (r) => r.intakeOil),
    figure('Oil caught', 'perDistance', (r) => r.caught),
    figure('Water caught', 'perDistance', (r) => r.water),
    plain('Its drain, in the bay', (r) => r.drain.join(', ')),
    figure('Look within', 'distance', (r) => r.interval),
    plain('Air past the throttle at idle (%)', (r) =>
      r.bypass === undefined ? undefined : Math.round(r.bypass * 100),
    ),
    figure('Highest pressure at a can', 'pressure', (r) => r.canHighest),
    plain('Parts', (r) => r.parts),
    plain('Things to buy', (r) => r.toBuy),
    plain('Joints', (r) => r.joints),
    figure('Hose', 'length', (r) => r.hoseM),
    plain('Stops', (r) => r.open.stop),
    plain('Fixes', (r) => r.open.fix),
    plain('Watches', (r) => r.open.watch),
    plain('Sealed', (r) => (r.sealed ? 'yes' : 'no')),
  ]
}
