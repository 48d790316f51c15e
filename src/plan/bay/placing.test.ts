/** Places, ways, tilt and files of the bay. */
import Reader from 'dxf-parser'
import { finish } from '@/core/job'
import { analyse } from '../analyse'
import { figuresOf } from '../model/figures'
import { BAY_LAYOUTS } from '../catalogue/bay-layouts'
import { dxfOf } from '../drawing/dxf'
import { svgOf } from '../drawing/svg'
import type { Build } from '../document/schema'
import { validateBuild } from '../document/validate'
import { activeVariant } from '../edit/edit'
import { newBuild } from '../schools/new-build'
import { perform, setLine } from '../edit/edit-builders'
import { after } from '../testing'
import { bestSpots, spotsFor } from './best-spots'
import { tightGaps } from './clearance'
import { changeBay, setBay, setPointing, setSpot, setWay } from './bay-builders'
import { bayDrawing, isCircleFrom, seenFrom, SIDES } from './drawing'
import { drainInBay, neverDrains } from './drains'
import { canBody, spotIn } from '../catalogue/bay-geometry'
import type { PartOf } from '../document/schema'
import { supportedKg } from './hanging'
import { openBay } from './open-bay'
import { placeFaults, placeGround } from './place'
import { findLineWay } from './find-way'
import { layOf } from './lay'
import { tilts } from './tilt'
import { readUnderlay, scaledPhoto, underlayText } from './underlay'
import { readWays, waysCsv } from './way-csv'

const DAY = '2026-11-25'
// a bay is opened once for all tests that begin in it
const opened = new Map<string, Build>()
const build = (school = 'separator-return', use: 'street' | 'track' = 'street', bay = 'transverse'): Build => {
  const key = `${school} ${use} ${bay}`
  const known = opened.get(key)
  if (known) return known
  const b = newBuild({ name: 'Bay', engineClass: 'i5-turbo', use, ambientC: 10, units: 'metric', school })
  const there = finish(openBay(b, figuresOf(b).states, bay)).build
  opened.set(key, there)
  return there
}
const line = (b: Build, id: string) => activeVariant(b).lines.find((l) => l.id === id)!
const drain = (b: Build) => drainInBay(b, activeVariant(b), figuresOf(b).states, 'separator')!

test.each(BAY_LAYOUTS.map((r) => r.key))(
  '%s: best spots are free, drain in every state, and are real choices',
  (key) => {
    const b = build('separator-return', 'street', key)
    const r = finish(bestSpots(b, figuresOf(b).states, 'separator'))
    if (!r.ok) throw new Error(r.reason)
    expect(r.value.length).toBeGreaterThan(1)
    // places that every hose finds a way to come first
    expect(r.value[0]!.led.stuck).toEqual([])
    for (const s of r.value) {
      const there = s.led.build
      if (s.led.stuck.length > 0) continue
      expect(drain(there).states.every((x) => x.headM > 0)).toBe(true)
      expect(tightGaps(there, activeVariant(there))).toEqual([])
      // what a spot is told to be is what its place is judged to be, and it hangs on something that carries it
      const own = activeVariant(there).parts.find((p): p is PartOf<'can'> => p.id === 'separator' && p.kind === 'can')!
      expect([
        ...placeFaults(placeGround(there.bay!, activeVariant(there), own), canBody(there.bay, own)!.floor),
      ]).toEqual([])
      expect(supportedKg(s.mounts)).toBeGreaterThan(0)
      for (const o of r.value)
        if (o !== s) expect(Math.hypot(...s.floor.map((v, k) => v - o.floor[k]!))).toBeGreaterThan(0.14)
    }
  },
)

test.each(BAY_LAYOUTS.map((r) => r.key))('%s: a search that ends early finds what all of the bay holds', (key) => {
  const b = build('separator-return', 'street', key)
  const { states } = figuresOf(b)
  const spots = (most: number) => finish(spotsFor(b, states, 'separator', { most, drained: true }))
  // so many are nowhere: every floor is judged
  const all = spots(10_000)
  if (!all.ok) throw new Error(all.reason)
  for (const most of [1, 3, 9]) expect(spots(most)).toEqual({ ok: true, value: all.value.slice(0, most) })
})

test('no place at all is said: a bonnet lower than any can', () => {
  const b = build()
  const flat = after(b, setBay({ ...b.bay!, bonnet: b.bay!.bonnet.map((p) => ({ ...p, upMm: -1500 })) }))
  const r = finish(bestSpots(flat, figuresOf(flat).states, 'separator'))
  expect(r.ok ? '' : r.reason).toMatch(/no free place/)
})

