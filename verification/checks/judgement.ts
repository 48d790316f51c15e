/**
 * What is said of failures and fixes, held against the solution by other means: flows walked joint by joint instead of mixed, the plan with
 * the failure analysed as it is when tried, the plan with the fix analysed as it is when pressed.
 */
import { finish, type Job } from '../../src/core/job'
import { analyse } from '../../src/plan/analyse'
import { figuresOf } from '../../src/plan/model/figures'
import { ENGINE_CLASSES, type EngineClass } from '../../src/plan/catalogue/engines'
import type { Build } from '../../src/plan/document/schema'
import { activeVariant, applyEdits } from '../../src/plan/edit/edit'
import { unitFormatter } from '../../src/plan/document/words'
import { withFault } from '../../src/plan/faults/graded-faults'
import { analyseFault, failures, type FaultOutcome } from '../../src/plan/faults/what-if'
import { networkOf } from '../../src/plan/model/network'
import { nodeOfPart, resolve } from '../../src/plan/model/resolve'
import { isSolved, type Figures, type SolvedState } from '../../src/plan/model/results'
import { newBuild } from '../../src/plan/schools/new-build'
import { SCHOOLS } from '../../src/plan/schools/schools'
import { changedVerdicts } from '../../src/plan/verdicts/outcome'
import { SEVERITIES, type Verdict } from '../../src/plan/verdicts/verdict'
import { checks } from '../check'

/** Thousands of failures on still flow; over the turn each would take a second. */
// eslint-disable-next-line require-yield
function* still(build: Build): Job<Figures> {
  return figuresOf(build)
}

const DAY = '2026-11-25'
const CLASSES: readonly EngineClass[] = ENGINE_CLASSES.map((c) => c.key)
const builds = (classes: readonly EngineClass[]): Build[] =>
  classes.flatMap((engineClass) =>
    SCHOOLS.map((s) =>
      newBuild({ name: 'Scan', engineClass, use: 'street', ambientC: 10, units: 'metric', school: s.key }),
    ),
  )
const rank = (v: { severity: Verdict['severity'] }) => SEVERITIES.indexOf(v.severity)

/** Whether gas that comes out of `from` can come to `to` along the flows, step by step. */
function reaches(build: Build, s: SolvedState, from: string, to: string): boolean {
  const variant = activeVariant(build)
  const r = resolve(variant)
  const amb = { pressurePa: 101_325, temperatureK: 293.15 }
  const joint = (id: string) => {
    const part = variant.parts.find((p) => p.id === id)
    return part && (nodeOfPart(r, part) ?? part.id)
  }
  const elements = networkOf(r, s.operating, amb, s.blowBy).elements
  const reached = new Set([joint(from)])
  for (let grew = true; grew;) {
    grew = false
    for (const e of elements) {
      const flow = s.passages[e.id]?.flow ?? 0
      const [a, b] = flow > 0 ? [e.from, e.to] : [e.to, e.from]
      if (Math.abs(flow) < 1e-9 || !reached.has(a) || reached.has(b)) continue
      reached.add(b)
      grew = true
    }
  }
  return reached.has(joint(to))
}

/** Whether the sentence of an outcome is true of the plan with the failure; undefined where it says nothing that can be walked. */
function isTrue(build: Build, o: FaultOutcome): boolean | undefined {
  const broken = withFault(build, o.id)!
  const { parts } = activeVariant(broken)
  const say = unitFormatter(broken.units)
  const figures = figuresOf(broken)
  const named = (text: string | undefined) =>
    parts.filter((p) => text !== undefined && p.name.toLowerCase() === text.toLowerCase()).map((p) => p.id)
  const solved = figures.states.filter(isSolved)
  const s = solved.find((x) => x.id === o.state)
  const from = (kinds: readonly string[], to: readonly string[]) =>
    s !== undefined &&
    parts.some(
      (p) => kinds.includes(p.kind) && (s.into[p.id]?.gas ?? 0) < 0 && to.some((t) => reaches(broken, s, p.id, t)),
    )
  const into = /of boost blows back into the (.+)\.$/.exec(o.says)
  if (into) return from(['manifold', 'chargePipe', 'blowerInlet'], named(into[1]))
  const out = /of boost leaks out by the (.+)\.$/.exec(o.says)
  if (out) return from(['manifold', 'chargePipe', 'blowerInlet'], named(out[1]))
  if (/of air leaks into the manifold/.test(o.says))
    return from(
      ['atmosphere'],
      parts.filter((p) => p.kind === 'manifold').map((p) => p.id),
    )
  if (o.says.startsWith('Crankcase at')) return s !== undefined && o.says.includes(say.signed(s.crankcaseGauge))
  if (/^(Seals let go|Gas finds no way out)/.test(o.says))
    return figures.states.some((x) => x.id === o.state && !x.solved)
  return undefined
}

