/** Gaps, ways and drains of the bay against geometry done by hand. */
import { GRAVITY } from '@/core/gas/air'
import { finish } from '@/core/job'
import { END_FREE } from '@/core/route/distance'
import { analyse } from '../analyse'
import { bayFor } from '../catalogue/bays'
import { canBody, endPlace } from '../catalogue/bay-geometry'
import type { Bay, Build, PartOf } from '../document/schema'
import { activeVariant, applyEdits } from '../edit/edit'
import { setPart } from '../edit/edit-builders'
import { figuresOf } from '../model/figures'
import { newBuild } from '../schools/new-build'
import { after } from '../testing'
import { bestSpots } from './best-spots'
import { changeBay, setBay, setPointing, setSpot, setWay } from './bay-builders'
import { bayObjects, tightGaps, tubeRadius } from './clearance'
import { bayDrawing } from './drawing'
import { drainInBay } from './drains'
import { findLineWay } from './find-way'
import { supportedKg, fullMassKg, mountsNear, mountsWithin } from './hanging'
import { layOf } from './lay'
import { openBay } from './open-bay'
import { boxOf, clearanceAsked, HOSES_ASKED, spannerFaults } from './place'

// a bay is opened once for all tests that begin in it
const opened = new Map<string, Build>()
const inBay = (school: string): Build => {
  const known = opened.get(school)
  if (known) return known
  const b = newBuild({ name: 'x', engineClass: 'i5-turbo', use: 'street', ambientC: 10, units: 'metric', school })
  const there = finish(openBay(b, figuresOf(b).states, bayFor(b.engine))).build
  opened.set(school, there)
  return there
}
const can = (b: Build, id: string) => activeVariant(b).parts.find((p) => p.id === id) as PartOf<'can'>
const block = (
  name: string,
  at: { forwardMm: number; leftMm: number; upMm: number },
  kind: Bay['keepOuts'][number]['kind'] = 'panel',
) => ({
  id: name,
  name,
  kind,
  ...at,
  longMm: 20,
  wideMm: 20,
  highMm: 20,
  measured: true,
})

test('a can comes to a box as far as its wall is from the box’s face', () => {
  const b = after(
    inBay('vacuum-side-can'),
    setSpot('can', { forwardMm: 0, leftMm: 0, upMm: 0 }),
    changeBay({ bonnet: [] }),
  )
  const body = canBody(b.bay, can(b, 'can'))!
  const gap = 0.004
  const face = Math.round((body.radiusM + gap) * 1000)
  const near = after(b, changeBay({ keepOuts: [block('panel', { forwardMm: face + 10, leftMm: 0, upMm: 40 })] }))
  const found = tightGaps(near, activeVariant(near)).find((g) => g.of === 'can' && g.to === 'panel')!
  expect(found.gapM).toBeCloseTo(face / 1000 - body.radiusM, 9)
  expect(found.askedM).toBe(clearanceAsked({ kind: 'panel' }))
  // shown on top of the can
  expect(found.at).toEqual([body.floor[0], body.floor[1], body.floor[2] + body.heightM])
  // one that is far enough is not told
  const far = after(b, changeBay({ keepOuts: [block('panel', { forwardMm: face + 30, leftMm: 0, upMm: 40 })] }))
  expect(tightGaps(far, activeVariant(far)).filter((g) => g.of === 'can' && g.to === 'panel')).toEqual([])
})

