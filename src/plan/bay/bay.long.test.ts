/** The measured bay: lengths, clearances and drains follow from it, and nothing but distances counts. */
import { finish } from '@/core/job'
import { analyse } from '../analyse'
import { BAY_LAYOUTS } from '../catalogue/bay-layouts'
import { bayFor, readyBay } from '../catalogue/bays'
import type { Bay, Build } from '../document/schema'
import { validateBuild } from '../document/validate'
import { activeVariant } from '../edit/edit'
import { newBuild } from '../schools/new-build'
import { SCHOOLS } from '../schools/schools'
import { after, badNumbers } from '../testing'
import { setBay, setPointing, setSpot, setWay } from './bay-builders'
import { drainInBay, drainPathOf } from './drains'
import { tilts } from './tilt'
import { check } from '../catalogue/parts'
import { reverseValve, setPart, splice, unsplice } from '../edit/edit-builders'
import { bendRadius, spotIn, spotsAsked } from '../catalogue/bay-geometry'
import { layOf } from './lay'
import { openBay } from './open-bay'
import { figuresOf } from '../model/figures'

const DAY = '2026-11-25'
// a bay is opened once for all tests that begin in it
const opened = new Map<string, Build>()
const build = (school: string, engineClass: 'i5-turbo' | 'v8-na' = 'i5-turbo'): Build => {
  const known = opened.get(`${school} ${engineClass}`)
  if (known) return known
  const b = newBuild({ name: 'Bay', engineClass, use: 'street', ambientC: 10, units: 'metric', school })
  const there = finish(openBay(b, figuresOf(b).states, bayFor(b.engine))).build
  opened.set(`${school} ${engineClass}`, there)
  return there
}
const drainOf = (b: Build) => drainInBay(b, activeVariant(b), analyse(b, DAY).states, 'separator')!
const found = (b: Build, rule: string) => analyse(b, DAY).verdicts.filter((v) => v.rule === rule)
const at = (b: Build, id: string) => {
  const { forwardMm, leftMm, upMm } = spotIn(b.bay, id)!
  return { forwardMm, leftMm, upMm }
}

test.each(SCHOOLS.map((s) => s.key))('%s: a ready bay knows every end, and the build with it is whole', (school) => {
  for (const engineClass of ['i5-turbo', 'v8-na'] as const) {
    const b = build(school, engineClass)
    expect(spotsAsked(activeVariant(b)).filter((a) => !spotIn(b.bay, a.id))).toEqual([])
    const v = validateBuild(JSON.parse(JSON.stringify(b)))
    expect(v.ok ? [] : v.problems).toEqual([])
    expect(badNumbers(analyse(b, DAY))).toEqual([])
  }
})

test('a straight line is as long as the tape says, and one led over a corner longer by its bends', () => {
  // Pythagoras: 300 ahead, 400 left, level
  const b = after(
    build('stock'),
    setWay('breather', []),
    setSpot('cover.breather', { forwardMm: 0, leftMm: 0, upMm: 0 }),
    setSpot('inlet.breather', { forwardMm: 600, leftMm: 800, upMm: 0 }),
  )
  const line = (x: Build) => activeVariant(x).lines.find((l) => l.id === 'breather')!
  expect(line(b)).toMatchObject({ lengthMm: 1000, bends: [] })
  const led = after(b, setWay('breather', [{ forwardMm: 600, leftMm: 0, upMm: 0 }]))
  const r = bendRadius(line(led).boreMm / 1000) * 1000
  const [bend] = line(led).bends
  expect(bend).toEqual({ angleDeg: 90, radiusMm: Math.round(r) })
  // 600 + 800 less two tangents of a right angle
  expect(line(led).lengthMm).toBeCloseTo(1400 - 2 * r, -1)
  expect(line(after(led, setWay('breather', []))).bends).toEqual([])
})

test('a bend tighter than its legs is answered in words, and the line keeps what was entered', () => {
  const b = after(
    build('stock'),
    setSpot('cover.breather', { forwardMm: 0, leftMm: 0, upMm: 0 }),
    setSpot('inlet.breather', { forwardMm: 40, leftMm: 40, upMm: 0 }),
  )
  const tight = after(b, setWay('breather', [{ forwardMm: 40, leftMm: 0, upMm: 0 }]))
  const v = activeVariant(tight)
  const line = v.lines.find((l) => l.id === 'breather')!
  const path = layOf(tight.bay, v, line)
  expect(path.ok ? '' : path.reason).toMatch(/too short for its bends/)
  expect(line.lengthMm).toBe(activeVariant(b).lines.find((l) => l.id === 'breather')!.lengthMm)
})

