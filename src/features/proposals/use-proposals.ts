'use client'
/** A search for proposals on two workers: plans tried, those near the front judged and placed, the few worth choosing shown. */
import { startTransition, useCallback, useEffect, useRef, useState } from 'react'
import type { Judged, PlanOffer } from '@/plan/proposals/judge-plan'
import {
  nextSearchStep,
  nextPlansToJudge,
  placingOf,
  refusedOf,
  shownOffers,
  type SearchAsk,
  type SearchStep,
  type JudgedPlan,
  type Proposals,
  type Refused,
  type ShownOffer,
} from '@/plan/proposals/propose'
import type { SmallErrorEffects } from '@/plan/proposals/small-errors'
import type { Survey, TriedTable } from '@/plan/proposals/survey'
import { runJob, stopJob, WORKERS } from '../workspace/jobs/jobs'

/** What is being done; undefined when nothing is. */
export type SearchPhase = 'trying' | 'judging' | 'placing' | 'comparing'
export type ProposalsState = {
  readonly doing: SearchPhase | undefined
  /** share done of what is being done */
  readonly progress: number
  readonly plans: number
  readonly ask: SearchAsk | undefined
  readonly survey: Survey | undefined
  readonly offers: readonly ShownOffer[]
  /** offers whose place is still looked for, by name */
  readonly unplaced: ReadonlySet<string>
  readonly refused: readonly Refused[]
  readonly best: Proposals['best']
  /** it was ended by the builder: there may be more to find */
  readonly stopped: boolean
  readonly failed: string | undefined
}
const NOTHING: ProposalsState = {
  doing: undefined,
  progress: 0,
  plans: 0,
  ask: undefined,
  survey: undefined,
  offers: [],
  unplaced: new Set(),
  refused: [],
  best: {},
  stopped: false,
  failed: undefined,
}

/** Work shared by the workers, in turn, until it is stopped; an answer is undefined where there is none. */
async function shared<T, R>(
  items: readonly T[],
  work: (nth: number, item: T, report: (share: number) => void) => Promise<R | undefined>,
  { report, isStopped }: { readonly report: (share: number) => void; readonly isStopped: () => boolean },
): Promise<readonly (R | undefined)[]> {
  const answers: (R | undefined)[] = items.map(() => undefined)
  const shares = items.map(() => 0)
  const lanes = Array.from({ length: WORKERS }, async (_, nth) => {
    for (let i = nth; i < items.length && !isStopped(); i += WORKERS)
      answers[i] = await work(nth, items[i]!, (share) => {
        shares[i] = share
        report(shares.reduce((sum, x) => sum + x, 0) / items.length)
      })
  })
  await Promise.all(lanes)
  return answers
}
/** The picture is drawn anew each time so many more plans were considered. */
const SHOWN_EACH = 1500
/** What Stop ends. */
const STOPPED_JOBS = ['tryPlans', 'judgePlans', 'place', 'turn', 'smallErrors'] as const

/** Whether two asks look for plans in one place: what is wished does not count. */
const isSameSearch = (a: SearchAsk, b: SearchAsk): boolean =>
  a.hold === b.hold &&
  (['engine', 'site', 'duty', 'bench', 'variants', 'active', 'bay'] as const).every((k) => a.build[k] === b.build[k])

