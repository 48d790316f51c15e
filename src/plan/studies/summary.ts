/** A build in a few figures, as the garage shows it. */
import type { StateId } from '@/core/engine/states'
import type { Range } from '@/core/service/fill'
import type { UnitChoice } from '@/core/units/units'
import type { Analysis } from '../analyse'
import type { Build } from '../document/schema'
import { judgeState } from '../model/limits'
import type { LookReason } from '../model/results'
import type { Severity } from '../verdicts/verdict'

export type BuildSummary = {
  readonly name: string
  readonly about: string
  readonly units: UnitChoice
  readonly states: readonly { readonly id: StateId; readonly gauge: number | undefined; readonly judged: Severity }[]
  readonly verdicts: readonly Severity[]
  readonly worst: string | undefined
  /** the can that must be looked at first */
  readonly can?: {
    readonly name: string
    readonly share: Range
    readonly checkBy: number | undefined
    readonly left: number | undefined
    readonly checkDate: string | undefined
    readonly checkReason: LookReason
    readonly logged: boolean
  }
  /** lower is more urgent */
  readonly urgency: number
}

const finite = (x: number) => (Number.isFinite(x) ? x : undefined)

/** What the garage shows of a build: the worst verdict, cans and their days. */
export function summarise(build: Build, a: Analysis): BuildSummary {
  const first = a.cans
    .filter((c) => c.known)
    .toSorted((x, y) => x.checkBy - x.odometerNow - (y.checkBy - y.odometerNow))[0]
  const left = first ? first.checkBy - first.odometerNow : Infinity
  const open = a.verdicts.filter((v) => v.severity !== 'ok')
  const weight = open.reduce((s, v) => s + { stop: 400, fix: 60, watch: 5, ok: 0 }[v.severity], 0)
  return {
    name: build.name,
    about: build.about,
    units: build.units,
    states: a.states.map((s) => ({
      id: s.id,
      gauge: s.solved ? s.crankcaseGauge : undefined,
      judged: s.solved ? judgeState(s) : 'stop',
    })),
    verdicts: open.map((v) => v.severity),
    worst: open[0]?.title,
    can: first && {
      name: first.name,
      share: {
        low: first.now.low / first.bowlM3,
        mid: first.now.mid / first.bowlM3,
        high: first.now.high / first.bowlM3,
      },
      checkBy: finite(first.checkBy),
      left: finite(left),
      checkDate: first.checkDate,
      checkReason: first.checkReason,
      logged: first.emptyAt !== undefined,
    },
    // a look that is due comes before everything, then what is wrong, then what is due next
    urgency: (first?.emptyAt !== undefined && left <= 0 ? -1e6 : 0) - weight + Math.min(left, 2e7) / 1e5,
  }
}