test('65 mm of hose between two bent ends is a finding; between straight ones, or longer, it is none', () => {
  const placed = (apart: number, points: 'up' | 'ahead') =>
    after(
      build('stock'),
      setSpot('cover.breather', { forwardMm: 0, leftMm: 0, upMm: 0 }),
      setSpot('inlet.breather', { forwardMm: apart, leftMm: 0, upMm: 0 }),
      setPointing('cover.breather', { points }),
      setPointing('inlet.breather', { points: points === 'ahead' ? 'back' : points }),
      setWay('breather', []),
    )
  const short = (apart: number, points: 'up' | 'ahead') =>
    found(placed(apart, points), 'hose-lay').filter((v) => /two bent ends/.test(v.title))
  expect(short(65, 'up').map((v) => v.severity)).toEqual(['fix'])
  expect(short(65, 'up')[0]!.title).toContain('65')
  expect(short(200, 'up')).toEqual([])
  expect(short(65, 'ahead')).toEqual([])
})

test('a separator under its return never drains; raised by what the verdict says it does', () => {
  const b = build('separator-return')
  const low = after(b, setSpot('separator', { ...at(b, 'separator'), upMm: at(b, 'crankcase.return').upMm - 50 }))
  const [bad] = found(low, 'drain-back')
  expect(bad).toMatchObject({ severity: 'stop', title: 'Separator never drains' })
  expect(bad!.fix!.label).toMatch(/^Raise the separator by \d+ mm$/)
  const mended = (() => {
    const [name, edits] = [bad!.fix!.label, bad!.fix!.edits]
    expect(name.length).toBeGreaterThan(0)
    return after(low, () => edits)
  })()
  const heads = drainOf(mended).states.map((s) => s.headM)
  expect(Math.min(...heads)).toBeGreaterThan(0)
  expect(found(mended, 'drain-back').every((v) => v.severity !== 'stop' && v.severity !== 'fix')).toBe(true)
})

test('the column is the suction over the weight of the oil, by hand', () => {
  const b = build('separator-return')
  const boost = analyse(b, DAY).states.find((s) => s.id === 'boost')!
  const d = drainOf(b).states.find((s) => s.id === 'boost')!
  if (!boost.solved) throw new Error('no boost')
  const dp = boost.gauge['crankcase']! - boost.gauge['separator.in']!
  const rho = 850 - 0.65 * (boost.operating.oilK - 343.15)
  expect(d.columnM).toBeCloseTo(dp / (rho * 9.80665), 6)
})

test('behind a pad the bowl stands at the clean side, and a valve in the drain asks for its cracking pressure as head', () => {
  const b = build('separator-return')
  const boost = (x: Build) => drainOf(x).states.find((s) => s.id === 'boost')!
  const padded = after(b, setPart('separator', { packed: true }))
  const s = analyse(b, DAY).states.find((x) => x.id === 'boost')!
  if (!s.solved) throw new Error('no boost')
  const rho = 850 - 0.65 * (s.operating.oilK - 343.15)
  const drop = s.gauge['separator.in']! - s.gauge['separator.out']!
  expect(boost(padded).columnM - boost(b).columnM).toBeCloseTo(drop / (rho * 9.80665), 6)
  // 0.4 kPa are some 50 mm of oil, in every state
  const ret = activeVariant(b).lines.find((l) => l.kind === 'drain')!
  const way = after(
    b,
    splice(ret.id, { ...check('drain-check', 'Drain check', 'small'), crackKpa: 0.4 } as never, 'middle'),
  )
  const path = drainPathOf(activeVariant(way), 'separator')!
  expect([path.lines.length, path.crackPa, path.against]).toEqual([2, 400, undefined])
  expect(path.end.part).toBe(drainPathOf(activeVariant(b), 'separator')!.end.part)
  const open = (x: Build, rule: string) =>
    analyse(x, DAY).verdicts.filter((v) => v.rule === rule && v.severity !== 'ok')
  expect(open(way, 'valve-idle')).toEqual([])
  // turned round it lets nothing down, and is told
  const turned = after(way, reverseValve('drain-check'))
  expect(drainPathOf(activeVariant(turned), 'separator')!.against?.id).toBe('drain-check')
  expect(open(turned, 'drain-back').map((v) => v.subject)).toContain('separator-valve')
  // taken out again it is the drain that it was
  const back = after(way, unsplice('drain-check'))
  expect(activeVariant(back).lines.find((l) => l.id === ret.id)).toMatchObject({ kind: 'drain', boreMm: ret.boreMm })
})