export function useProposals(): ProposalsState & {
  readonly start: (ask: SearchAsk, plans: number) => void
  readonly stop: () => void
} {
  const [state, setState] = useState<ProposalsState>(NOTHING)
  // the run whose answers count, and whether what it does was stopped
  const run = useRef(0)
  const stopped = useRef(false)
  const found = useRef<{ readonly of: SearchAsk; readonly tables: readonly TriedTable[] } | undefined>(undefined)

  const start = useCallback((ask: SearchAsk, plans: number) => {
    const mine = ++run.current
    stopped.current = false
    const set = (change: Partial<ProposalsState>) => {
      if (run.current !== mine) return
      // thousands of dots and five drawings: drawn in slices, so that the page answers meanwhile
      startTransition(() => setState((s) => ({ ...s, ...change })))
    }
    const report = (progress: number) => set({ progress })
    const isStopped = () => stopped.current || run.current !== mine
    const surveyOf = (tables: readonly TriedTable[]) => runJob(0, 'survey', [ask, tables], () => undefined)
    async function search(): Promise<void> {
      set({ doing: 'trying', progress: 0, plans, ask, failed: undefined, stopped: false })
      // what was tried already is sorted anew under these wishes at once
      const kept = found.current && isSameSearch(found.current.of, ask) ? found.current.tables : []
      if (kept.length > 0) set({ survey: await surveyOf(kept) })
      const tryOn = ({ until, others }: SearchStep) =>
        shared(
          others.map((of, island) => [island, of] as const),
          (nth, [island, of], tell) => runJob(nth, 'tryPlans', [ask, island, until, of], tell),
          // what was begun is asked for what there is, stopped or not
          { report: (share) => report((share * until) / Math.max(1, plans)), isStopped: () => run.current !== mine },
        )
      let tables = kept
      let until = 0
      let isLast: boolean
      do {
        const step = nextSearchStep(tables, until, plans)
        let answers = await tryOn(step)
        if (run.current !== mine) return
        // a search that was stopped gives what there is, however often Stop is pressed
        while (answers.includes(undefined) && stopped.current && run.current === mine)
          answers = await tryOn(nextSearchStep([], 0, 0))
        const whole = answers.filter((x) => x !== undefined)
        if (run.current !== mine || whole.length < answers.length) return
        tables = whole
        found.current = { of: ask, tables }
        until = step.until
        isLast = until >= plans || stopped.current
        // what was tried stands in the picture as it comes
        if (isLast || until % SHOWN_EACH === 0) set({ survey: await surveyOf(tables) })
      } while (!isLast)
      // stopped while plans were tried: those at the front are judged all the same, and stopped anew by another press
      const shortened = stopped.current
      stopped.current = false
      set({ doing: 'judging', progress: 0, stopped: shortened })
      const worth = await runJob(0, 'worthJudging', [ask, tables], () => undefined)
      if (!worth) return
      const judged: JudgedPlan[] = []
      for (
        let next = nextPlansToJudge(worth, judged);
        next.length > 0 && !isStopped();
        next = nextPlansToJudge(worth, judged)
      ) {
        const answers = await shared(next, (nth, genome, tell) => runJob(nth, 'judgePlans', [ask, [genome]], tell), {
          report,
          isStopped,
        })
        judged.push(...next.flatMap((genome, k) => (answers[k] ?? []).map((as) => ({ genome, as }))))
      }
      if (run.current !== mine) return
      await place(
        judged.map((j) => j.as),
        shortened || stopped.current,
      )
    }
    async function place(judged: readonly Judged[], shortened: boolean): Promise<void> {
      const offers = judged.flatMap((j) => ('offer' in j ? [j.offer] : []))
      const placed = new Map<PlanOffer, Judged>()
      const wins = new Map<string, string | undefined>()
      let next = placingOf({ judged: offers, placed })
      const show = (doing: SearchPhase | undefined) =>
        set({
          doing,
          offers: shownOffers(next, wins),
          unplaced: new Set(doing === 'placing' ? next.toPlace.map((o) => o.name) : []),
          best: next.best,
          refused: refusedOf([...judged, ...placed.values()]),
          stopped: shortened || stopped.current,
        })
      // a search that was stopped shows what there is and goes no further: places and ways take longest
      if (shortened) return show(undefined)
      show('placing')
      set({ progress: 0 })
      while (next.toPlace.length > 0) {
        const answers = await shared(next.toPlace, (nth, offer, tell) => runJob(nth, 'place', [ask, offer], tell), {
          report,
          isStopped,
        })
        for (const [k, o] of next.toPlace.entries()) if (answers[k]) placed.set(o, answers[k])
        next = placingOf({ judged: offers, placed })
        if (answers.includes(undefined)) return show(undefined)
        show('placing')
      }
      show('comparing')
      const [first, ...others] = next.shown
      const turns = await shared(others, (nth, other, tell) => runJob(nth, 'turn', [first!, other, ask.today], tell), {
        report,
        isStopped,
      })
      others.forEach((o, k) => wins.set(o.name, turns[k]?.says))
      show('comparing')
      const answers = await shared(offers, (nth, offer, tell) => runJob(nth, 'smallErrors', [ask, offer], tell), {
        report,
        isStopped,
      })
      const effects = new Map<PlanOffer, SmallErrorEffects>()
      for (const [k, o] of offers.entries()) if (answers[k]) effects.set(o, answers[k])
      // of some that were not looked at nothing can be said
      if (effects.size === offers.length) next = placingOf({ judged: offers, placed, effects })
      show(undefined)
    }
    search().catch((error: unknown) => {
      set({ doing: undefined, failed: error instanceof Error ? error.message : String(error) })
    })
  }, [])

  // what runs ends at its next step, and what there is is shown
  const stop = useCallback(() => {
    stopped.current = true
    for (const name of STOPPED_JOBS) stopJob(name)
  }, [])
  // a page that is left leaves no work behind
  useEffect(
    () => () => {
      run.current++
      for (const name of STOPPED_JOBS) stopJob(name)
    },
    [],
  )
  return { ...state, start, stop }
}