/** States whose crankcase a failure turns from suction to pressure, of those that had an answer before it and have one with it. */
function turned(build: Build, o: FaultOutcome): string[] {
  const [was, now] = [figuresOf(build), figuresOf(withFault(build, o.id)!)]
  return was.states.flatMap((s) => {
    const then = now.states.find((x) => x.id === s.id)
    return s.solved && then?.solved && s.crankcaseGauge < -50 && then.crankcaseGauge > 50 ? [s.id] : []
  })
}

/** How far the crankcase moves in the state that moves most, Pa, of what is more than half of what it was. */
function moves(build: Build, o: FaultOutcome): number {
  const [was, now] = [figuresOf(build), figuresOf(withFault(build, o.id)!)]
  return Math.max(
    0,
    ...was.states.map((s) => {
      const then = now.states.find((x) => x.id === s.id)
      if (!s.solved || !then) return 0
      if (!then.solved) return Infinity
      const moved = Math.abs(then.crankcaseGauge - s.crankcaseGauge)
      return moved > 0.5 * Math.abs(s.crankcaseGauge) ? moved : 0
    }),
  )
}

/** "Nothing that matters" is true when no rule speaks more gravely than it did, and no state's crankcase moves for a gauge to show. */
function nothingIsTrue(build: Build, o: FaultOutcome): boolean {
  if (moves(build, o) > 300) return false
  const [was, now] = [analyse(build, DAY).verdicts, analyseFault(build, o.id, DAY)!.verdicts]
  const worst = (list: readonly Verdict[], rule: string) =>
    Math.min(SEVERITIES.length, ...list.filter((v) => v.rule === rule).map(rank))
  return now.every((v) => v.rule === 'fill' || v.severity === 'ok' || worst(now, v.rule) >= worst(was, v.rule))
}

function sentences() {
  const count = { sentences: 0, walked: 0, wrong: 0, nothing: 0, notNothing: 0, unlike: 0, turned: 0, unsaid: 0 }
  for (const build of builds(CLASSES))
    for (const o of finish(failures(build, still))) {
      count.sentences++
      const shown = analyseFault(build, o.id, DAY)?.verdicts ?? []
      // the row and the verdicts that stand there when it is tried are the same
      if (!o.verdicts.every((v) => shown.some((x) => x.title === v.title && x.severity === v.severity))) count.unlike++
      for (const state of turned(build, o)) {
        count.turned++
        if (!o.states.some((s) => s.id === state)) count.unsaid++
      }
      if (o.severity === 'ok') {
        count.nothing++
        if (!nothingIsTrue(build, o)) count.notNothing++
        continue
      }
      const truth = isTrue(build, o)
      if (truth === undefined) continue
      count.walked++
      if (!truth) count.wrong++
    }
  return count
}

function fixes() {
  const count = { offered: 0, worse: 0 }
  for (const build of builds(CLASSES)) {
    const { verdicts } = analyse(build, DAY)
    for (const v of verdicts) {
      if (!v.fix) continue
      count.offered++
      const then = applyEdits(build, v.fix.edits)
      const after = then.ok ? analyse(then.value, DAY).verdicts : undefined
      const same = (x: Verdict) => x.rule === v.rule && x.subject === v.subject
      const still = after?.find(same)
      const there = new Set([...activeVariant(build).parts, ...activeVariant(build).lines].map((x) => x.id))
      // what is put in may be watched over; nothing else comes in place of what is mended
      const isNew = (id: string | undefined) => id !== undefined && !there.has(id)
      const graver = after
        ? changedVerdicts(verdicts, after).some(
            (x) =>
              !same(x) && rank(x) <= rank(v) && !(x.severity === 'watch' && (isNew(x.at.part) || isNew(x.at.line))),
          )
        : true
      const eased = still?.amount !== undefined && still.amount <= 0.6 * (v.amount ?? 0)
      if (graver || (still && rank(still) <= rank(v) && !eased)) count.worse++
    }
  }
  return count
}

export function judgementChecks() {
  const [s, f] = [sentences(), fixes()]
  return checks(
    'Judgement',
    'the solution itself, walked by other means; every failure of all classes and schools',
    0,
    [
      { what: 'sentences on failures', expected: [400, 100_000], got: s.sentences },
      { what: 'of them walked through the solution', expected: [250, 100_000], got: s.walked },
      { what: 'of these false', expected: 0, got: s.wrong },
      { what: '"nothing that matters"', expected: [1, 100_000], got: s.nothing },
      { what: 'of these contradicted by a rule', expected: 0, got: s.notNothing },
      { what: 'turns from suction to pressure, state by state', expected: [100, 100_000], got: s.turned },
      { what: 'of them unsaid', expected: 0, got: s.unsaid },
      { what: 'rows that the verdicts shown do not bear out', expected: 0, got: s.unlike },
      { what: 'fixes that are offered, pressed', expected: [80, 100_000], got: f.offered },
      { what: 'of them that do not help, or bring what is as grave', expected: 0, got: f.worse },
    ],
  )
}
