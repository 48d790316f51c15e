/** One measure: the ranking, Compare and the worth of a can weigh alike, move smoothly, and say only what their figures bear out. */
import { finish } from '@/core/job'
import { ENGINE_CLASSES, type EngineClass } from '../catalogue/engines'
import { MEANS } from '../document/bounds'
import type { Build } from '../document/schema'
import { newBuild } from '../schools/new-build'
import { SCHOOLS } from '../schools/schools'
import { makeEvaluator } from '../model/evaluator'
import { analyse } from '../analyse'
import { bandOf } from './bad-end'
import { compare } from './compare'
import { conclusion } from './comparison'
import { effortOf } from './effort'
import { MARGIN, MEASURE_PARTS, type MeasurePart } from './measure-parts'
import { ranges } from './ranges'
import { rankSchools, type Ranked } from './rank'
import { because, equals, gains } from './reasons'
import { unitFormatter } from '../document/words'

const DAY = '2026-06-01'
type Use = Parameters<typeof newBuild>[0]['use']
const build = (engineClass: EngineClass, use: Use = 'street', ambientC = 10): Build =>
  newBuild({ name: 'x', engineClass, use, ambientC, units: 'metric' })
const withEngine = (b: Build, facts: Partial<Build['engine']>): Build => ({ ...b, engine: { ...b.engine, ...facts } })
const rank = (b: Build) => finish(rankSchools(b, DAY))
/** All that do not pump; a few of them where the suite is short. */
const STILL = ENGINE_CLASSES.map((c) => c.key).filter((k) => k !== 'single' && k !== 'vtwin-na')
const SOME: readonly EngineClass[] = process.env.IVENT_RUNS ? STILL : ['i4-turbo', 'v6-na', 'v8-na', 'f4-turbo']
const WEATHERS = process.env.IVENT_RUNS ? [-20, -10, 15, 35] : [-10, 15]
const IN_WEATHER = SOME.flatMap((key) => WEATHERS.map((ambientC) => [key, ambientC] as const))

test.each(IN_WEATHER)('%s, %d C: what a can is worth never falls as rings wear or boost rises', (key, ambientC) => {
  const b = build(key, 'street', ambientC)
  const worn = (['tight', 'normal', 'loose', 'worn'] as const).map((rings) => rank(withEngine(b, { rings })).worth.kept)
  expect(worn).toEqual(worn.toSorted((x, y) => x - y))
  if (b.engine.induction === 'na') return
  const boosted = [0.6, 1, 1.4].map((f) => rank(withEngine(b, { boostKpa: b.engine.boostKpa * f })).worth.kept)
  expect(boosted).toEqual(boosted.toSorted((x, y) => x - y))
})

test.each(SOME)('%s: two hundredths of any fact change the first only among equals', (key) => {
  const b = build(key)
  const first = rank(b).ranked[0]!
  for (const fact of ['displacementCc', 'ratedRpm', 'idleRpm', 'boostKpa', 'boreMm'] as const)
    for (const by of [0.98, 1.02]) {
      if (!b.engine[fact]) continue
      const { ranked } = rank(withEngine(b, { [fact]: b.engine[fact] * by }))
      const now = ranked.find((r) => r.key === first.key)!
      expect(now === ranked[0] || equals(now.measure, ranked[0]!.measure)).toBe(true)
    }
})

/** The figure that each part of the measure is made of, less is better. */
const figureOf = ({ measure: { facts } }: Ranked, part: MeasurePart): number =>
  ({
    oil: facts.intakeOil,
    crankcase: facts.highest ?? Infinity,
    law: facts.vented,
    looks: facts.looks,
    work: facts.effort.hours,
    means: facts.missing.length + facts.refused.length,
    price: facts.effort.price,
    failure: 0,
    findings: facts.stops + facts.fixes,
  })[part]

test.each(SOME)(
  '%s: every because is borne out by the figures of both, and Compare takes what the ranking puts first',
  (key) => {
    const b = build(key)
    const { ranked, worth } = rank(b)
    const say = unitFormatter(b.units)
    ranked.slice(0, -1).forEach((r, i) => {
      const next = ranked[i + 1]!
      expect(r.because).toBe(because(r, next, say))
      const [best] = gains(r.measure, next.measure)
      if (
        best &&
        best.part !== 'failure' &&
        !(best.part === 'crankcase' && r.measure.facts.highest === next.measure.facts.highest)
      )
        expect(figureOf(r, best.part)).toBeLessThanOrEqual(figureOf(next, best.part))
      if (!equals(r.measure, next.measure)) expect(r.because).not.toMatch(/^as good as/)
    })
    // what the maker laid never stands first beside "it is worth it"
    if (ranked[0]!.yardstick) expect(worth.answer).not.toBe('much')
    for (const [i, j] of [
      [0, 1],
      [1, 3],
      [2, 5],
    ] as const) {
      const pair = [ranked[j]!, ranked[i]!].map((r, k) => ({ ...r.build.variants[0]!, id: `p${k}` }))
      const rows = finish(compare({ ...b, active: 'p0', variants: pair }, DAY))
      expect(rows[1]!.measure.total).toBeCloseTo(ranked[i]!.measure.total, 9)
      expect(rows[0]!.measure.total).toBeCloseTo(ranked[j]!.measure.total, 9)
      const says = conclusion({ ...b, active: 'p0', variants: pair }, rows)!
      expect(says).toMatch(equals(rows[0]!.measure, rows[1]!.measure) ? /^B and A are as good/ : /^Take B, /)
    }
  },
)