test('what is not measured is asked for: both ends of a hose, where a can’s lines go; a can that nothing is joined to says so', () => {
  const b = inBay('vacuum-side-can')
  const line = activeVariant(b).lines.find((l) => l.kind !== 'direct' && l.to.part === 'can')!
  const without = (...ids: readonly string[]) =>
    after(b, changeBay({ spots: b.bay!.spots.filter((s) => !ids.includes(s.id.split('.')[0]!)) }))
  const others = activeVariant(b).lines.flatMap((l) =>
    [l.from, l.to].some((e) => e.part === 'can') ? [l.from.part, l.to.part].filter((id) => id !== 'can') : [],
  )
  for (const unmeasured of [without(line.from.part), without(line.to.part)])
    expect(finish(findLineWay(unmeasured, line.id))).toMatchObject({ ok: false, reason: /both of its ends/ })
  const spotsOf = (x: Build) => finish(bestSpots(x, figuresOf(x).states, 'can'))
  expect(spotsOf(without(...others))).toMatchObject({ ok: false, reason: 'Measure where its lines go first.' })
  const alone = {
    ...activeVariant(b),
    lines: activeVariant(b).lines.filter((l) => l.from.part !== 'can' && l.to.part !== 'can'),
  }
  expect(spotsOf({ ...b, variants: [alone] })).toMatchObject({ ok: false, reason: 'Nothing is joined to it yet.' })
  expect(finish(bestSpots(b, figuresOf(b).states, 'no such can'))).toMatchObject({
    ok: false,
    reason: /^Measure the bay first/,
  })
})

test('what a plan puts into its bay is its hoses and its cans, each once, by their own sizes', () => {
  const b = inBay('both-sides')
  const things = bayObjects(b, activeVariant(b))
  const { lines, parts } = activeVariant(b)
  const expected = [
    ...lines.filter((l) => l.kind !== 'direct').map((l) => [l.id, tubeRadius(l.boreMm)]),
    ...parts.filter((p) => p.kind === 'can').map((p) => [p.id, canBody(b.bay, p as PartOf<'can'>)!.radiusM]),
  ]
  expect(things.map((t) => [t.of, t.radiusM])).toEqual(expected)
  expect(tubeRadius(12.7)).toBeCloseTo(0.0127 / 2 + 0.0035, 9)
})

test('a port inside a box is meant to be there, at either end; a hose through the middle of one is not', () => {
  const b = after(
    inBay('stock'),
    setSpot('cover.breather', { forwardMm: 0, leftMm: 0, upMm: 0 }),
    setSpot('inlet.breather', { forwardMm: 600, leftMm: 0, upMm: 0 }),
    setWay('breather', [{ forwardMm: 300, leftMm: 0, upMm: 0 }]),
    changeBay({ bonnet: [] }),
  )
  const meets = (forwardMm: number) => {
    const x = after(b, changeBay({ keepOuts: [block('box', { forwardMm, leftMm: 0, upMm: 0 })] }))
    return tightGaps(x, activeVariant(x)).some((g) => g.of === 'breather' && g.to === 'box' && g.gapM === 0)
  }
  expect([meets(0), meets(300), meets(600)]).toEqual([false, true, false])
})

test('a line led by points leaves the others as they were, and no points are none', () => {
  const b = inBay('both-sides')
  const led = after(b, setWay('breather', [{ forwardMm: 200, leftMm: -300, upMm: 100 }]))
  const ways = (x: Build) => Object.fromEntries(activeVariant(x).lines.map((l) => [l.id, l.way]))
  const before = ways(b)
  for (const [id, way] of Object.entries(ways(led))) if (id !== 'breather') expect(way).toEqual(before[id])
  expect(ways(led).breather).toHaveLength(1)
  expect(ways(after(led, setWay('breather', []))).breather).toBeUndefined()
})

