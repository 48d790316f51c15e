/** Proposals: the front of a small space is that of trying all of it; nothing offered breaks a wall or has a finding; same seed, same answer. */
import { finish } from '@/core/job'
import { frontsOf } from '@/core/search/pareto'
import { analyse } from '../analyse'
import type { Build } from '../document/schema'
import { validateBuild } from '../document/validate'
import { applyEdits } from '../edit/edit'
import { perform } from '../edit/edit-builders'
import { gasSolver } from '../finder/gas-states'
import { makeEvaluator } from '../model/evaluator'
import { newBuild } from '../schools/new-build'
import { badNumbers } from '../testing'
import { differencesIn, genesOf, planFromGenome, type Genome } from './genome'
import { mendPlan } from './mend-plan'
import { propose } from './propose'
import { OBJECTIVES, tryPlan } from './tried-plan'
import { turnsTo } from './turn-choice'
import { assumedWishes, keepWishes, readWishes, wishesOf, type Wishes } from './wishes'

const TODAY = '2026-11-28'
const build = newBuild({ name: 'x', engineClass: 'i5-turbo', use: 'street', ambientC: 15, units: 'metric' })
const wishes: Wishes = { ...assumedWishes(build), refused: ['weld'], mostHours: 6 }
const PLANS = 500
const found = finish(propose(build, wishes, TODAY, { plans: PLANS, seed: 3 }))
const grave = (b: Build) => analyse(b, TODAY).verdicts.filter((v) => v.severity === 'stop' || v.severity === 'fix')

test('nothing that is offered breaks a wall or has a finding to mend; each is a build that can be analysed', () => {
  expect(found.offers.length).toBeGreaterThanOrEqual(3)
  for (const o of found.offers) {
    expect(validateBuild(JSON.parse(JSON.stringify(o.build)))).toMatchObject({ ok: true })
    expect([o.name, grave(o.build).map((v) => v.title)]).toEqual([o.name, []])
    expect(o.measure.facts.refused.length + (o.measure.facts.effort.means.includes('weld') ? 1 : 0)).toBe(0)
    expect(o.figures.hours).toBeLessThanOrEqual(6)
    expect(o.figures.looks).toBeLessThanOrEqual(wishes.mostLooks)
  }
  expect(badNumbers(found.offers.map((o) => o.figures))).toEqual([])
  expect(new Set(found.offers.map((o) => o.build.variants[0]!.school)).size).toBeGreaterThanOrEqual(3)
})

test('what was looked at adds up; each wall tells how many it stopped, and the nearest', () => {
  expect(found.considered).toBe(PLANS)
  const stopped = found.walls.reduce((sum, w) => sum + w.plans, 0)
  expect(found.dots.filter((d) => d.wall !== undefined)).toHaveLength(stopped)
  expect(found.walls.find((w) => w.wall === 'means')!.nearest!.figures.hours).toBeGreaterThan(0)
})

test('same build, wishes and seed: the same offers; a wish that is given way to lets more through', () => {
  const again = finish(propose(build, wishes, TODAY, { plans: PLANS, seed: 3 }))
  expect(again.offers.map((o) => o.name)).toEqual(found.offers.map((o) => o.name))
  const cheap = finish(propose(build, { ...wishes, mostPrice: 120 }, TODAY, { plans: 200, seed: 3 }))
  expect(cheap.walls.find((w) => w.wall === 'price')!.plans).toBeGreaterThan(10)
  for (const o of cheap.offers) expect(o.figures.price).toBeLessThanOrEqual(120)
})

test.each([1, 2, 4])(
  'a space of two free choices, tried whole: the search finds its very front (school %s)',
  (school) => {
    const { schools, sizes } = genesOf(build.engine)
    const evaluator = makeEvaluator()
    const trial = {
      build,
      wishes: { ...wishes, refused: [], mostHours: Infinity },
      evaluator,
      solveGas: gasSolver(evaluator),
    }
    const all: Genome[] = []
    for (let can = 0; can < sizes[1]!; can++)
      for (let bore = 0; bore < sizes[4]!; bore++) all.push([school, can, 0, 0, bore, 0, 0, 0])
    const tried = all.map((g) => tryPlan(trial, g, planFromGenome(g, build.engine, schools)))
    const sound = tried.filter((t) => t.wall === undefined)
    const [front] = frontsOf(sound.map((t) => ({ objectives: OBJECTIVES.map((o) => t.figures[o]), broken: 0 })))
    // by the definition: none of the whole space is as good in all and better in one
    for (const i of front ?? [])
      for (const t of sound) {
        const better =
          OBJECTIVES.every((o) => t.figures[o] <= sound[i]!.figures[o]) &&
          OBJECTIVES.some((o) => t.figures[o] < sound[i]!.figures[o])
        expect(better).toBe(false)
      }
    expect(front?.length ?? 0).toBeGreaterThan(0)
  },
)

test('a plan is its choices: nothing chosen is the school as it is, and what is chosen is said', () => {
  const { schools } = genesOf(build.engine)
  const at = schools.findIndex((s) => s.key === 'vacuum-side-can')
  expect(differencesIn([at, 0, 0, 0, 0, 0, 0, 0], build.engine, schools)).toEqual([])
  const said = differencesIn([at, 4, 0, 1, 0, 0, 0, 1], build.engine, schools)
  expect(said.at(-1)).toBe('more baffles in the cover')
  expect(said.some((s) => s.endsWith('lines'))).toBe(true)
})

test('the nearest plan without a finding: steps that each make a build, fewer findings after than before', () => {
  const poor = newBuild({
    name: 'x',
    engineClass: 'i5-turbo',
    use: 'street',
    ambientC: 15,
    units: 'metric',
    school: 'vacuum-side-can',
  })
  const before = grave(poor)
  const mended = mendPlan(poor, TODAY)
  expect(before.length).toBeGreaterThan(0)
  expect(mended.steps.length).toBeGreaterThan(0)
  let now = poor
  for (const s of mended.steps) {
    const then = applyEdits(now, s.edits)
    if (!then.ok) throw new Error(then.reason)
    now = then.value
  }
  expect(grave(now).map((v) => v.title)).toEqual(mended.left)
  expect(mended.left.length).toBeLessThan(before.length)
  expect(mended.hours).toBeGreaterThan(0)
})

test('what would turn a choice, does: with that fact changed the other is the better one', () => {
  const [first, second] = found.offers
  const says = turnsTo(first!.build, second!.build, TODAY)
  expect(says === undefined || /blow-by were|you drove|you were on track/.test(says)).toBe(true)
})

test('what is asked is kept with the build, and told again', () => {
  const asked = { ...assumedWishes(build), refused: ['weld' as const], mostPrice: 300, mostLooks: Infinity }
  const kept = perform(build, keepWishes(asked))
  if (!kept.ok) throw new Error(kept.reason)
  expect(validateBuild(JSON.parse(JSON.stringify(kept.value)))).toMatchObject({ ok: true })
  expect(wishesOf(kept.value)).toEqual(asked)
  expect(wishesOf(build)).toEqual(assumedWishes(build))
})

test.each([
  [{ sealed: 'yes' }, 'sealed'],
  [{ refused: ['fly'] }, 'refused'],
  [{ mostPrice: -1 }, 'mostPrice'],
  [{ colour: 'blue' }, 'colour'],
  [{ keepCan: 'bucket' }, 'keepCan'],
  [null, 'object'],
])('wishes %j are refused with their reason', (value, says) => {
  const read = readWishes(value, build)
  expect(read.ok ? '' : read.reason).toContain(says)
})
