/** What a lesson may ask of the model: each figure by its name, worked out of the lesson's own build. */
import { clocking } from '@/core/route/path'
import { toSi, fromSi } from '@/core/units/units'
import { finish } from '@/core/job'
import { HOSE_BORES } from '../catalogue/hoses'
import type { StateId } from '@/core/engine/states'
import { roadHours, TRACK_SESSION_HOURS } from '@/core/service/rates'
import { analyse } from '../analyse'
import { drainInBay, drainWord } from '../bay/drains'
import { placeFaults, placeGround } from '../bay/place'
import type { Build } from '../document/schema'
import { activeVariant, applyEdits } from '../edit/edit'
import { perform, setLine } from '../edit/edit-builders'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import { isSolved, solvedIn } from '../model/results'
import { canRates } from '../service/can-rates'
import { gaugeError } from '../service/readings'
import { bandOf } from '../studies/bad-end'
import { measurePlan } from '../studies/measure'
import { rankSchools } from '../studies/rank'
import { uncertainInputs } from '../studies/uncertain'
import { schoolOf, variantOf } from '../schools/schools'
import type { LessonFigure } from './lesson-schema'
import { drawPracticeCar } from './practice-car'

/** A word to choose by, or a number in the unit that the figure's name says. */
export type FigureAnswer = string | number
type Asked<N extends LessonFigure['figure']> = Extract<LessonFigure, { readonly figure: N }>
type Context = {
  readonly build: Build
  readonly fault: string | undefined
  readonly today: string
  readonly evaluator: Evaluator
}

/** A figure that a lesson's build has not. Thrown where a lesson is written wrong: its test says so. */
class NoFigureError extends Error {}
function known<T>(x: T | undefined, what: string): T {
  if (x === undefined) throw new NoFigureError(`This build has no ${what}.`)
  return x
}
const solvedState = ({ build, evaluator }: Context, id: StateId) =>
  known(solvedIn(figuresOf(build, evaluator), id), `answer in ${id}`)
const kpa = (pa: number) => fromSi('pressure', pa, 'kPa')
const catchOf = ({ build, evaluator }: Context, can: string) => {
  const { at } = canRates(build, figuresOf(build, evaluator), can)
  return at(build.site.ambientC)
}

