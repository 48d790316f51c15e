/** Several plans of one build side by side over its duty. */
import { scaled, type Job } from '@/core/job'
import type { StateId } from '@/core/engine/states'
import type { Range } from '@/core/service/fill'
import { quantityText } from '@/core/units/format'
import { fromSi, shownUnit, unitLabel } from '@/core/units/units'
import { analyseOverCycle } from '../analyse-over-cycle'
import type { Build, Variant } from '../document/schema'
import { drainWord } from '../bay/drains'
import { KINDS } from '../document/kinds'
import { perform, showPlan } from '../edit/edit-builders'
import { lowered, STATE_NAMES, teller } from '../document/words'
import { shoppingList } from '../fit/lists'
import { stripsOf } from '../fit/strips'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { bypassShare, isCycleMean, isSolved, solvedIn, type Figures } from '../model/results'
import { legalNote, planName } from '../schools/schools'
import { bandOf } from './bad-end'
import { MEASURE_PARTS, measurePlan, PART_NAMES, type PlanMeasure } from './measure'
import { ranges } from './ranges'
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
const DRAWS = 250
/** The build with one of its plans shown. */
export const showing = (build: Build, id: string): Build => {
  const shown = perform(build, showPlan(id))
  return shown.ok ? shown.value : build
}

/** Compares up to six variants. Yields the share done. */
export function* compare(build: Build, today: string): Job<readonly Comparison[]> {
  const variants = build.variants.slice(0, MOST_COMPARED)
  const rows: Comparison[] = []
  const evaluator = makeEvaluator()
  for (const [i, v] of variants.entries()) {
    const b = showing(build, v.id)
    const [begun, share] = [i / variants.length, 1 / variants.length]
    const a = yield* scaled(analyseOverCycle(b, today, evaluator), begun, 0.3 * share)
    const bands = yield* scaled(bandsOf(b, a, evaluator), begun + 0.3 * share, 0.4 * share)
    const measure = yield* scaled(measurePlan(b, today, a, evaluator), begun + 0.7 * share, 0.3 * share)
    const idle = solvedIn(a, 'idle')
    const resolved = evaluator.resolve(v)
    const strips = stripsOf(b, v)
    const hoses = v.lines.filter((l) => l.kind !== 'direct')
    const count = (severity: string) => a.verdicts.filter((x) => x.severity === severity).length
    rows.push({
      id: v.id,
      letter: String.fromCharCode(65 + i),
      name: planName(v, build.engine),
      sealed: !v.parts.some((p) => p.kind === 'atmosphere'),
      law: legalNote(v, build.engine),
      states: a.states.map((s) => ({
        id: s.id,
        gauge: s.solved ? s.crankcaseGauge : undefined,
        band: bands.get(s.id),
      })),
      intakeOil: a.intakeOil,
      oilLearned: a.oilLearned,
      drain: v.parts.flatMap((p) =>
        p.kind === 'can' && p.drain ? [drainWord(b, v, a.states, p.id) ?? 'not measured'] : [],
      ),
      caught: a.cans.reduce((s, c) => s + c.perMetre.oil, 0),
      water: a.cans.reduce((s, c) => s + c.perMetre.water, 0),
      interval: a.cans.reduce((s, c) => Math.min(s, c.distance.low), Infinity),
      bypass: idle && bypassShare(idle, v.parts),
      canHighest: highestAtCans(a, v),
      parts: v.parts.filter((p) => !KINDS[p.kind].engine && p.kind !== 'atmosphere').length,
      toBuy: shoppingList(b, v).length,
      joints: strips.reduce(
        (sum, s) => sum + s.ends.reduce((n, e) => n + (!s.kept && e.chain.ok ? e.chain.value.joints : 1), 0),
        0,
      ),
      hoseM: hoses.reduce((s, l) => s + resolved.lines.get(l.id)!.shape.lengthM, 0),
      open: { stop: count('stop'), fix: count('fix'), watch: count('watch') },
      measure,
    })
    yield (i + 1) / variants.length
  }
  return rows
}

/** Highest pressure at the ports of a plan's cans in any state. */
function highestAtCans(a: Pick<Figures, 'states'>, v: Variant): number | undefined {
  const ports = v.parts.flatMap((p) => (p.kind === 'can' ? [`${p.id}.in`, `${p.id}.out`] : []))
  const gauges = a.states.filter(isSolved).flatMap((s) => ports.map((port) => s.gauge[port] ?? 0))
  return gauges.length > 0 ? Math.max(...gauges) : undefined
}

/** Bands of each state: drawn on still flow; of an engine whose pistons pump, by the ends of its turns. */
function* bandsOf(build: Build, a: Figures, evaluator: Evaluator): Job<ReadonlyMap<StateId, Range>> {
  if (!isCycleMean(a)) {
    const { states } = yield* ranges(build, DRAWS)
    return new Map(states.map((s) => [s.id, s.crankcase]))
  }
  const found = new Map<StateId, Range>()
  const solved = a.states.filter(isSolved)
  for (const [i, s] of solved.entries()) {
    const band = yield* scaled(bandOf(build, s.id, s.crankcaseGauge, evaluator), i / solved.length, 1 / solved.length)
    if (band.low !== undefined && band.high !== undefined)
      found.set(s.id, { low: band.low, mid: s.crankcaseGauge, high: band.high })
  }
  return found
}

/**
 * Which plan to take, why, and what speaks for another, in a sentence or two; undefined with fewer than two that have an answer. Weighs as
 * the ranking of schools does.
 */
export function conclusion(build: Build, rows: readonly Comparison[]): string | undefined {
  if (rows.length < 2) return undefined
  const say = teller(build.units)
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
      const told = parts.map((k) => `${PART_NAMES[k]} ${Math.round(r.measure.points[k])}`)
      return `${Math.round(r.measure.total)}: ${told.join(', ')}`
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