test('a way that is found is clear of what the straight one met, and a drain on it has no trap', () => {
  const b = build()
  const [top, bottom] = [drain(b).way[0]!, drain(b).way.at(-1)!]
  const halfWay = (k: 0 | 1 | 2) => Math.round(((top[k] + bottom[k]) / 2) * 1000)
  const wall = {
    id: 'wall',
    name: 'Wall',
    kind: 'hot',
    surfaceC: 600,
    forwardMm: halfWay(0),
    leftMm: halfWay(1),
    upMm: halfWay(2),
    longMm: 60,
    wideMm: 60,
    highMm: 60,
    round: undefined,
    measured: true,
  } as const
  const blocked = after(b, setWay('return', []), setBay({ ...b.bay!, keepOuts: [wall] }))
  const meets = (x: Build) => tightGaps(x, activeVariant(x)).filter((g) => g.of === 'return' && g.to === 'Wall')
  expect(meets(blocked)).not.toEqual([])
  const way = finish(findLineWay(blocked, 'return'))
  if (!way.ok) throw new Error(way.reason)
  const led = after(blocked, setWay('return', way.value))
  expect(meets(led)).toEqual([])
  expect(drain(led).profile.traps).toBe(0)
  expect(layOf(led.bay, activeVariant(led), line(led, 'return')).ok).toBe(true)
})

test('a port that points away gets a bent end, the elbow comes to the line, and the lid is turned to do without', () => {
  const b = build('stock')
  const away = after(
    b,
    setWay('breather', []),
    setSpot('cover.breather', { forwardMm: 0, leftMm: 0, upMm: 0 }),
    setSpot('inlet.breather', { forwardMm: 500, leftMm: 0, upMm: 0 }),
    setPointing('cover.breather', { points: 'up' }),
  )
  expect(line(away, 'breather').from.elbowDeg).toBe(90)
  expect(line(away, 'breather').to.elbowDeg).toBeUndefined()
  const along = after(away, setPointing('cover.breather', { points: 'ahead' }))
  expect(line(along, 'breather').from.elbowDeg).toBeUndefined()
  // a small turn the hose makes by itself, after a straight lead
  const aside = after(along, setSpot('inlet.breather', { forwardMm: 500, leftMm: 250, upMm: 0 }))
  const led = layOf(aside.bay, activeVariant(aside), line(aside, 'breather'))
  if (!led.ok) throw new Error(led.reason)
  const [x, y, z] = led.value.corners[1]!
  expect(led.value.endsDeg[0]).toBe(0)
  expect([y, z]).toEqual([0, 0])
  // its bend of 27 degrees begins at its tangent, and the lead stands before that
  expect(x).toBeGreaterThan(led.value.radiusM * Math.tan(Math.atan(0.5) / 2) + 0.01)
  // both ends bent, their planes at right angles
  const both = after(away, setPointing('inlet.breather', { points: 'left' }))
  const lay = layOf(both.bay, activeVariant(both), line(both, 'breather'))
  expect(lay.ok && lay.value.endsDeg).toEqual([90, 90])
  expect(lay.ok && lay.value.clockingDeg).toBeCloseTo(90, 6)
})

test('tilt: level running leaves the head as it is; a corner takes what leans by it, to the side that the axes say', () => {
  const b = after(
    build('separator-return', 'track'),
    setSpot('separator', { forwardMm: 0, leftMm: 0, upMm: 0 }),
    setSpot('crankcase.return', { forwardMm: 0, leftMm: -400, upMm: -300 }),
    setWay('return', []),
  )
  const d = drain(b)
  const most = Math.max(...d.states.map((s) => s.columnM))
  const by = Object.fromEntries(tilts(b, d).map((t) => [t.name, t]))
  // effective gravity leans to the right in a left-hander, where the return lies: more head by 0.4 m times g
  expect(by['a left-hander']!.headM).toBeCloseTo(0.3 + 0.4 * by['a left-hander']!.g - most, 6)
  expect(by['a right-hander']!.headM).toBeCloseTo(0.3 - 0.4 * by['a right-hander']!.g - most, 6)
  expect(by['launch']!.headM).toBeCloseTo(0.3 - most, 6)
  expect(by['a right-hander']!.sustained).toBe(true)
})

test('a separator that never drains is forecast like a can that someone empties', () => {
  const b = after(build(), setSpot('separator', { forwardMm: 60, leftMm: -110, upMm: -900 }))
  expect(neverDrains(b, activeVariant(b), figuresOf(b).states, 'separator')).toBe(true)
  expect(analyse(b, DAY).cans.map((c) => c.part)).toEqual(['separator'])
  expect(analyse(build(), DAY).cans).toEqual([])
})

