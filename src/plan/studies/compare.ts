/** Several plans of one build side by side over its duty. */
import { scaled, type Job } from '@/core/job'
import type { StateId } from '@/core/engine/states'
import type { Range } from '@/core/service/fill'
import { analyseOverCycle } from '../analyse-over-cycle'
import type { Build, Variant } from '../document/schema'
import { drainWord } from '../bay/drains'
import { KINDS } from '../document/kinds'
import { letterOf } from '../document/words'
import { shoppingList } from '../fit/lists'
import { stripsOf } from '../fit/strips'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { bypassShare, isCycleMean, isSolved, solvedIn, type Figures } from '../model/results'
import { legalNote, planName } from '../schools/schools'
import { bandOf } from './bad-end'
import { MOST_COMPARED, showing, type Comparison } from './comparison'
import { measurePlan } from './measure'
import { ranges } from './ranges'

const DRAWS = 250

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
      letter: letterOf(i),
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
