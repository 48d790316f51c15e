/** What a gauge at the dipstick tube teaches: bands narrow, estimates move, and what fits nothing is said so. */
import { finish } from '@/core/job'
import { fromSi } from '@/core/units/units'
import type { Build, LogEntry } from '../document/schema'
import { figuresOf } from '../model/figures'
import { validateBuild } from '../document/validate'
import { applyEdits } from '../edit/edit'
import { ENGINE_CLASSES } from '../catalogue/engines'
import { faultsOf } from '../faults/faults'
import { withFault } from '../faults/graded-faults'
import { engineModel } from '../model/engine'
import { dropLearned, isLearned } from '../model/learned'
import { solvedIn } from '../model/results'
import { newBuild } from '../schools/new-build'
import { ranges } from './ranges'
import { gaugeError, readingsOf } from '../service/readings'
import { uncertainInputs } from './uncertain'

const build = newBuild({
  name: 'x',
  engineClass: 'i5-turbo',
  use: 'street',
  ambientC: 15,
  units: 'metric',
  school: 'stock',
})
const read = (
  state: 'idle' | 'boost' | 'pull',
  kpa: number,
  odometerKm = 1000,
  id = `${state}${odometerKm}`,
): LogEntry => ({
  id,
  date: '2026-05-01',
  kind: 'reading',
  odometerKm,
  reading: { state, kpa },
})
const DRAWS = 600
const of = (...log: LogEntry[]) => finish(ranges({ ...build, log }, DRAWS))
const band = (r: ReturnType<typeof of>, state: string) => r.states.find((s) => s.id === state)!.crankcase
const blank = of()

test('a reading in boost narrows the band there to about itself, and the bands of other states with it', () => {
  const r = of(read('boost', -0.8))
  const [before, after] = [band(blank, 'boost'), band(r, 'boost')]
  expect(r.read).toMatchObject({ fits: true, strange: [] })
  expect(after.high - after.low).toBeLessThan(0.35 * (before.high - before.low))
  expect(Math.abs(after.mid + 800)).toBeLessThan(150)
  expect(band(r, 'pull').high - band(r, 'pull').low).toBeLessThan(band(blank, 'pull').high - band(blank, 'pull').low)
})

test('it says what it moved, against what was assumed', () => {
  const { learnedInputs } = of(read('boost', -0.8)).read!
  expect(learnedInputs.length).toBeGreaterThan(0)
  for (const t of learnedInputs) {
    expect(t.after.low).toBeLessThanOrEqual(t.after.mid)
    expect(t.after.mid).toBeLessThanOrEqual(t.after.high)
  }
  // higher than was thought: more blow-by, less suction ahead of the compressor, or a narrower way
  const factor = (id: string) => learnedInputs.find((t) => t.id === id)?.after.mid
  expect((factor('blowBy') ?? 2) > 1 || (factor('inlet') ?? 0) < 1).toBe(true)
})

test('two readings narrow more than one; the last in a state counts, by odometer', () => {
  const one = of(read('boost', -0.8))
  const two = of(read('boost', -0.8), read('pull', -0.1))
  const width = (r: ReturnType<typeof of>) => band(r, 'spool').high - band(r, 'spool').low
  expect(width(two)).toBeLessThan(width(one))
  const log = [read('boost', -3, 2000, 'later'), read('boost', -0.8, 1000, 'first')]
  expect(readingsOf({ ...build, log }).map((r) => r.id)).toEqual(['later'])
})

test('a reading that no engine like this gives narrows nothing, and is named', () => {
  const r = of(read('idle', -25))
  expect(r.read).toMatchObject({ fits: false, strange: [{ state: 'idle' }], learnedInputs: [] })
  expect(band(r, 'boost')).toEqual(band(blank, 'boost'))
})

test('readings with another plan fitted are not of this one; none at all leaves everything as it was', () => {
  expect(of({ ...read('boost', -0.8), plan: 'other' }).read).toBeUndefined()
  expect(blank.read).toBeUndefined()
})

test('readings that fit no sound engine name the failure that would give them', () => {
  // 120 kPa of boost through a PCV valve stuck open, as the failure itself is solved
  const broken = withFault(build, 'pcv-open')!
  const boost = solvedIn(figuresOf(broken), 'boost')!.crankcaseGauge / 1000
  const r = of(read('boost', boost), read('idle', solvedIn(figuresOf(broken), 'idle')!.crankcaseGauge / 1000))
  expect(r.read!.fits).toBe(false)
  expect(r.read!.fault).toBe('PCV valve stuck open')
  // and nothing is blamed that explains nothing
  expect(of(read('idle', -25)).read!.fault).not.toBe('PCV valve stuck open')
})