test('tilted, a return under the oil has so much less to fall', () => {
  const b = build('separator-return')
  const d = drainOf(b)
  const level = (mm: number) => after(b, setBay({ ...b.bay!, oilLevelMm: mm }))
  const end = d.way.at(-1)![2] * 1000
  const under = drainOf(level(end + 100))
  expect(under.underM).toBeCloseTo(0.1, 6)
  const [free, deep] = [tilts(b, d), tilts(level(end + 100), under)]
  free.forEach((t, i) => expect(t.headM - deep[i]!.headM).toBeCloseTo(0.1, 6))
})

test('a return that climbs on its way has a trap, and it is told', () => {
  const b = build('separator-return')
  const [can, end] = [at(b, 'separator'), at(b, 'crankcase.return')]
  const low = { forwardMm: (can.forwardMm + end.forwardMm) / 2, leftMm: can.leftMm, upMm: end.upMm - 60 }
  const sag = after(b, setWay('return', [low]))
  expect(drainOf(sag).profile.traps).toBe(1)
  expect(
    found(sag, 'drain-back')
      .map((v) => v.title)
      .join(),
  ).toMatch(/sags|drains only|does not drain|never/)
})

test('a can put into the exhaust is told, and so is one under the bonnet', () => {
  const b = build('vacuum-side-can')
  const hot = b.bay!.keepOuts.find((k) => k.kind === 'hot')!
  const inside = after(b, setSpot('can', { forwardMm: hot.forwardMm, leftMm: hot.leftMm, upMm: hot.upMm }))
  expect(found(inside, 'clearance').some((v) => v.severity === 'fix' && /Catch can meets Exhaust/.test(v.title))).toBe(
    true,
  )
  const high = after(b, setSpot('can', { ...at(b, 'can'), upMm: 400 }))
  expect(found(high, 'clearance').some((v) => /Catch can meets the bonnet/.test(v.title))).toBe(true)
})

test('moving everything by one vector changes no verdict', () => {
  const b = build('separator-return')
  const by = { forwardMm: 130, leftMm: -70, upMm: 45 }
  const moved = <T extends { forwardMm: number; leftMm: number; upMm: number }>(p: T): T => ({
    ...p,
    forwardMm: p.forwardMm + by.forwardMm,
    leftMm: p.leftMm + by.leftMm,
    upMm: p.upMm + by.upMm,
  })
  const bay: Bay = {
    ...b.bay!,
    spots: b.bay!.spots.map(moved),
    keepOuts: b.bay!.keepOuts.map(moved),
    bonnet: b.bay!.bonnet.map(moved),
    mounts: b.bay!.mounts!.map(moved),
  }
  const ways = activeVariant(b).lines.flatMap((l) => (l.way ? [setWay(l.id, l.way.map(moved))] : []))
  const verdictsOf = (x: Build) => analyse(x, DAY).verdicts.map((v) => `${v.severity} ${v.title}`)
  expect(verdictsOf(after(b, ...ways, setBay(bay)))).toEqual(verdictsOf(b))
})

test('what the tape has measured stays when a ready bay is taken again', () => {
  const b = after(build('stock'), setSpot('cover.breather', { forwardMm: 1, leftMm: 2, upMm: 3 }))
  const again = readyBay(b, activeVariant(b), BAY_LAYOUTS[1]!.key)
  expect(again.spots.find((s) => s.id === 'cover.breather')).toEqual({
    id: 'cover.breather',
    forwardMm: 1,
    leftMm: 2,
    upMm: 3,
    measured: true,
  })
})

test('a bay that is none is refused with its place', () => {
  const b = JSON.parse(JSON.stringify(build('stock'))) as {
    bay: { spots: Record<string, unknown>[]; keepOuts: unknown[] }
  }
  b.bay.spots[0]!.upMm = null
  const v = validateBuild(b)
  expect(v.ok ? '' : v.problems.map((p) => p.path).join()).toMatch(/bay › spots › 1 › upMm/)
  b.bay.keepOuts = Array.from({ length: 5000 }, () => ({}))
  const many = validateBuild(b)
  expect(many.ok ? '' : many.problems.map((p) => p.message).join()).toMatch(/has 5000; at most 40/)
})
