/**
 * What Ivent works out today, of every school on every engine class, of the demo builds and of plans with mistakes: ./ivent docs regression
 * writes it to docs/regression.json, and a test holds it. It says nothing of whether a figure is right (verification/ does); it says that no
 * figure changed unseen. Crankcase pressures and verdicts stand there to be read; the rest as a count and a checksum of its figures.
 */
import { createHash } from 'node:crypto'
import { writeFileSync } from 'node:fs'
import { finish, type Job } from '@/core/job'
import { analyse, type Analysis } from '@/plan/analyse'
import { analyseOverCycle } from '@/plan/analyse-over-cycle'
import { tightGaps } from '@/plan/bay/clearance'
import { drainInBay } from '@/plan/bay/drains'
import { layOf } from '@/plan/bay/lay'
import { mirroredBay, otherDrive } from '@/plan/bay/mirror'
import { ALLOYS } from '@/plan/catalogue/alloys'
import { BAY_LAYOUTS } from '@/plan/catalogue/bay-layouts'
import { bayFor, readyBay } from '@/plan/catalogue/bays'
import { CANS } from '@/plan/catalogue/cans'
import { CLIMATE_FACTS } from '@/plan/catalogue/climates'
import { PART_EFFORT } from '@/plan/catalogue/effort'
import { ENGINE_CLASSES, type EngineClass } from '@/plan/catalogue/engines'
import { BARBS, FORM_KEYS, formOf } from '@/plan/catalogue/forms'
import { HOSE_BORES } from '@/plan/catalogue/hoses'
import { MOUNT_FACTS } from '@/plan/catalogue/mounts'
import { PIECES } from '@/plan/catalogue/pieces'
import { USES } from '@/plan/catalogue/uses'
import { CHECKS, PCVS } from '@/plan/catalogue/valves'
import type { Build } from '@/plan/document/schema'
import { actionsFor } from '@/plan/edit/actions'
import { activeVariant } from '@/plan/edit/edit'
import { readFigure } from '@/plan/explain/figures'
import { figuresIn } from '@/plan/explain/testing'
import { workingOf } from '@/plan/explain/workings'
import { failures } from '@/plan/faults/what-if'
import { bracketFor } from '@/plan/fit/bracket'
import { jobCard } from '@/plan/fit/card'
import { closuresOf } from '@/plan/fit/closures'
import { cutList, drillings, shoppingList } from '@/plan/fit/lists'
import { spannerRooms } from '@/plan/fit/spanner-room'
import { madeOf, stripsOf } from '@/plan/fit/strips'
import { makeEvaluator, type Evaluator } from '@/plan/model/evaluator'
import { figuresOf } from '@/plan/model/figures'
import type { Figures } from '@/plan/model/results'
import { newBuild } from '@/plan/schools/new-build'
import { SCHOOLS } from '@/plan/schools/schools'
import { oilBalance } from '@/plan/service/balance'
import { waterIntoOil } from '@/plan/service/oil-water'
import { trackDay } from '@/plan/service/track-day'
import { unitFormatter } from '@/plan/document/words'
import { effortOf } from '@/plan/studies/effort'
import { ranges } from '@/plan/studies/ranges'
import { engineMap } from '@/plan/studies/map'
import { measurePlan } from '@/plan/studies/measure'
import { sizeCan } from '@/plan/studies/size-can'
import { summarise } from '@/plan/studies/summary'
import { oneMistakeEach, RULE_CASES, SLIPS } from '@/plan/verdicts/testing'
import { demoBuilds } from '@/server/demo-builds'

export const REGRESSION_DAY = '2026-11-25'
export const REGRESSION_FILE = 'docs/regression.json'

/** Six digits: more than any screen shows, fewer than the order of a sum changes. */
const digits = (x: number): string => (Math.abs(x) < 1e-12 ? '0' : x.toPrecision(6))
/** Of a solver's way, not of its answer. */
const OF_THE_WAY = new Set(['residual', 'iterations'])

/** The figures, choices and names of kinds in a value, in its own order: of a sentence only the numbers. */
function* figuresOfValue(value: unknown): Generator<string> {
  if (typeof value === 'number') yield digits(value)
  else if (typeof value === 'boolean') yield String(value)
  else if (typeof value === 'string') yield* /\s/.test(value) ? (value.match(/\d+(?:[.,]\d+)?/g) ?? []) : [value]
  else if (value instanceof Map) for (const [key, x] of value) yield* [...figuresOfValue(key), ...figuresOfValue(x)]
  else if (Array.isArray(value)) for (const x of value as unknown[]) yield* figuresOfValue(x)
  else if (value !== null && typeof value === 'object')
    for (const [key, x] of Object.entries(value)) if (!OF_THE_WAY.has(key)) yield* figuresOfValue(x)
}