test('a drain lets down what Hagen and Poiseuille say, of its length from point to point', () => {
  const b = after(
    inBay('separator-return'),
    setSpot('separator', { forwardMm: 0, leftMm: 0, upMm: 300 }),
    setSpot('crankcase.return', { forwardMm: 400, leftMm: 0, upMm: 0 }),
    setWay('return', [{ forwardMm: 400, leftMm: 0, upMm: 300 }]),
  )
  const d = drainInBay(b, activeVariant(b), figuresOf(b).states, 'separator')!
  const line = activeVariant(b).lines.find((l) => l.id === 'return')!
  expect(d.way).toHaveLength(3)
  expect(d.profile.fallM).toBeCloseTo(0.3, 9)
  for (const s of d.states) {
    expect(s.headM).toBeCloseTo(0.3 - s.columnM, 9)
    if (s.headM <= 0) continue
    // capacity over head is the tube's own: the same in every state but for the oil's warmth; cold oil at 0 C flows slower
    expect(s.coldCapacity).toBeLessThan(s.capacity)
    const nu = (Math.PI * (line.boreMm / 1000) ** 4 * GRAVITY * s.headM) / (128 * 0.7 * s.capacity)
    expect(nu).toBeGreaterThan(5e-6)
    expect(nu).toBeLessThan(3e-5)
  }
  // its end 100 mm under the oil: so much of the last, upright run stands full, and so much less falls
  const deep = after(b, (x) => setBay({ ...x.bay!, oilLevelMm: 100 })(x))
  const under = drainInBay(deep, activeVariant(deep), figuresOf(deep).states, 'separator')!
  expect(under.underM).toBeCloseTo(0.1, 9)
  expect(under.standsM3).toBeCloseTo((Math.PI / 4) * (line.boreMm / 1000) ** 2 * 0.1, 12)
  under.states.forEach((s, i) => expect(s.headM).toBeCloseTo(d.states[i]!.headM - 0.1, 9))
})

test('a way that is found keeps what is asked from the cans that it is not joined to', () => {
  const b = after(inBay('separator-return'), changeBay({ keepOuts: [], bonnet: [] }))
  const v = activeVariant(b)
  const breather = v.lines.find((l) => l.kind === 'hose' && ![l.from.part, l.to.part].includes('separator'))!
  const way = finish(findLineWay(b, breather.id))
  if (!way.ok) throw new Error(way.reason)
  const led = after(b, setWay(breather.id, way.value))
  const lay = layOf(
    led.bay,
    activeVariant(led),
    activeVariant(led).lines.find((l) => l.id === breather.id)!,
  )
  if (!lay.ok) throw new Error(lay.reason)
  const joined = [breather.from.part, breather.to.part]
  for (const p of activeVariant(led).parts) {
    if (p.kind !== 'can' || joined.includes(p.id)) continue
    const body = canBody(led.bay, p)!
    for (const [x, y, z] of lay.value.middle) {
      const above = z < body.floor[2] ? body.floor[2] - z : Math.max(0, z - body.floor[2] - body.heightM)
      const aside = Math.max(0, Math.hypot(x - body.floor[0], y - body.floor[1]) - body.radiusM)
      expect(Math.hypot(above, aside)).toBeGreaterThanOrEqual(tubeRadius(breather.boreMm) + HOSES_ASKED - 1e-6)
    }
  }
})

test('the drawing shows a can as a circle from above and as a rectangle from the side, the bonnet from the side alone', () => {
  const b = inBay('vacuum-side-can')
  const body = canBody(b.bay, can(b, 'can'))!
  const [above, left] = (['above', 'left'] as const).map((side) => bayDrawing(b, side).marks)
  const [x, y] = [body.floor[0] * 1000, body.floor[1] * 1000]
  const circle = above!.find(
    (m) => m.kind === 'circle' && m.layer === 'outline' && Math.abs(m.r - body.radiusM * 1000) < 1e-6,
  )
  expect(circle && 'at' in circle ? circle.at.map((v) => Math.abs(v)) : []).toEqual(
    expect.arrayContaining([Math.abs(x), Math.abs(y)].map((v) => expect.closeTo(v, 6))),
  )
  expect(above!.some((m) => m.layer === 'bonnet')).toBe(false)
  const lid = left!.find((m) => m.layer === 'bonnet')!
  expect(lid.kind === 'line' ? lid.points : []).toHaveLength(25)
  expect(
    left!.some((m) => m.kind === 'circle' && m.layer === 'outline' && Math.abs(m.r - body.radiusM * 1000) < 1e-6),
  ).toBe(false)
})

