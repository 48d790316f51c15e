/** Whether readings of a sound car are believed, and whether what is then told of it is kept: simulated cars whose truth is known. */
import { finish } from '../../src/core/job'
import { uniforms } from '../../src/core/random'
import { normalQuantile } from '../../src/core/service/normal'
import type { StateId } from '../../src/core/engine/states'
import type { Build, LogEntry } from '../../src/plan/document/schema'
import { applyEdits } from '../../src/plan/edit/edit'
import { figuresOf } from '../../src/plan/model/figures'
import { solvedIn } from '../../src/plan/model/results'
import { newBuild } from '../../src/plan/schools/new-build'
import { ranges } from '../../src/plan/studies/ranges'
import { gaugeError } from '../../src/plan/service/readings'
import { uncertainInputs } from '../../src/plan/studies/uncertain'
import { checks, type Check } from '../check'

const CARS: readonly (readonly [engineClass: Parameters<typeof newBuild>[0]['engineClass'], school: string])[] = [
  ['i5-turbo', 'stock'],
  ['v6-na', 'vacuum-side-can'],
  ['i4-turbo', 'both-sides'],
  ['v8-na', 'breather-side-can'],
  ['i4-na', 'stock'],
  ['f4-turbo', 'two-outlets'],
  ['v8-direct', 'separator-return'],
  ['i6-turbo', 'vented-can'],
]
/** Where a builder reads, by how often he does. */
const SETS: readonly (readonly StateId[])[] = [['idle'], ['idle', 'pull'], ['idle', 'cruise', 'pull']]
const DRAWS = 400

type Tally = { sets: number; refused: number; bands: number; crankcase: number; blowBy: number }

/** One car of a plan with its inputs drawn, read as its owner does. */
function readCar(plan: Build, states: readonly StateId[], normal: () => number, tally: Tally): void {
  const scores = uncertainInputs(plan).map(() => Math.max(-3, Math.min(3, normal())))
  const truth = applyEdits(
    plan,
    uncertainInputs(plan).flatMap((input, i) => [...input.edits(scores[i]!)]),
  )
  if (!truth.ok) return
  const real = figuresOf(truth.value)
  if (real.states.some((s) => !s.solved)) return
  const log = states.map((state, i): LogEntry => {
    const gauge = solvedIn(real, state)!.crankcaseGauge
    const kpa = (gauge + gaugeError(gauge) * normal()) / 1000
    return { id: `r${i}`, date: '2026-05-01', kind: 'reading', odometerKm: 1000, reading: { state, kpa } }
  })
  const read = finish(ranges({ ...plan, log }, DRAWS))
  tally.sets++
  if (!read.read?.fits) tally.refused++
  for (const band of read.states) {
    const s = solvedIn(real, band.id)!
    tally.bands++
    if (s.crankcaseGauge >= band.crankcase.low && s.crankcaseGauge <= band.crankcase.high) tally.crankcase++
    if (s.blowBy >= band.blowBy.low && s.blowBy <= band.blowBy.high) tally.blowBy++
  }
}

/** So many cars of each plan and habit of reading. */
export function readCars(each: number): Tally {
  const draw = uniforms(20_261_201)
  const normal = () => normalQuantile(draw())
  const tally: Tally = { sets: 0, refused: 0, bands: 0, crankcase: 0, blowBy: 0 }
  for (const [engineClass, school] of CARS) {
    const plan = newBuild({ name: 'x', engineClass, use: 'street', ambientC: 15, units: 'metric', school })
    for (const states of SETS) for (let k = 0; k < each; k++) readCar(plan, states, normal, tally)
  }
  return tally
}

export function readingChecks(): Check[] {
  const { sets, refused, bands, crankcase, blowBy } = readCars(5)
  return checks('Readings', 'simulated cars whose estimates are drawn from their ranges', 0, [
    { what: 'honest sets of readings that are refused', expected: [0, 0.02], got: refused / sets },
    { what: 'crankcase inside its 80 % band after readings', expected: [0.75, 0.87], got: crankcase / bands },
    { what: 'blow-by inside its 80 % band after readings', expected: [0.72, 0.9], got: blowBy / bands },
  ])
}