const shortHash = (text: string): string => createHash('sha1').update(text).digest('hex').slice(0, 8)

/** "412 figures, 1f3a09c2" */
export function checksum(value: unknown): string {
  const all = [...figuresOfValue(value)]
  return `${all.length} figures, ${shortHash(all.join('\n'))}`
}

/** A pumping engine's turns take seconds for each failure: here its failures are those of the mean flow. */
// oxlint-disable-next-line require-yield
function* withoutPumping(build: Build, evaluator: Evaluator): Job<Figures> {
  return figuresOf(build, evaluator)
}

export type KeptFigures = Readonly<Record<string, string | readonly string[]>>

/** What is bought, cut, drilled and done for a plan. */
function workFigures(build: Build, a: Analysis): KeptFigures {
  const variant = activeVariant(build)
  const strips = stripsOf(build, variant)
  return {
    buy: checksum(shoppingList(build, variant, a.states)),
    cut: checksum(cutList(madeOf(strips))),
    ends: checksum(strips),
    drill: checksum([drillings(strips, unitFormatter(build.units)), spannerRooms(build, variant, strips)]),
    close: checksum(closuresOf(build, variant)),
    card: checksum(jobCard(build, variant, a)),
    effort: checksum(effortOf(build, variant)),
  }
}

/** A plan's figures, verdicts, work, failures and edits. */
export function planFigures(build: Build, a: Analysis, evaluator: Evaluator): KeptFigures {
  const variant = activeVariant(build)
  return {
    crankcase: a.states.map((s) => `${s.id} ${s.solved ? `${digits(s.crankcaseGauge)} Pa` : 'no answer'}`),
    verdicts: a.verdicts.map((v) => `${v.severity} ${v.rule}${v.fix ? ', with a fix' : ''}`),
    states: checksum(a.states),
    engine: checksum(a.engine),
    water: checksum([a.waterAt, waterIntoOil(build, a), a.metresPerHour]),
    cans: checksum([a.cans, a.cans.map((c) => trackDay(c, 4))]),
    intake: checksum([a.intakeOil, a.oilLearned]),
    sentences: checksum(a.verdicts),
    ...workFigures(build, a),
    faults: checksum(finish(failures(build, withoutPumping))),
    edits: checksum(
      [
        ...variant.parts.map((p) => ({ kind: 'part', id: p.id }) as const),
        ...variant.lines.map((l) => ({ kind: 'line', id: l.id }) as const),
      ].map((chosen) => actionsFor(build, variant, chosen).map((x) => [x.key, x.edits])),
    ),
    figures: checksum(
      figuresIn(build, a)
        .slice(0, 60)
        .map((ref) => readFigure(build, a, ref, evaluator)),
    ),
  }
}

/** Every school that is laid out for a class, in the bay that suits it as far as bodies and ports go. */
export function classFigures(engineClass: EngineClass, school: string): KeptFigures {
  const build = newBuild({
    name: 'KeptFigures',
    engineClass,
    use: 'street-track',
    ambientC: 5,
    units: 'metric',
    school,
  })
  const evaluator = makeEvaluator()
  const a = analyse(build, REGRESSION_DAY, evaluator)
  const bay = readyBay(build, activeVariant(build), bayFor(build.engine))
  return { ...planFigures(build, a, evaluator), bay: checksum(bay) }
}

/** The tables themselves: what no plan of today happens to use is held too. */
export function tableFigures(): KeptFigures {
  const inBays = ENGINE_CLASSES.map(({ key }) => {
    const build = newBuild({ name: 'KeptFigures', engineClass: key, use: 'street', ambientC: 5, units: 'metric' })
    return BAY_LAYOUTS.map((l) => readyBay(build, activeVariant(build), l.key))
  })
  return {
    engines: checksum(ENGINE_CLASSES),
    cans: checksum([CANS, PCVS, CHECKS]),
    pieces: checksum(PIECES),
    forms: checksum([FORM_KEYS, FORM_KEYS.map(formOf)]),
    hoses: checksum([HOSE_BORES, BARBS]),
    effort: checksum([PART_EFFORT, MOUNT_FACTS, ALLOYS, CLIMATE_FACTS, USES]),
    bays: checksum(inBays),
  }
}

