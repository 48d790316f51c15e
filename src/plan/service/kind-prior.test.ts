/** Cars of one kind by their documents: what the twentieth is told before its own log speaks, and that it can be switched off. */
import { uniforms } from '@/core/random'
import { normalQuantile } from '@/core/service/normal'
import { analyse } from '../analyse'
import type { Build, LogEntry } from '../document/schema'
import { validateBuild } from '../document/validate'
import { newBuild } from '../schools/new-build'
import { engineKind, kindPriorFrom, carEvidenceOf, withoutOthers, type CarEvidence } from './kind-prior'

const TODAY = '2026-11-01'
const car = (name: string, engineClass: 'i4-turbo' | 'v8-na' = 'i4-turbo'): Build =>
  newBuild({ name, engineClass, use: 'street', ambientC: 12, units: 'metric', school: 'vacuum-side-can' })
const CAN = car('x').variants[0]!.parts.find((p) => p.kind === 'can')!.id

/** A car that has been driven: emptied every 4 000 km, with what the model predicts times `times(k)`. */
function driven(build: Build, emptyings: number, times: (k: number) => number): Build {
  const entry = (k: number, more: Partial<LogEntry>): LogEntry =>
    ({
      id: `e${k}`,
      date: `2026-0${1 + 2 * k}-01`,
      odometerKm: 10_000 + 4000 * k,
      part: CAN,
      ...more,
    }) as LogEntry
  const fitted = [entry(0, { kind: 'fitted' })]
  const emptied = Array.from({ length: emptyings }, (_, k) => entry(k + 1, { kind: 'emptied', ml: 10, waterMl: 2 }))
  const history = analyse({ ...build, log: [...fitted, ...emptied] }, TODAY).cans[0]!.history
  return {
    ...build,
    log: [
      ...fitted,
      ...emptied.map((e, k) => {
        const [oil, water] = [1e6 * history[k]!.predicted.oil * times(k), 1e6 * history[k]!.predicted.water]
        return { ...e, ml: oil + water, waterMl: water }
      }),
    ],
  }
}
const evidenceOf = (build: Build): CarEvidence => carEvidenceOf(build, analyse(build, TODAY).cans)
const priorFor = (build: Build, others: readonly CarEvidence[]) =>
  kindPriorFrom(others, build.engine, build.variants[0]!, TODAY)

test('simulated shop: the first forecast of the twentieth car is better than that of the first', () => {
  const uniform = uniforms(20)
  const normal = () => normalQuantile(uniform())
  let [with19, alone] = [0, 0]
  for (const common of [0.9, -0.7, 0.5]) {
    const others = Array.from({ length: 19 }, (_, n) => {
      const own = common + 0.3 * normal()
      return evidenceOf(driven(car(`Car ${n}`), 3, () => Math.exp(own + 0.25 * normal())))
    })
    const first = car('Twentieth')
    const kindPrior = priorFor(first, others)!
    expect([kindPrior.cars, kindPrior.emptyings]).toEqual([19, 57])
    const twentieth = { ...first, kindPrior }
    expect(validateBuild(JSON.parse(JSON.stringify(twentieth))).ok).toBe(true)
    const [can, blank] = [twentieth, first].map((b) => analyse(b, TODAY).cans[0]!) as [
      ReturnType<typeof analyse>['cans'][number],
      ReturnType<typeof analyse>['cans'][number],
    ]
    expect([can.startsFrom, blank.startsFrom]).toEqual(['kind', 'estimates'])
    expect(can.distance.high / can.distance.low).toBeLessThan(0.75 * (blank.distance.high / blank.distance.low))
    for (let n = 0; n < 10; n++) {
      const { oil, water } = can.perMetre
      const full = can.bowlM3 / (oil * Math.exp(common + 0.3 * normal()) + water)
      with19 += Math.abs(Math.log(can.distance.mid / full))
      alone += Math.abs(Math.log(blank.distance.mid / full))
    }
    // what passes the can follows
    expect(Math.sign(Math.log(can.oilTimes))).toBe(Math.sign(common))
    // switched off: as if there were no others
    const off = analyse({ ...twentieth, kindPrior: { ...kindPrior, off: true } }, TODAY).cans[0]!
    expect(off.distance).toEqual(blank.distance)
  }
  expect(with19).toBeLessThan(0.6 * alone)
})

test('its own log counts for more with every emptying, and what it teaches others is its own alone', () => {
  const others = Array.from({ length: 6 }, (_, n) => evidenceOf(driven(car(`Car ${n}`), 3, () => 2.5)))
  const kindPrior = priorFor(car('x'), others)!
  const own = [0, 1, 4].map((n) => driven({ ...car('Own'), kindPrior }, n, () => 0.6))
  const times = own.map((b) => Math.exp(analyse(b, TODAY).cans[0]!.multiplier.mu))
  expect(times[0]).toBeGreaterThan(2)
  expect(times[1]).toBeLessThan(times[0]!)
  expect(times[2]).toBeLessThan(1)
  // the others are not told of themselves
  expect(evidenceOf(own[2]!).cans).toEqual([])
  const { mean, variance } = evidenceOf(withoutOthers(own[2]!)).cans[0]!.oil!
  expect(Math.abs(mean - Math.log(0.6))).toBeLessThan(2 * Math.sqrt(variance))
})

test('only cars with such an engine and this school, and at least two of them', () => {
  const [one, two] = ['One', 'Two'].map((name) => evidenceOf(driven(car(name), 2, () => 2)))
  const other = evidenceOf(driven(car('Eight', 'v8-na'), 2, () => 2))
  const elsewhere = { ...one!, school: 'vented-can' }
  expect(priorFor(car('x'), [one!])).toBeUndefined()
  expect(priorFor(car('x'), [one!, other, elsewhere])).toBeUndefined()
  expect(priorFor(car('x'), [one!, two!, other])?.cars).toBe(2)
  expect(engineKind(car('x', 'v8-na').engine)).toBe('vee-8-na')
  // a build that is another kind by now does not go by it
  const kindPrior = priorFor(car('x'), [one!, two!])!
  expect(analyse({ ...car('x', 'v8-na'), kindPrior }, TODAY).cans[0]!.startsFrom).toBe('estimates')
})