test('a can weighs its skin, its oil and its hoses, and hangs on the nearest two things within reach', () => {
  const b = after(
    inBay('vacuum-side-can'),
    setSpot('can', { forwardMm: 0, leftMm: 0, upMm: 0 }),
    setPart('can', { bowlMl: 1000 }),
  )
  const own = can(b, 'can')
  const body = canBody(b.bay, own)!
  const skin = 2 * Math.PI * body.radiusM * (body.heightM + body.radiusM)
  expect(fullMassKg(own, body)).toBeCloseTo(skin * 5.4 + 0.85 + 0.15, 9)
  const held = Math.round(body.heightM * 0.7 * 1000)
  const mount = (id: string, forwardMm: number, kind: 'bolt' | 'bracket') => ({
    id,
    name: id,
    kind,
    forwardMm,
    leftMm: 0,
    upMm: held,
    measured: true,
  })
  const hung = after(
    b,
    changeBay({ mounts: [mount('far', 700, 'bolt'), mount('second', 200, 'bracket'), mount('first', 100, 'bolt')] }),
  )
  expect(mountsNear(hung.bay, body).map((m) => m.m.id)).toEqual(['first', 'second', 'far'])
  expect(mountsNear(hung.bay, body)[0]!.awayM).toBeCloseTo(0.1, 3)
  const hanging = mountsWithin(hung.bay, body)
  expect(hanging.map((m) => m.m.id)).toEqual(['first', 'second'])
  expect(supportedKg(hanging)).toBe(6)
  expect(mountsWithin(after(b, changeBay({ mounts: [mount('far', 700, 'bolt')] })).bay, body)).toEqual([])
})

test('a hot surface asks for more the hotter it is; a box is as large as it was measured', () => {
  expect(clearanceAsked({ kind: 'hot', surfaceC: 400 })).toBe(0.06)
  expect(clearanceAsked({ kind: 'hot', surfaceC: 300 })).toBe(0.03)
  expect(clearanceAsked({ kind: 'hot' })).toBe(0.06)
  expect(
    boxOf({ ...block('b', { forwardMm: 10, leftMm: 20, upMm: 30 }), longMm: 200, wideMm: 100, highMm: 50 } as never),
  ).toEqual({
    middle: [0.01, 0.02, 0.03],
    half: [0.1, 0.05, 0.025],
  })
})

