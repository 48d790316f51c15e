/** The cover's own baffle: its passages, drop and catch by closed forms, and what the plan makes of it. */
import Reader from 'dxf-parser'
import { baffleDropKpa, baffleStages, coverBaffleOf } from '../catalogue/cover-baffle'
import { validateBuild } from '../document/validate'
import { boundsOf, checkSquare } from '../drawing/drawing'
import { dxfOf } from '../drawing/dxf'
import { analyse } from '../analyse'
import { activeVariant } from '../edit/edit'
import { solvedIn } from '../model/results'
import { newBuild } from '../schools/new-build'
import { effortOf } from '../studies/effort'
import { after } from '../testing'
import { coverBaffleDrawing, coverBafflesOf, holesFor, judgeBaffle, outletsOf, setCoverBaffle } from './cover-baffle'
import { bungSpot } from './bungs'
import { jobCard } from './card'
import { shoppingList } from './lists'

const DAY = '2026-11-25'
const PLATES = { plates: 2, holes: 15, holeMm: 5, gapMm: 8, returns: 2, returnMm: 4 }
const build = () =>
  newBuild({ name: 'B', engineClass: 'i5-turbo', use: 'track', ambientC: 10, units: 'metric', school: 'stock' })

test('passages: holes and channel over the outlet, the less of both; enough holes for an outlet and not one less', () => {
  // 15 x 25 mm2 over 361 mm2
  expect(judgeBaffle(PLATES, 19).passage).toBeCloseTo((15 * 25) / 361, 9)
  expect(judgeBaffle(PLATES, 19).least).toBe('holes')
  // six columns and three rows at 10 mm: 3 - 1 pitches, a hole and two edges of 8 mm make 41 mm; 2 mm of channel across it
  const low = judgeBaffle({ ...PLATES, gapMm: 2 }, 19)
  expect(low.least).toBe('channel')
  expect(low.passage).toBeCloseTo((2 * 41) / ((Math.PI / 4) * 361), 9)
  for (const [outlet, hole] of [
    [19, 5],
    [12.7, 4],
    [25.4, 6],
  ] as const) {
    const fewest = holesFor(outlet, hole)
    if (!fewest.ok) throw new Error(fewest.reason)
    const n = fewest.value
    expect(n * hole ** 2).toBeGreaterThanOrEqual(outlet ** 2)
    expect((n - 1) * hole ** 2).toBeLessThan(outlet ** 2)
  }
})

test('drop: orifices in parallel on a plate, plates in series, by the sharp hole of ISO 5167', () => {
  const area = 15 * (Math.PI / 4) * 0.005 ** 2
  const one = (1.2 / 2) * (0.1 / 60 / (0.62 * area)) ** 2
  expect(baffleDropKpa({ ...PLATES, plates: 1 })).toBeCloseTo(one / 1000, 4)
  expect(baffleDropKpa(PLATES) / baffleDropKpa({ ...PLATES, plates: 1 })).toBeCloseTo(2, 3)
})

test('half kept: by hand from the Stokes number; two plates keep finer droplets than one', () => {
  const one = judgeBaffle({ ...PLATES, plates: 1 }, 19).d50!
  // E = 1/2 at Stk = 0.24 = rho d2 Cc U / (9 mu W): jets of 5 mm at 1.667e-3 m3/s / 2.945e-4 m2 = 5.66 m/s; oil 850, gas 20.5e-6 Pa s, Cc about 1
  const d = Math.sqrt((0.24 * 9 * 20.5e-6 * 0.005) / (850 * 5.66))
  expect(one / d).toBeGreaterThan(0.95)
  expect(one / d).toBeLessThan(1.05)
  expect(judgeBaffle(PLATES, 19).d50!).toBeLessThan(one)
  expect(baffleStages(PLATES).length).toBe(2)
})

test('in the plan its drop stands in series and what it keeps never leaves: more crankcase pressure, less oil to the intake', () => {
  const bare = build()
  const [outlet] = outletsOf(activeVariant(bare)).filter((o) => o.port.id === 'breather')
  const fitted = after(bare, setCoverBaffle(outlet!.part.id, outlet!.port.id, PLATES))
  expect(validateBuild(JSON.parse(JSON.stringify(fitted))).ok).toBe(true)
  expect(coverBafflesOf(activeVariant(fitted)).map((b) => b.baffle)).toEqual([PLATES])
  const [a, b] = [analyse(bare, DAY), analyse(fitted, DAY)]
  const [was, now] = [solvedIn(a, 'boost')!, solvedIn(b, 'boost')!]
  // the same flow through the same law and one more in series
  expect(now.crankcaseGauge).toBeGreaterThan(was.crankcaseGauge)
  expect(b.intakeOil).toBeLessThan(0.9 * a.intakeOil)
  expect(now.passages['breather']!.oil.splash).toBeLessThan(0.7 * was.passages['breather']!.oil.splash)
  // it is no can that fills
  expect(Object.keys(now.cans)).toEqual(Object.keys(was.cans))
  expect(b.cans.length).toBe(a.cans.length)
  const none = after(fitted, setCoverBaffle(outlet!.part.id, outlet!.port.id, undefined))
  expect(coverBaffleOf(outletsOf(activeVariant(none))[0]!.port)).toBeUndefined()
  expect(analyse(none, DAY).intakeOil).toBe(a.intakeOil)
  // the cover comes off for it, the sheet is bought, the work counts
  const keys = jobCard(fitted, activeVariant(fitted)).steps.map((s) => s.key)
  const at = (k: string) => keys.findIndex((x) => x.startsWith(k))
  expect(at('cover-off-')).toBeGreaterThan(-1)
  expect(at('plates-in-')).toBeGreaterThan(at('cover-off-'))
  expect(at('cover-on-')).toBeGreaterThan(at('plates-in-'))
  expect(shoppingList(fitted, activeVariant(fitted)).some((i) => i.key === 'baffle-sheet')).toBe(true)
  expect(effortOf(fitted, activeVariant(fitted)).means).toContain('coverOff')
})