/** Plans whose single mistakes are judged: valves, cans with and without a drain, a vent, a pump of pistons. */
export const MISTAKEN_PLANS = [
  ['i5-turbo', 'both-sides'],
  ['i6-turbo', 'two-outlets'],
  ['v8-na', 'separator-return'],
  ['i4-turbo', 'vented-can'],
  ['v6-turbo', 'relief-cap'],
  ['single', 'vented-return'],
] as const satisfies readonly (readonly [EngineClass, string])[]

/** What is found in a plan with a mistake, in which words, what is offered against it, bought and done. */
function findingFigures(build: Build): string {
  const a = analyse(build, REGRESSION_DAY)
  const found = a.verdicts.filter((v) => v.severity !== 'ok').map((v) => `${v.severity} ${v.rule} ${v.subject}`)
  // which of its sentences a rule says is a choice too: after a sentence is worded anew they are written anew
  const words = shortHash(a.verdicts.map((v) => `${v.title} ${v.why} ${v.fix?.label ?? ''}`).join('\n'))
  return `${found.join(', ')}; ${checksum(a.verdicts)}; words ${words}; work ${checksum(workFigures(build, a))}`
}

/** Every single mistake that a plan allows. */
export const mistakenPlanFigures = (engineClass: EngineClass, school: string): KeptFigures =>
  Object.fromEntries(
    oneMistakeEach(school, engineClass).map(([mistake, build]) => [mistake, findingFigures(build)] as const),
  )

/** Circuits that break each rule, and slips as builders make them. */
export const brokenPlanFigures = (): KeptFigures =>
  Object.fromEntries([
    ...RULE_CASES.map(([rule, breaks]) => [rule, findingFigures(breaks)] as const),
    ...SLIPS.map(([slip, , , , , made]) => [slip, findingFigures(made)] as const),
  ])

/** A demo build, with its log, bay and studies. */
export function demoFigures(build: Build): KeptFigures {
  const evaluator = makeEvaluator()
  const a = finish(analyseOverCycle(build, REGRESSION_DAY))
  const variant = activeVariant(build)
  const cans = variant.parts.filter((p) => p.kind === 'can')
  return {
    ...planFigures(build, a, evaluator),
    workings: checksum(figuresIn(build, a).map((ref) => workingOf(build, a, ref, evaluator))),
    bay: checksum([
      variant.lines.map((l) => layOf(build.bay, variant, l)),
      tightGaps(build, variant),
      cans.map((c) => [drainInBay(build, variant, a.states, c.id), bracketFor(build, variant, c.id)]),
      mirroredBay(build),
      otherDrive(build),
    ]),
    service: checksum([oilBalance(build), summarise(build, a)]),
    ranges: checksum(finish(ranges(build, 24))),
    map: checksum(finish(engineMap(build, 6))),
    measure: checksum(finish(measurePlan(build, REGRESSION_DAY, a, evaluator))),
    size: checksum(cans.slice(0, 1).map((c) => finish(sizeCan(build, c.id, REGRESSION_DAY)))),
  }
}

/** [engine class, school] for every school that fits the class. */
export const CLASS_PLANS: readonly (readonly [EngineClass, string])[] = ENGINE_CLASSES.flatMap(({ key }) => {
  const { engine } = newBuild({ name: 'KeptFigures', engineClass: key, use: 'street', ambientC: 5, units: 'metric' })
  return SCHOOLS.filter((s) => s.fits(engine)).map((s) => [key, s.key] as const)
})

export const DEMO_PLANS: readonly Build[] = demoBuilds(REGRESSION_DAY)

if (process.argv[1]?.endsWith('regression.ts')) {
  const kept = Object.fromEntries([
    ['tables', tableFigures()] as const,
    ...CLASS_PLANS.map(([c, s]) => [`${c}, ${s}`, classFigures(c, s)] as const),
    ...DEMO_PLANS.map((b) => [b.name, demoFigures(b)] as const),
    ['broken plans', brokenPlanFigures()] as const,
    ...MISTAKEN_PLANS.map(([c, s]) => [`mistakes: ${c}, ${s}`, mistakenPlanFigures(c, s)] as const),
  ])
  writeFileSync(REGRESSION_FILE, `${JSON.stringify(kept, null, 1)}\n`)
  console.log(REGRESSION_FILE)
}