test('a reading that an odd engine gives, and one failure as well, is told as both', () => {
  // each failure that idle alone shows, as it is solved: refused, or told beside the odd engine that would give it
  const sound = solvedIn(figuresOf(build), 'idle')!.crankcaseGauge
  let [shown, noticed] = [0, 0]
  for (const fault of faultsOf(build)) {
    const broken = solvedIn(figuresOf(withFault(build, fault.id)!), 'idle')
    if (!broken || Math.abs(broken.crankcaseGauge - sound) < 4 * gaugeError(sound)) continue
    const { fits, fault: named, strange } = of(read('idle', broken.crankcaseGauge / 1000)).read!
    const { low, high } = band(blank, 'idle')
    // inside what sound cars show it is no sign of anything
    if (broken.crankcaseGauge > low - (high - low) / 2 && broken.crankcaseGauge < high + (high - low) / 2) continue
    shown++
    if (named !== undefined || (!fits && strange.length > 0)) noticed++
  }
  expect(shown).toBeGreaterThanOrEqual(2)
  expect(noticed).toBe(shown)
  expect(of(read('idle', sound / 1000)).read!.fault).toBeUndefined()
})

test('the very figures of a plan fit it, on every class', () => {
  for (const { key } of ENGINE_CLASSES) {
    const plan = newBuild({
      name: 'x',
      engineClass: key,
      use: 'street',
      ambientC: 15,
      units: 'metric',
      school: 'stock',
    })
    const figures = figuresOf(plan)
    const log = figures.states.flatMap((s) =>
      s.solved
        ? [
            {
              ...read('idle', s.crankcaseGauge / 1000, 1000, s.id),
              reading: { state: s.id, kpa: s.crankcaseGauge / 1000 },
            },
          ]
        : [],
    )
    const r = finish(ranges({ ...plan, log }, 60))
    // where the pistons pump, still draws are not compared with a gauge
    if (r.read) expect([key, r.read.fits, r.read.fault]).toEqual([key, true, undefined])
  }
})

test('what the readings put into the plan can be taken out again, to the figures that stood there', () => {
  const log = [read('boost', -0.8)]
  const entered = { ...build, engine: { ...build.engine, inletDepressionKpa: 3.3 }, log }
  const r = finish(ranges(entered, DRAWS))
  const then = applyEdits(entered, r.read!.adopt)
  if (!then.ok) throw new Error(then.reason)
  const back = applyEdits(then.value, dropLearned(then.value))
  if (!back.ok) throw new Error(back.reason)
  expect(validateBuild(back.value).ok).toBe(true)
  expect(back.value.learned).toBeUndefined()
  expect(back.value.engine.inletDepressionKpa).toBe(3.3)
  const gauge = (b: Build) => solvedIn(figuresOf(b), 'boost')!.crankcaseGauge
  expect(gauge(back.value)).toBeCloseTo(gauge(entered), 6)
  expect(Math.abs(gauge(then.value) - gauge(entered))).toBeGreaterThan(50)
  expect(dropLearned(back.value)).toEqual([])
})

test('what the readings moved can be taken into the plan, which then gives them', () => {
  const r = of(read('boost', -0.8))
  const then = applyEdits({ ...build, log: [read('boost', -0.8)] }, r.read!.adopt)
  expect(then.ok).toBe(true)
  if (!then.ok) return
  expect(validateBuild(then.value).ok).toBe(true)
  const [before, after] = [build, then.value].map((b) => solvedIn(figuresOf(b), 'boost')!.crankcaseGauge)
  expect(Math.abs(after! + 800)).toBeLessThan(0.25 * Math.abs(before! + 800))
})

test('figures taken into the plan stay estimates: what a reading has told is not told twice, until its builder enters another', () => {
  const log = [read('idle', -0.09), read('boost', -0.8)]
  const before = of(...log)
  const then = applyEdits({ ...build, log }, before.read!.adopt)
  if (!then.ok) throw new Error(then.reason)
  const after = finish(ranges(then.value, DRAWS))
  // the same inputs are still drawn, as wide as before
  const drawn = (b: Build) => uncertainInputs(b).map((i) => [i.id, i.range, i.left])
  expect(drawn(then.value)).toEqual(drawn({ ...build, log }))
  for (const id of ['idle', 'boost'] as const) {
    const [one, two] = [band(before, id), band(after, id)]
    expect((two.high - two.low) / (one.high - one.low)).toBeGreaterThan(0.6)
  }
  // told apart from what was entered, in the working too
  const cruise = ['engine', 'overrides', 'cruise', 'manifoldKpa']
  const typed = applyEdits(then.value, [{ op: 'set', path: ['engine', 'inletDepressionKpa'], value: 4.321 }])
  if (!typed.ok) throw new Error(typed.reason)
  expect(isLearned(typed.value, ['engine', 'inletDepressionKpa'])).toBe(false)
  const learned = then.value.learned!.map((l) => l.id.split('/'))
  expect(learned.length).toBeGreaterThan(3)
  for (const path of learned) expect(isLearned(then.value, path)).toBe(true)
  expect(isLearned(build, cruise)).toBe(false)
})