const FIGURES: { readonly [N in LessonFigure['figure']]: (c: Context, of: Asked<N>) => FigureAnswer } = {
  worth: ({ build, today }) => finish(rankSchools(build, today)).worth.answer,
  intakeOil: ({ build, evaluator }) => fromSi('perDistance', figuresOf(build, evaluator).intakeOil, 'ml/1 000 km'),
  bestSchool({ build, today, evaluator }, { among }) {
    const totals = among.map((key) => {
      const school = known(schoolOf(key), `school ${key}`)
      const b: Build = { ...build, active: 'a', variants: [variantOf(school, build.engine, 'a')] }
      const analysis = analyse(b, today, evaluator)
      return { key, total: finish(measurePlan(b, today, analysis, evaluator)).total }
    })
    return totals.reduce((best, t) => (t.total < best.total ? t : best)).key
  },
  crankcase: (c, { state }) => kpa(solvedState(c, state).crankcaseGauge),
  badEnd(c, { state }) {
    const mid = solvedState(c, state).crankcaseGauge
    return kpa(known(finish(bandOf(c.build, state, mid, c.evaluator)).high, 'answer at the bad end'))
  },
  highestState({ build, evaluator }) {
    const solved = figuresOf(build, evaluator).states.filter(isSolved)
    return solved.reduce((a, b) => (b.crankcaseGauge > a.crankcaseGauge ? b : a)).id
  },
  exit(c, { state }) {
    const { into } = solvedState(c, state)
    const ways = Object.entries(into).filter(([, x]) => (x?.gas ?? 0) > 0)
    return known(ways.toSorted(([, a], [, b]) => (b?.gas ?? 0) - (a?.gas ?? 0))[0], 'way out of the gas')[0]
  },
  fault: ({ fault }) => known(fault, 'fault put into it'),
  leastBore({ build, evaluator }, { line, state, belowKpa }) {
    const enough = HOSE_BORES.find(({ mm }) => {
      const then = perform(build, setLine(line, { boreMm: mm }))
      const s = then.ok ? solvedIn(figuresOf(then.value, evaluator), state) : undefined
      return s !== undefined && kpa(s.crankcaseGauge) < belowKpa
    })
    return known(enough, 'hose that is wide enough').mm
  },
  drain({ build, evaluator }, { can }) {
    const word = drainWord(build, activeVariant(build), figuresOf(build, evaluator).states, can)
    return known(word, 'drain that is measured')
  },
  column({ build, evaluator }, { can, state }) {
    const drain = drainInBay(build, activeVariant(build), figuresOf(build, evaluator).states, can)
    return fromSi(
      'length',
      known(
        drain?.states.find((s) => s.id === state),
        'drain in that state',
      ).columnM,
      'mm',
    )
  },
  freePlace({ build }, { can, places }) {
    const variant = activeVariant(build)
    const part = variant.parts.find((p) => p.id === can)
    if (part?.kind !== 'can' || !build.bay) throw new NoFigureError('This build has no such can in a bay.')
    const ground = placeGround(build.bay, variant, part, [])
    const free = places.filter(({ mm: [x, y, z] }) => placeFaults(ground, [x / 1000, y / 1000, z / 1000]).next().done)
    if (free.length !== 1) throw new NoFigureError(`${free.length} of these places are free, not one.`)
    return free[0]!.id
  },
  // the first end points along `from`, the second along `to`, both out of their ports
  clocking: (_, { cornersMm, from, to }) => clocking(cornersMm, from, to),
  catch: (c, { can }) => {
    const { all } = catchOf(c, can)
    return fromSi('perDistance', all.oil + all.water, 'ml/1 000 km')
  },
  waterShare: (c, { can }) => {
    const { all } = catchOf(c, can)
    return (100 * all.water) / (all.oil + all.water)
  },
  sessionsToFull: (c, { can }) => {
    const { session } = catchOf(c, can)
    const part = activeVariant(c.build).parts.find((p) => p.id === can)
    if (part?.kind !== 'can') throw new NoFigureError(`This build has no can ${can}.`)
    return toSi('volume', part.bowlMl, 'ml') / (session.oil + session.water)
  },
  throughCan(c, { can, state }) {
    const s = solvedState(c, state)
    return (100 * Math.max(0, known(s.passages[can], `can ${can}`).flow)) / s.blowBy
  },
  gaugeError: (_, { kpa: read }) => kpa(gaugeError(toSi('pressure', read, 'kPa'))),
  mostTelling({ build, evaluator }, { state, among }) {
    const gauge = (b: Build) => solvedIn(figuresOf(b, evaluator), state)?.crankcaseGauge
    const now = known(gauge(build), `answer in ${state}`)
    const moves = uncertainInputs(build).flatMap((input) => {
      if (!among.includes(input.id)) return []
      const then = applyEdits(build, input.edits(1))
      const moved = then.ok ? gauge(then.value) : undefined
      return moved === undefined ? [] : [{ id: input.id, by: Math.abs(moved - now) }]
    })
    if (moves.length < among.length) throw new NoFigureError('Some of these inputs are not uncertain here.')
    return moves.reduce((a, b) => (b.by > a.by ? b : a)).id
  },
  finding({ build, today, evaluator }, { rule }) {
    const { verdicts } = analyse(build, today, evaluator)
    return verdicts.some((v) => v.rule === rule && v.severity !== 'ok') ? 'yes' : 'no'
  },
  sealedOnRoad: ({ build }) =>
    roadHours(build.duty.hours) > 0 && activeVariant(build).parts.some((p) => p.kind === 'atmosphere') ? 'no' : 'yes',
  sessionMinutes: () => TRACK_SESSION_HOURS * 60,
  huntTruth: (_, { seed }) => drawPracticeCar(seed).truth,
}

/** What the model answers to a question of a lesson. Throws where the lesson's build has no such figure. */
export function figureOf(build: Build, of: LessonFigure, fault: string | undefined, today: string): FigureAnswer {
  const context: Context = { build, fault, today, evaluator: makeEvaluator() }
  return (FIGURES[of.figure] as (c: Context, of: LessonFigure) => FigureAnswer)(context, of)
}