describe('a hose and the can that it joins', () => {
  const head = 100
  const between = after(
    inBay('vacuum-side-can'),
    setWay('dirty', []),
    setWay('suction', []),
    setSpot('can', { forwardMm: 0, leftMm: 0, upMm: 0 }),
    setSpot('pcv', { forwardMm: 400, leftMm: 0, upMm: head }),
    setSpot('manifold.vacuum', { forwardMm: -400, leftMm: 0, upMm: head }),
    changeBay({ bonnet: [], keepOuts: [] }),
  )
  const v = (b: Build) => activeVariant(b)
  const line = (b: Build, id: string) => v(b).lines.find((l) => l.id === id)!
  const through = (b: Build) => tightGaps(b, v(b)).filter((g) => g.own)
  const body = canBody(between.bay, can(between, 'can'))!

  test('a lid that nobody has turned faces where its hoses go', () => {
    // the inlet to what stands ahead, the outlet to what stands behind (by hand)
    const mouth = (id: string, port: 'from' | 'to') => endPlace(between.bay, v(between), line(between, id)[port])!.at
    expect(mouth('dirty', 'to').slice(0, 2)).toEqual([expect.closeTo(body.radiusM, 9), expect.closeTo(0, 9)])
    expect(mouth('suction', 'from').slice(0, 2)).toEqual([expect.closeTo(-body.radiusM, 9), expect.closeTo(0, 9)])
    // a point on the way counts before what the hose ends at
    const led = after(between, setWay('suction', [{ forwardMm: 400, leftMm: 0, upMm: 300 }]))
    const side = endPlace(led.bay, v(led), line(led, 'suction').from)!.at
    expect([side[0], Math.abs(side[1])]).toEqual([expect.closeTo(0, 9), expect.closeTo(body.radiusM, 9)])
    expect(through(between)).toEqual([])
  })

  test('with the lid turned the wrong way both hoses lead through it, which is told, and a way is found round it', () => {
    // at 45 degrees the inlet points back and to the left (by hand)
    const turned = after(between, setPointing('can', { turnDeg: 45 }))
    const inlet = endPlace(turned.bay, v(turned), line(turned, 'dirty').to)!
    expect(inlet.points).toEqual([expect.closeTo(-Math.SQRT1_2, 9), expect.closeTo(Math.SQRT1_2, 9), 0])
    expect(through(turned).map((g) => g.of)).toEqual(expect.arrayContaining(['dirty']))
    const verdicts = analyse(turned, '2026-11-25').verdicts.filter((x) => x.rule === 'clearance')
    const verdict = verdicts.find((x) => /leads through the catch can that it joins/.test(x.title))!
    const mended = applyEdits(turned, verdict.fix!.edits)
    expect(mended.ok && through(mended.value)).toEqual([])
    const way = finish(findLineWay(turned, 'dirty'))
    if (!way.ok) throw new Error(way.reason)
    const led = after(turned, setWay('dirty', way.value))
    expect(through(led).filter((g) => g.of === 'dirty')).toEqual([])
    // every two millimetres of its middle, past the mouth, stand outside the can by the hose's own half
    const lay = layOf(led.bay, v(led), line(led, 'dirty'))
    if (!lay.ok) throw new Error(lay.reason)
    const { middle } = lay.value
    const half = tubeRadius(line(led, 'dirty').boreMm)
    const end = middle.at(-1)!
    let least = Infinity
    for (let i = 1; i < middle.length; i++) {
      const [a, b] = [middle[i - 1]!, middle[i]!]
      const n = Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]) / 0.002)
      for (let k = 0; k <= n; k++) {
        const p = [0, 1, 2].map((j) => a[j]! + ((b[j]! - a[j]!) * k) / n) as [number, number, number]
        if (Math.hypot(p[0] - end[0], p[1] - end[1], p[2] - end[2]) < END_FREE) continue
        const beside = Math.hypot(p[0], p[1]) - body.radiusM
        const over = Math.max(-p[2], p[2] - body.heightM)
        least = Math.min(least, Math.max(beside, over))
      }
    }
    expect(least).toBeGreaterThanOrEqual(half)
  })
})

test('a spanner wants room round the ports of a can, on the side that they look to', () => {
  const b = after(
    inBay('vacuum-side-can'),
    setWay('dirty', []),
    setWay('suction', []),
    setSpot('can', { forwardMm: 0, leftMm: 0, upMm: 0 }),
    setSpot('pcv', { forwardMm: 400, leftMm: 0, upMm: 100 }),
    setSpot('manifold.vacuum', { forwardMm: -400, leftMm: 0, upMm: 100 }),
  )
  const own = can(b, 'can')
  const body = canBody(b.bay, own)!
  // the inlet looks ahead, 30 mm under the lid: a block of 20 mm whose near face is so far ahead of it (by hand)
  const ahead = (mm: number, side: 1 | -1 = 1) => ({
    ...b.bay!,
    keepOuts: [
      block('wall', {
        forwardMm: side * (body.radiusM * 1000 + mm + 10),
        leftMm: 0,
        upMm: body.heightM * 1000 - 30,
      }) as Bay['keepOuts'][number],
    ],
  })
  const faults = (bay: Bay) =>
    [...spannerFaults(bay, activeVariant(b), own)].map((f) => [f.to, Math.round(f.has * 1000)])
  expect(faults(ahead(20))).toEqual([['wall', 20]])
  expect(faults(ahead(20, -1))).toEqual([['wall', 20]])
  expect(faults(ahead(29))).toEqual([])
  // beside the can, where no port looks, it may stand as near
  const beside = {
    ...ahead(20),
    keepOuts: [{ ...ahead(20).keepOuts[0]!, forwardMm: 0, leftMm: body.radiusM * 1000 + 30 }],
  }
  expect(faults(beside)).toEqual([])
})
