/** Whole plans against a second solution that shares no code with the first: every pressure of every class and school in every state. */
import { uniforms } from '../../src/core/random'
import { evaluate } from '../../src/plan/analyse'
import { ENGINE_CLASSES } from '../../src/plan/catalogue/engines'
import { activeVariant } from '../../src/plan/edit/edit'
import { SCHOOLS } from '../../src/plan/schools/schools'
import { newBuild } from '../../src/plan/schools/new-build'
import { checks, type Check } from '../check'
import { pressuresOf } from '../independent'

/** Every so many plans, so that the suite stays short; `IVENT_RUNS` takes all. */
const EVERY = process.env.IVENT_RUNS ? 1 : 30
/** The second solution begins this far off, Pa. */
const OFF = 300

export type WholePlans = {
  readonly states: number
  readonly refused: number
  readonly worst: { pa: number; at: string }
}

export function comparePlans(every = EVERY): WholePlans {
  const next = uniforms(27)
  let [states, refused, worst] = [0, 0, { pa: 0, at: '' }]
  const plans = ENGINE_CLASSES.flatMap((engineClass) => SCHOOLS.map((school) => ({ engineClass, school: school.key })))
  plans.forEach(({ engineClass, school }, k) => {
    if (k % every !== 0) return
    const build = newBuild({
      name: 'x',
      engineClass: engineClass.key,
      use: 'street',
      ambientC: 15,
      units: 'metric',
      school,
    })
    const worked = evaluate(build, '2026-06-01')
    for (const s of worked.states) {
      // over the turn of the crank is another matter: `pulsation`
      if (!s.solved || s.cycle) continue
      const { manifoldPa, inletDepressionPa, flowShare, rpm, gasK } = s.operating
      const at = {
        manifoldPa,
        inletDepressionPa,
        flowShare,
        rpm,
        gasK,
        blowBy: s.blowBy,
        ambientPa: worked.engine.amb.pressurePa,
      }
      const from = (off: number) =>
        pressuresOf(activeVariant(build), at, (port) => (s.gauge[port] ?? 0) + (2 * next() - 1) * off)
      const theirs = from(OFF) ?? from(OFF / 10)
      if (!theirs) {
        refused++
        continue
      }
      states++
      for (const [port, pa] of theirs) {
        const ours = s.gauge[port] ?? s.gauge[port.split('.')[0]!]
        const off = Math.abs(pa - (ours ?? Number.POSITIVE_INFINITY))
        if (off > worst.pa) worst = { pa: off, at: `${engineClass.key}, ${school}, ${s.id}, ${port}` }
      }
    }
  })
  return { states, refused, worst }
}

export function wholePlanChecks(): Check[] {
  const { states, refused, worst } = comparePlans()
  return checks(
    'Whole plans',
    'a second solver from the document alone, sharing no code (verification/independent.ts)',
    0,
    [
      { what: `largest difference of any pressure in ${states} states`, unit: 'Pa', expected: [0, 0.1], got: worst.pa },
      // from another start it does not come to rest where most valves are at their seats
      {
        what: 'share of the states in which the second comes to rest',
        expected: [0.8, 1],
        got: states / (states + refused),
      },
    ],
  )
}