test('drawn piece by piece: every hole inside its plate, none over another, those of the next plate between them', () => {
  const bare = build()
  const [outlet] = outletsOf(activeVariant(bare))
  const drawing = coverBaffleDrawing({ ...outlet!, baffle: PLATES, outletMm: 19 })
  const outlines = drawing.marks.flatMap((m) => (m.kind === 'line' && m.layer === 'outline' ? [m.points] : []))
  // two plates and two walls
  expect(outlines.length).toBe(4)
  const holes = drawing.marks.flatMap((m) => (m.kind === 'circle' && m.r === 2.5 ? [m] : []))
  expect(holes.length).toBe(30)
  // the size in words is the size drawn
  const [plate] = outlines
  const size = `2 of ${(plate![2]![0] - plate![0]![0]).toFixed(1)} x ${(plate![2]![1] - plate![0]![1]).toFixed(1)} mm`
  expect(drawing.marks.some((m) => m.kind === 'text' && m.text.startsWith(size))).toBe(true)
  // returns for the oil halve the lower edge of their plate evenly
  const returns = drawing.marks.flatMap((m) => (m.kind === 'circle' && m.r === 2 ? [m] : []))
  expect(returns.length).toBe(4)
  returns.forEach((r, i) => {
    const [[left, low], [right]] = outlines[i < 2 ? 0 : 1]! as [[number, number], [number, number]]
    expect((r.at[0] - left) / (right - left)).toBeCloseTo(i % 2 === 0 ? 0.25 : 0.75, 9)
    expect(r.at[1]).toBe(low)
  })
  holes.forEach((h, i) => {
    const own = outlines.find(
      (p) =>
        h.at[0] - h.r >= p[0]![0] &&
        h.at[0] + h.r <= p[2]![0] &&
        h.at[1] - h.r >= p[0]![1] &&
        h.at[1] + h.r <= p[2]![1],
    )
    expect(outlines.indexOf(own!)).toBe(i < 15 ? 0 : 1)
    for (const o of holes.slice(i + 1))
      expect(Math.hypot(h.at[0] - o.at[0], h.at[1] - o.at[1])).toBeGreaterThanOrEqual(h.r + o.r)
  })
  const xs = (from: number) => holes.slice(from, from + 6).map((h) => h.at[0])
  expect(xs(15)[0]! - xs(0)[0]!).toBeCloseTo(5, 9)
})

test('a bung stands over the middle of the baffle, or the baffle is too small for it and its weld', () => {
  const place = { fromFrontMm: 80, toFrontMm: 160, fromEdgeMm: 30, toEdgeMm: 80 }
  const spot = bungSpot(place, 18.5)
  // 50 across, less 18.5 and twice 11
  expect(spot).toEqual({ ok: true, value: { frontMm: 120, edgeMm: 55, spareMm: (50 - 18.5 - 22) / 2 } })
  expect(bungSpot({ ...place, toEdgeMm: 68 }, 18.5).ok).toBe(false)
  expect(bungSpot({ ...place, toFrontMm: 70 }, 18.5).ok).toBe(false)
})

test('a baffle plate never passes less than its outlet; smaller holes catch finer and cost more; the DXF has every hole', () => {
  const [outlet] = outletsOf(activeVariant(build()))
  let last: { d50: number; drop: number } | undefined
  for (const holeMm of [6, 5, 4, 3, 2]) {
    const holes = holesFor(15.9, holeMm)
    if (!holes.ok) throw new Error(holes.reason)
    // a channel as wide as the outlet is never the least
    const baffle = { plates: 1, holes: holes.value, holeMm, gapMm: 15.9, returns: 2, returnMm: 4 }
    const judged = judgeBaffle(baffle, 15.9)
    expect(judged.passage).toBeGreaterThanOrEqual(1)
    expect(judged.passage).toBeLessThan(1 + (holeMm / 15.9) ** 2 + 1e-9)
    if (last) {
      expect(judged.d50!).toBeLessThanOrEqual(last.d50)
      expect(judged.dropKpaAt100).toBeGreaterThanOrEqual(last.drop * 0.8)
    }
    last = { d50: judged.d50!, drop: judged.dropKpaAt100 }
    const drawing = coverBaffleDrawing({ ...outlet!, baffle, outletMm: 15.9 })
    // the square to hold a ruler to is the last that is drawn, and stands clear of what is cut
    const marks = drawing.marks.slice(0, -checkSquare(0, 0).length)
    const square = boundsOf({ title: '', marks: drawing.marks.slice(marks.length) })!
    expect(square.y1).toBeLessThan(boundsOf({ title: '', marks })!.y0)
    const read = new Reader().parseSync(dxfOf(drawing))!
    expect(read.entities.filter((e) => e.type === 'CIRCLE').length).toBe(holes.value + baffle.returns)
  }
  for (const [wide, hole] of [
    [15.9, 16],
    [15.9, 0.5],
    [NaN, 4],
    [60, 2],
  ] as const)
    expect(holesFor(wide, hole).ok).toBe(false)
})
