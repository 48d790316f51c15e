/** Which plan is on the car, and which are ideas. */
import type { Build, LogEntry, Variant } from './schema'

/** Entries that only the plan on the car can have. */
const ON_THE_CAR: readonly LogEntry['kind'][] = ['fitted', 'emptied', 'checked']

/**
 * The plan on the car: as the builder says, else that of the newest entry of the log about a can that was fitted, emptied or looked at.
 * Undefined while all are ideas.
 *
 * @example
 * import { fittedPlan } from '@/plan/document/fitted-plan'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(fittedPlan({ ...build, fitted: 'a' }).id) // 'a'
 */
export function fittedPlan(build: Build): Variant | undefined {
  const said = build.variants.find((v) => v.id === build.fitted)
  if (said) return said
  const last = build.log
    .filter((e) => ON_THE_CAR.includes(e.kind))
    .reduce<LogEntry | undefined>((newest, e) => (newest && newest.date > e.date ? newest : e), undefined)
  return last && build.variants.find((v) => v.id === (last.plan ?? build.variants[0]!.id))
}

/**
 * The build with the plan on the car as the one shown; as it stands where all are ideas.
 *
 * @example
 * import { asOnCar } from '@/plan/document/fitted-plan'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(asOnCar(build) === build) // true
 */
export function asOnCar(build: Build): Build {
  const fitted = fittedPlan(build)
  return fitted === undefined || fitted.id === build.active ? build : { ...build, active: fitted.id }
}