test('the next reading is one that has not been made, and the one that narrows most', () => {
  expect(blank.next).toBeDefined()
  const asked = blank.next!.state
  const kpa = band(blank, asked).mid / 1000
  const r = of({ ...read('idle', kpa), id: 'x', reading: { state: asked, kpa } })
  expect(r.next?.state).not.toBe(asked)
  const width = (x: ReturnType<typeof of>) => x.states.reduce((sum, s) => sum + (s.crankcase.high - s.crankcase.low), 0)
  for (const other of ['idle', 'overrun'] as const)
    expect(width(r)).toBeLessThan(
      width(of({ ...read('idle', 0), reading: { state: other, kpa: band(blank, other).mid / 1000 } })) * 1.02,
    )
})

describe('other readings than the crankcase', () => {
  const nominal = solvedIn(figuresOf(build), 'boost')!
  const breather = Object.keys(nominal.passages)
    .filter((id) => nominal.passages[id]!.velocity > 0)
    .toSorted((a, b) => nominal.passages[b]!.velocity - nominal.passages[a]!.velocity)[0]!
  const other = (reading: NonNullable<LogEntry['reading']>, id = 'r'): LogEntry => ({
    id,
    date: '2026-05-01',
    kind: 'reading',
    odometerKm: 1000,
    reading,
  })
  const lpm = fromSi('gasFlow', nominal.blowBy, 'l/min')

  test.each([
    ['blow-by by a meter', { state: 'boost', lpm: 1.4 * lpm }, 1.4],
    ['flow in the hose that all of it takes', { state: 'boost', at: breather, lpm: 1.4 * lpm }, 1.4],
    [
      'velocity in it',
      { state: 'boost', at: breather, velocityMPerS: 1.4 * nominal.passages[breather]!.velocity },
      1.4,
    ],
  ] as const)('%s moves the blow-by by as much', (_name, reading, times) => {
    const r = of(other(reading))
    expect(r.read!.fits).toBe(true)
    const input = r.read!.learnedInputs.find((t) => t.id === 'blowBy')!
    expect(input.after.mid).toBeGreaterThan(0.88 * times)
    expect(input.after.mid).toBeLessThan(1.12 * times)
    expect(input.after.high / input.after.low).toBeLessThan(0.6 * (input.before.high / input.before.low))
  })

  test('blow-by over an orifice is the flow that the nozzle law gives', () => {
    // ISO 5167-2 orifice far below choking: m = Cd A sqrt(2 rho dp); 8 mm, 0.2 kPa, gas of the state
    const reading = { state: 'boost', kpa: 0.2, orificeMm: 8 } as const
    const { value } = readingsOf({ ...build, log: [other(reading)] })[0]!
    const { gasK } = nominal.operating
    const rho = (engineModel(build).amb.pressurePa + 100) / (287.05 * gasK)
    expect(value / (0.62 * (Math.PI / 4) * 0.008 ** 2 * Math.sqrt(2 * rho * 200))).toBeCloseTo(1, 2)
  })

  test('a drop over a part narrows that part, and one over a part that is gone counts for nothing', () => {
    const canned = newBuild({
      name: 'x',
      engineClass: 'i5-turbo',
      use: 'street',
      ambientC: 15,
      units: 'metric',
      school: 'breather-side-can',
    })
    const can = canned.variants[0]!.parts.find((p) => p.kind === 'can')!
    const s = solvedIn(figuresOf(canned), 'boost')!.passages[can.id]!
    const kpa = (2 * Math.abs(s.gaugeFrom - s.gaugeTo)) / 1000
    const r = finish(ranges({ ...canned, log: [other({ state: 'boost', at: can.id, kpa })] }, DRAWS))
    expect(r.read!.learnedInputs.some((t) => t.id.startsWith(can.id) || t.id === 'blowBy')).toBe(true)
    expect(finish(ranges({ ...build, log: [other({ state: 'boost', at: 'gone', kpa: 1 })] }, 40)).read).toBeUndefined()
  })

  test('two things read in one state both count', () => {
    const log = [other({ state: 'boost', lpm }, 'a'), other({ state: 'boost', kpa: -0.8 }, 'b')]
    expect(readingsOf({ ...build, log }).map((r) => r.quantity)).toEqual(['blowBy', 'crankcase'])
  })

  test.each([
    [{ state: 'idle' }, /needs one figure/],
    [{ state: 'idle', kpa: 1, lpm: 3 }, /needs one figure/],
    [{ state: 'idle', velocityMPerS: 3 }, /names the hose/],
    [{ state: 'idle', orificeMm: 6, kpa: -1 }, /above the surroundings/],
  ] as const)('%j is refused', (reading, why) => {
    const v = validateBuild({ ...build, log: [other(reading as never)] })
    expect(v.ok ? '' : v.problems.map((p) => p.message).join()).toMatch(why)
  })
})