test('gas up and oil down one narrow neck floods; wide, it does not', () => {
  const b = newBuild({
    name: 'F',
    engineClass: 'i5-turbo',
    use: 'track',
    ambientC: 10,
    units: 'metric',
    school: 'separator-shared',
  })
  const shared = activeVariant(b).lines.find(
    (l) => l.kind === 'hose' && [l.from, l.to].some((e) => e.part === 'separator' && e.port === 'in'),
  )!
  const floods = (mm: number) =>
    analyse(
      {
        ...b,
        variants: b.variants.map((v) => ({
          ...v,
          lines: v.lines.map((l) =>
            l === shared ? { ...l, boreMm: mm, from: { ...l.from, barbMm: mm }, to: { ...l.to, barbMm: mm } } : l,
          ),
        })),
      },
      DAY,
    ).verdicts.some((v) => v.subject === 'separator-floods')
  expect(floods(10)).toBe(true)
  expect(floods(38)).toBe(false)
})

test('ways go out as a table and come back the same; a wrong one is refused whole, by line', () => {
  const b = after(build(), setWay('return', [{ forwardMm: 70, leftMm: -330, upMm: -330 }]))
  const back = readWays(after(b, setWay('return', [])), waysCsv(b))
  if (!back.ok) throw new Error(back.reason)
  expect(line(after(after(b, setWay('return', [])), back.value), 'return').way).toEqual(line(b, 'return').way)
  const wrong = readWays(b, 'line,point,ahead_mm,left_mm,up_mm\nreturn,1,70,-330,1e9\nnowhere,1,1,2,3\nreturn,1,2')
  expect(wrong.ok ? '' : wrong.reason).toMatch(/Line 4/)
  const far = readWays(b, 'line,point,ahead_mm,left_mm,up_mm\nreturn,1,70,-330,1e9\nnowhere,1,1,2,3')
  expect(far.ok ? '' : far.reason).toMatch(/Line 2: up_mm.*Line 3: this plan has no line nowhere/)
})

test('drawings are read back by an independent parser with the same places, in millimetres', () => {
  const b = after(build(), setSpot('separator', { forwardMm: 60, leftMm: -110, upMm: -140 }))
  for (const side of SIDES) {
    const drawing = bayDrawing(b, side)
    const read = new Reader().parseSync(dxfOf(drawing))!
    const texts = read.entities.filter((e) => e.type === 'TEXT').map((e) => (e as unknown as { text: string }).text)
    expect(texts.some((t) => t.startsWith('Separator: 60 ahead, -110 left'))).toBe(true)
    expect(svgOf(drawing)).toMatch(/^<svg .*width="[\d.]+mm"/)
    expect(svgOf(drawing)).not.toMatch(/NaN|undefined/)
  }
  const above = new Reader().parseSync(dxfOf(bayDrawing(b, 'above')))!
  const circles = above.entities.filter((e) => e.type === 'CIRCLE') as unknown as { center: { x: number; y: number } }[]
  expect(circles.some((c) => Math.abs(c.center.x - 60) < 1e-6 && Math.abs(c.center.y + 110) < 1e-6)).toBe(true)
})

test('a photograph has the scale of two points of known distance, and its datum at the origin', () => {
  const r = scaledPhoto(
    [
      [100, 400],
      [400, 800],
    ],
    0.25,
    [200, 300],
    { width: 1000, height: 900 },
  )
  if (!r.ok) throw new Error(r.reason)
  // 500 px are 0.25 m; the datum lies 200 px from the left and 600 px from the bottom
  expect(r.value).toEqual({ metresPerPixel: 0.0005, left: -0.1, bottom: -0.3, width: 1000, height: 900 })
  expect(readUnderlay(underlayText(r.value))).toEqual(r.value)
  expect(
    scaledPhoto(
      [
        [100, 100],
        [101, 100],
      ],
      0.25,
      [0, 0],
      { width: 10, height: 10 },
    ).ok,
  ).toBe(false)
  expect(
    scaledPhoto(
      [
        [100, 100],
        [400, 100],
      ],
      NaN,
      [0, 0],
      { width: 10, height: 10 },
    ).ok,
  ).toBe(false)
  for (const bad of ['', '1 2 3', 'a b c d e', '0 1 1 10 10']) expect(readUnderlay(bad)).toBeUndefined()
})

test('a return that ends below the oil stands full up to its level, and has that much less to fall', () => {
  const b = build()
  const end = spotIn(b.bay, 'crankcase.return') ?? spotIn(b.bay, 'crankcase')!
  const dry = drain(b)
  const wet = drain(after(b, changeBay({ oilLevelMm: end.upMm + 40 })))
  expect(dry.standsM3).toBe(0)
  expect(wet.standsM3).toBeGreaterThan(0)
  // 40 mm of the fall are under oil, in every state (by hand)
  for (const [i, s] of wet.states.entries()) expect(dry.states[i]!.headM - s.headM).toBeCloseTo(0.04, 6)
  // a level below the end changes nothing
  expect(drain(after(b, changeBay({ oilLevelMm: end.upMm - 40 }))).states).toEqual(dry.states)
})