test('the parts add up to the whole, none is below zero, and equals are within the stated margin', () => {
  for (const r of rank(build('i5-turbo', 'street-track')).ranked) {
    for (const part of MEASURE_PARTS) expect(r.measure.points[part]).toBeGreaterThanOrEqual(0)
    expect(MEASURE_PARTS.reduce((sum, k) => sum + r.measure.points[k], 0)).toBeCloseTo(r.measure.total, 9)
  }
  const { ranked } = rank(build('v8-na'))
  for (const r of ranked.slice(1)) expect(r.equal).toBe(r.measure.total - ranked[0]!.measure.total <= MARGIN)
})

test('what the builder will not do stands last of what the law allows, and what he has costs no point', () => {
  const b = build('i4-turbo')
  const refusing = rank({ ...b, bench: { has: undefined, refuses: ['coverOff'] } }).ranked
  const baffles = refusing.find((r) => r.key === 'baffle-upgrade')!
  expect(baffles.measure.facts.refused).toEqual(['coverOff'])
  expect(baffles.notes.join(' ')).toMatch(/taking a cam cover off, which you will not do/)
  const lawful = refusing.filter((r) => r.measure.facts.vented === 0)
  expect(lawful.at(-1)!.key).toBe('baffle-upgrade')
  for (const r of rank({ ...b, bench: { has: [...MEANS], refuses: undefined } }).ranked)
    expect(r.measure.points.means).toBe(0)
})

test('who looks seldom is shown plans that last: a look asked for more often than he will counts more', () => {
  const b = build('v8-na', 'track')
  const often = rank({ ...b, duty: { ...b.duty, checkEveryKm: 100 } }).ranked
  const seldom = rank({ ...b, duty: { ...b.duty, checkEveryKm: 2500 } }).ranked
  for (const r of seldom) {
    const same = often.find((x) => x.key === r.key)!
    expect(r.measure.points.looks).toBeGreaterThanOrEqual(same.measure.points.looks)
  }
})

test('what the maker laid takes nothing; a can takes a morning; a welded cover with new baffles more than a can', () => {
  for (const { key } of ENGINE_CLASSES)
    for (const s of SCHOOLS) {
      const b = newBuild({ name: 'x', engineClass: key, use: 'street', ambientC: 15, units: 'metric', school: s.key })
      const e = effortOf(b, b.variants[0]!)
      if (s.key.startsWith('stock') && b.variants[0]!.school === 'stock') continue
      expect(e.hours).toBeGreaterThanOrEqual(0)
      expect(Number.isFinite(e.price)).toBe(true)
    }
  const of = (school: string) => {
    const b = newBuild({ name: 'x', engineClass: 'v8-na', use: 'street', ambientC: 15, units: 'metric', school })
    return effortOf(b, b.variants[0]!)
  }
  expect(of('stock')).toEqual({ hours: 0, price: 0, means: [] })
  expect(of('vacuum-side-can').hours).toBeGreaterThan(1)
  expect(of('baffle-upgrade').hours).toBeGreaterThan(of('vacuum-side-can').hours + 2)
  expect(of('baffle-upgrade').means).toContain('coverOff')
})

test('the ends of a band by two solutions stand where a thousand draws have them', () => {
  const b = newBuild({
    name: 'x',
    engineClass: 'i5-turbo',
    use: 'street',
    ambientC: 15,
    units: 'metric',
    school: 'both-sides',
  })
  const evaluator = makeEvaluator()
  const drawn = finish(ranges(b)).states
  for (const s of analyse(b, DAY).states) {
    if (!s.solved) throw new Error(s.id)
    const band = finish(bandOf(b, s.id, s.crankcaseGauge, evaluator))
    const { low, high } = drawn.find((x) => x.id === s.id)!.crankcase
    const width = high - low
    expect(Math.abs(band.low! - low)).toBeLessThan(0.35 * width + 5)
    expect(Math.abs(band.high! - high)).toBeLessThan(0.35 * width + 5)
  }
})
