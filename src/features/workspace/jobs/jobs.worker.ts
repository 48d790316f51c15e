/** Long work away from the page: jobs that report how far they are and can be stopped. */
import { expose } from 'comlink'
import { type Analysis } from '@/plan/analyse'
import { figuresOf } from '@/plan/model/figures'
import { analyseOverCycle } from '@/plan/analyse-over-cycle'
import type { Job as LongJob } from '@/core/job'
import { fail, ok, type Result } from '@/core/result'
import type { Led } from '@/plan/bay/lead-lines'
import { bestSpots, type BestSpot } from '@/plan/bay/best-spots'
import { openBay, type OpenedBay } from '@/plan/bay/open-bay'
import { difference } from '@/plan/edit/diff'
import type { Edit } from '@/plan/edit/edit'
import { makeFaultFinder } from '@/plan/finder/find-faults'
import { findLineWay } from '@/plan/bay/find-way'
import type { Build } from '@/plan/document/schema'
import { unpackRecording } from '@/plan/recordings/parquet'
import { engineMap } from '@/plan/studies/map'
import { compare } from '@/plan/studies/compare'
import { driveBand } from '@/plan/studies/drive-map'
import { analyseFaultOverCycle, failures } from '@/plan/faults/what-if'
import { mendPlan, type MendedPlan } from '@/plan/proposals/mend-plan'
import { placeOffer, type Judged, type PlanOffer } from '@/plan/proposals/judge-plan'
import { makeSearches, type SearchAsk } from '@/plan/proposals/propose'
import { smallErrorEffects, type SmallErrorEffects } from '@/plan/proposals/small-errors'
import { tryPlaces } from '@/plan/proposals/try-places'
import { turnsTo } from '@/plan/proposals/turn-choice'
import { makeHunts } from '@/plan/practice/hunt-view'
import { LESSONS, workLesson, type WorkedLesson } from '@/plan/practice/lessons'
import { pulseStudy } from '@/plan/model/pulsation'
import { rankSchools } from '@/plan/studies/rank'
import { influences } from '@/plan/studies/sensitivity'
import { sizeCan } from '@/plan/studies/size-can'
import { ranges } from '@/plan/studies/ranges'
import { csvOfSource, packSource, statesOfSource, studyRecording } from '../../recording/recording-job'

/** What a search has laid out, as edits of the build that it was asked for; and what it found no way or place for, in words. */
type LaidOut = { readonly edits: readonly Edit[]; readonly left: readonly string[] }
const laidOut = (build: Build, led: Led, unplaced: OpenedBay['unplaced'] = []): LaidOut => ({
  edits: difference(build, led.build),
  left: [...unplaced.map((u) => `${u.part.name}: ${u.reason}`), ...led.stuck.map((s) => `${s.line.name}: ${s.reason}`)],
})

/** Places for a can, by what the plan as it is holds up in its drain, each with its hoses led. */
function* spots(build: Build, can: string): LongJob<Result<readonly (Omit<BestSpot, 'led'> & LaidOut)[]>> {
  const found = yield* bestSpots(build, figuresOf(build).states, can)
  if (!found.ok) return found
  return ok(found.value.map(({ led, ...spot }) => ({ ...spot, ...laidOut(build, led) })))
}

/** A ready bay with everything of the plan placed and led in it. */
function* open(build: Build, key: string): LongJob<LaidOut> {
  const opened = yield* openBay(build, figuresOf(build).states, key)
  return laidOut(build, opened, opened.unplaced)
}

/** The analysis over a turn of the crank, with the number by which the asker knows what it is of. */
function* wholeOf(
  build: Build,
  today: string,
  asked: number,
  fault: string | undefined,
): LongJob<{ asked: number; analysis: Analysis | undefined }> {
  const analysis = fault === undefined ? analyseOverCycle(build, today) : analyseFaultOverCycle(build, fault, today)
  return { asked, analysis: yield* analysis }
}

/** A lesson's build, and what the model answers. */
function* lesson(id: string, today: string): LongJob<Result<WorkedLesson>> {
  const known = LESSONS.find((l) => l.id === id)
  return known ? yield* workLesson(known, today) : fail('There is no such lesson.')
}
/** Keeps what it worked out of the car that was drawn last. */
const hunts = makeHunts()

/** The least that mends a plan: a few dozen analyses, done before a second is over. */
function* mendJob(build: Build, today: string): LongJob<MendedPlan> {
  yield 0
  return mendPlan(build, today)
}

/** Keeps what it worked out of the last plan: what is read later moves odds at once. */
const finder = makeFaultFinder()

/** Go on where they stood while the build stays. */
const searches = makeSearches()
function* place(ask: SearchAsk, offer: PlanOffer): LongJob<Judged> {
  return yield* placeOffer(offer, ask.wishes, ask.today)
}
/** What would make an offer win over the first. */
function* turn(best: PlanOffer, other: PlanOffer, today: string): LongJob<{ readonly says: string | undefined }> {
  yield 0
  return { says: turnsTo(best, other, today) }
}
/** What small errors in facts do to an offer. */
function* smallErrors(ask: SearchAsk, offer: PlanOffer): LongJob<SmallErrorEffects> {
  yield 0
  return smallErrorEffects(offer, ask.wishes)
}

const JOBS = {
  whole: wholeOf,
  map: engineMap,
  ranges,
  pulse: pulseStudy,
  failures,
  compare,
  rank: rankSchools,
  spots,
  open,
  way: findLineWay,
  size: sizeCan,
  influences,
  band: driveBand,
  faults: finder.find,
  tryPlans: searches.tryPlans,
  survey: searches.survey,
  worthJudging: searches.worthJudging,
  judgePlans: searches.judgePlans,
  place,
  turn,
  smallErrors,
  places: tryPlaces,
  mend: mendJob,
  lesson,
  hunt: hunts.view,
  recording: studyRecording,
  pack: packSource,
  csv: csvOfSource,
  driven: statesOfSource,
}

type WorkerJobs = typeof JOBS
export type JobName = keyof WorkerJobs
export type JobArgs<N extends JobName> = Parameters<WorkerJobs[N]>
export type JobValue<N extends JobName> = ReturnType<WorkerJobs[N]> extends Generator<number, infer T> ? T : never

const REPORT_MS = 50
const latest: Partial<Record<JobName, number>> = {}

/** Runs a job; a later one of the same name, or `stop`, ends it at its next step and it answers undefined. */
async function run<N extends JobName>(
  name: N,
  ticket: number,
  args: JobArgs<N>,
  report: (share: number) => void,
): Promise<JobValue<N> | undefined> {
  latest[name] = ticket
  const job = (JOBS[name] as (...a: JobArgs<N>) => Generator<number, JobValue<N>>)(...args)
  for (let seen = performance.now(); ;) {
    const step = job.next()
    if (step.done) return step.value
    if (performance.now() - seen < REPORT_MS) continue
    report(step.value)
    // lets a stop or a newer job be heard
    await new Promise((resolve) => setTimeout(resolve))
    seen = performance.now()
    if (latest[name] !== ticket) return undefined
  }
}

const api = {
  run,
  /** a recording from the bytes in which it was kept; a promise, since the package that reads them gives one */
  unpack: unpackRecording,
  stop: (name: JobName) => {
    latest[name] = -1
  },
}
export type JobWorker = typeof api
expose(api)