test('cold oil runs slower by its viscosity, and a return too narrow for what is gathered is told, with the wider hose', () => {
  const b = build()
  for (const s of drain(b).states) {
    expect(s.coldCapacity).toBeLessThan(s.capacity / 20)
    expect(s.coldCapacity).toBeGreaterThan(0)
  }
  const narrow = perform(b, setLine('return', { boreMm: 3 }))
  if (!narrow.ok) throw new Error(narrow.reason)
  const slowDrain = analyse(narrow.value, DAY).verdicts.find((v) => v.subject === 'separator-slow')
  const states = drain(narrow.value).states
  const slow = states.some((s) => s.caught > Math.min(s.capacity, s.coldCapacity))
  expect(slowDrain !== undefined).toBe(slow)
  expect(slow).toBe(true)
  expect(slowDrain!.fix!.label).toMatch(/^Lay the .* in /)
  expect(analyse(b, DAY).verdicts.some((v) => v.subject === 'separator-slow')).toBe(false)
})

test('a found way leaves a port as it points where there is room', () => {
  const b = after(
    build('stock'),
    setSpot('cover.breather', { forwardMm: 0, leftMm: 0, upMm: 0 }),
    setSpot('inlet.breather', { forwardMm: 700, leftMm: 300, upMm: 0 }),
    setPointing('cover.breather', { points: 'left' }),
  )
  const clear = after(b, setBay({ ...b.bay!, keepOuts: [], bonnet: [] }))
  const way = finish(findLineWay(clear, 'breather'))
  if (!way.ok) throw new Error(way.reason)
  const led = after(clear, setWay('breather', way.value))
  const lay = layOf(led.bay, activeVariant(led), line(led, 'breather'))
  expect(lay.ok && lay.value.endsDeg).toEqual([0, 0])
  const first = way.value[0]!
  expect([first.forwardMm, first.upMm]).toEqual([0, 0])
  expect(first.leftMm).toBeGreaterThan(0)
})

test('a round body lies as it says: in its drawings and in what comes near it', () => {
  const b = build('stock')
  const pipe = { ...b.bay!.keepOuts[0]!, longMm: 600, wideMm: 50, highMm: 50, round: true }
  const lying = (lies: 'ahead' | 'left' | undefined) => ({ ...pipe, lies })
  const seen = (lies: 'ahead' | 'left' | undefined) =>
    SIDES.map((side) => [side, seenFrom(side, lying(lies)).acrossMm, isCircleFrom(side, lying(lies))])
  expect(seen('ahead')).toEqual([
    ['left', 600, false],
    ['above', 600, false],
    ['front', 50, true],
  ])
  expect(seen('left').find(([side]) => side === 'left')).toEqual(['left', 50, true])
  expect(seen(undefined).find(([side]) => side === 'above')).toEqual(['above', 600, true])
  const kept = after(b, setBay({ ...b.bay!, keepOuts: [lying('ahead')] }))
  expect(validateBuild(kept).ok).toBe(true)
})

test('a line kinked at a point is led without it by a longer run', () => {
  const b = after(
    build('stock'),
    setSpot('cover.breather', { forwardMm: 0, leftMm: 0, upMm: 0 }),
    setSpot('inlet.breather', { forwardMm: 500, leftMm: 0, upMm: 0 }),
  )
  const clear = after(b, setBay({ ...b.bay!, keepOuts: [], bonnet: [] }))
  const kinked = after(
    clear,
    setWay('breather', [
      { forwardMm: 250, leftMm: 20, upMm: 0 },
      { forwardMm: 260, leftMm: -200, upMm: 0 },
    ]),
  )
  const lay = (x: Build) => layOf(x.bay, activeVariant(x), line(x, 'breather'))
  expect(lay(kinked).ok).toBe(false)
  const way = finish(findLineWay(kinked, 'breather'))
  if (!way.ok) throw new Error(way.reason)
  expect(lay(after(kinked, setWay('breather', way.value))).ok).toBe(true)
})

test.each(['cover', 'no such part'])('no place is looked for what is no can of the plan: %s', (id) => {
  const b = build('stock')
  const canned = after(build(), setSpot('separator', { forwardMm: 0, leftMm: 0, upMm: 0 }))
  for (const x of [b, canned]) expect(finish(bestSpots(x, figuresOf(x).states, id)).ok).toBe(false)
})
