/** A build in a few figures, as the garage shows it. */
import type { StateId } from '@/core/engine/states'
import type { Range } from '@/core/service/fill'
import type { UnitChoice } from '@/core/units/units'
import type { Analysis } from '../analyse'
import { fittedPlan } from '../document/fitted-plan'
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { judgeState } from '../model/limits'
import type { CanForecast, LookReason } from '../model/results'
import { planName } from '../schools/schools'
import { carEvidenceOf, type CarEvidence } from '../service/kind-prior'
import type { Severity } from '../verdicts/verdict'

export type CanSummary = {
  readonly name: string
  readonly share: Range
  readonly checkBy: number | undefined
  readonly left: number | undefined
  readonly checkDate: string | undefined
  readonly checkReason: LookReason
  /** noted as fitted: its contents are known since */
  readonly logged: boolean
}

export type BuildSummary = {
  readonly name: string
  readonly about: string
  readonly tags: readonly string[]
  readonly away: boolean
  readonly units: UnitChoice
  /** the plan that all of this is about, and whether it is on the car */
  readonly plan: string
  readonly onCar: boolean
  readonly states: readonly { readonly id: StateId; readonly gauge: number | undefined; readonly judged: Severity }[]
  readonly verdicts: readonly Severity[]
  readonly worst: string | undefined
  /** cans that are emptied: those noted as fitted first, of these the first due first */
  readonly cans: readonly CanSummary[]
  /** lower is more urgent */
  readonly urgency: number
  /** what its log says for other cars of its kind */
  readonly evidence: CarEvidence
}

const finite = (x: number) => (Number.isFinite(x) ? x : undefined)

/**
 * What the garage shows of a build: the worst verdict, cans and their days.
 * @param byItself the forecasts of the build `withoutOthers`
 *
 * @example
 * import { analyse } from '@/plan/analyse'
 * import { newBuild } from '@/plan/schools/new-build'
 * import { summarise } from '@/plan/studies/summary'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const summary = summarise(build, analyse(build, '2026-11-24'))
 * console.log(summary.cans.length) // 1
 */
export function summarise(build: Build, a: Analysis, byItself: readonly CanForecast[] = a.cans): BuildSummary {
  const toGo = (c: CanForecast) => c.checkBy - c.odometerNow
  const isLogged = (c: CanForecast) => c.emptyAt !== undefined
  const cans = a.cans
    .filter((c) => c.known)
    .toSorted((x, y) => Number(isLogged(y)) - Number(isLogged(x)) || toGo(x) - toGo(y))
  const first = cans[0]
  const left = first ? toGo(first) : Infinity
  const open = a.verdicts.filter((v) => v.severity !== 'ok')
  const weight = open.reduce((s, v) => s + { stop: 400, fix: 60, watch: 5, ok: 0 }[v.severity], 0)
  return {
    name: build.name,
    about: build.about,
    tags: build.tags ?? [],
    away: build.away === true,
    units: build.units,
    plan: planName(activeVariant(build), build.engine),
    onCar: fittedPlan(build)?.id === build.active,
    states: a.states.map((s) => ({
      id: s.id,
      gauge: s.solved ? s.crankcaseGauge : undefined,
      judged: s.solved ? judgeState(s) : 'stop',
    })),
    verdicts: open.map((v) => v.severity),
    worst: open[0]?.title,
    cans: cans.map((c) => ({
      name: c.name,
      share: { low: c.now.low / c.bowlM3, mid: c.now.mid / c.bowlM3, high: c.now.high / c.bowlM3 },
      checkBy: finite(c.checkBy),
      left: finite(toGo(c)),
      checkDate: c.checkDate,
      checkReason: c.checkReason,
      logged: isLogged(c),
    })),
    // a look that is due comes before everything, then what is wrong, then what is due next
    evidence: carEvidenceOf(build, byItself),
    urgency: (first && isLogged(first) && left <= 0 ? -1e6 : 0) - weight + Math.min(left, 2e7) / 1e5,
  }
}
