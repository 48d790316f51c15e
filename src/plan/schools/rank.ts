/** Which schools suit an engine and its use: each laid out, analysed, and told by its own numbers. */
import { roadHours } from '@/core/service/rates'
import { analyse } from '../analyse'
import type { Build } from '../document/schema'
import { isSolved } from '../model/results'
import { SCHOOLS, variantOf, type School } from './schools'

export type Ranked = {
  readonly school: School
  readonly build: Build
  readonly analysis: ReturnType<typeof analyse>
  /** m3 of oil a metre to the intake; highest and lowest crankcase pressure, Pa; metres to the first full can */
  readonly intakeOil: number
  readonly highest: number
  readonly lowest: number
  readonly interval: number
  readonly reasons: readonly string[]
  /** lower suits better */
  readonly score: number
}

/** Schools that make sense for the engine at all: a tank vent needs a tank, a return to the filler is for engines that pump. */
function fits(school: School, build: Build): boolean {
  if (school.key === 'tank-vent') return build.engine.sump === 'dry'
  if (school.key === 'vented-return') return build.engine.cylinders <= 2
  return school.key !== 'stock' && school.key !== 'stock-regulator' && school.key !== 'regulator-delete'
}

/**
 * Ranks the schools for `build`'s engine and duty, best first. Weighs verdicts, oil to the intake (more where nothing washes the valves),
 * how often a can must be looked at, how many parts it takes, and the road's law.
 */
export function rankSchools(build: Build, today: string): readonly Ranked[] {
  const road = roadHours(build.duty.hours) > 0
  const unwashed =
    build.engine.injection === 'direct'
      ? 1
      : build.engine.injection === 'dual' || build.engine.induction !== 'na'
        ? 0.6
        : 0.25
  return SCHOOLS.filter((s) => fits(s, build))
    .map((school): Ranked => {
      const b: Build = { ...build, active: 'a', variants: [variantOf(school, build.engine, 'a')] }
      const a = analyse(b, today)
      const gauges = a.states.filter(isSolved).map((s) => s.crankcaseGauge)
      const count = (severity: string) => a.verdicts.filter((v) => v.severity === severity).length
      const oilMl = a.intakeOil * 1e12
      const interval = a.cans.reduce((m, c) => Math.min(m, c.distance.low), Infinity)
      const reasons = [
        ...(school.sealed || !road ? [] : ['vented: not for the road']),
        ...(Number.isFinite(interval) && interval < 800e3 ? ['small bowl for this use'] : []),
        ...(a.cans.length === 0 && b.variants[0]!.parts.some((p) => p.kind === 'can') ? ['drains itself'] : []),
      ]
      const score =
        100 * count('stop') +
        25 * count('fix') +
        4 * count('watch') +
        unwashed * oilMl +
        (school.sealed || !road ? 0 : 400) +
        b.variants[0]!.parts.length * 0.8 +
        (Number.isFinite(interval) ? Math.min(40, 2e7 / Math.max(1, interval)) : 0)
      return {
        school,
        build: b,
        analysis: a,
        intakeOil: a.intakeOil,
        highest: Math.max(...gauges),
        lowest: Math.min(...gauges),
        interval,
        reasons,
        score,
      }
    })
    .toSorted((x, y) => x.score - y.score)
}
