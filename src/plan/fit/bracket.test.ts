/** Brackets: their shapes and holes, what the drawing has of them and what the card says. */
import Reader from 'dxf-parser'
import { changeBay } from '../bay/bay-builders'
import { canBody } from '../catalogue/bay-geometry'
import type { Build } from '../document/schema'
import { validateBuild } from '../document/validate'
import { dxfOf } from '../drawing/dxf'
import { activeVariant } from '../edit/edit'
import { newBuild } from '../schools/new-build'
import { after, inReadyBay } from '../testing'
import { firingOrder } from '../bay/hanging'
import { bracketDrawing, bracketFor, EDGE, type BracketPlan } from './bracket'
import { jobCard } from './card'
import { setBracket } from './fit-builders'

const build = (school: string): Build => inReadyBay({ engineClass: 'i5-turbo', use: 'street', school })
const plan = (b: Build) => activeVariant(b)

test('bracket: order 2 of a four, 3 of a six, 4 of an eight; holes keep from edges; the DXF says the same', () => {
  // Heisler, Vehicle and Engine Technology: half the cylinders of a four-stroke
  expect([4, 6, 8].map(firingOrder)).toEqual([2, 3, 4])
  for (const school of ['separator-return', 'both-sides'] as const) {
    const b = build(school)
    const can = plan(b).parts.find((p) => p.kind === 'can')!
    const r = bracketFor(b, plan(b), can.id)
    if (!r.ok) throw new Error(r.reason)
    const { value } = r
    expect(value.bracket.insideRadiusM).toBeGreaterThanOrEqual(
      value.alloy.leastRadius * value.bracket.thicknessM - 1e-12,
    )
    for (const h of value.holes) expect(Math.min(h.atM, value.flatM - h.atM)).toBeGreaterThanOrEqual(h.diameterM)
    expect(EDGE).toBeGreaterThanOrEqual(1)
    expect(value.rings === 'above').toBe(value.ringsHz > 1.2 * value.engineHz[1])
    const read = new Reader().parseSync(dxfOf(bracketDrawing(value)))!
    const circles = read.entities.filter((e) => e.type === 'CIRCLE') as unknown as {
      center: { x: number }
      radius: number
    }[]
    expect(circles.map((c) => [c.center.x, c.radius * 2])).toEqual(
      value.holes.map((h) => [expect.closeTo(h.atM * 1000, 6), expect.closeTo(h.diameterM * 1000, 6)]),
    )
    const outline = read.entities.find((e) => e.layer === 'OUTLINE') as unknown as {
      vertices: { x: number; y: number }[]
    }
    expect(Math.max(...outline.vertices.map((p) => p.x))).toBeCloseTo(value.flatM * 1000, 6)
    expect(Math.max(...outline.vertices.map((p) => p.y))).toBeCloseTo(40, 6)
  }
  const nowhere = newBuild({
    name: 'N',
    engineClass: 'i5-turbo',
    use: 'street',
    ambientC: 10,
    units: 'metric',
    school: 'both-sides',
  })
  expect(bracketFor(nowhere, plan(nowhere), 'can').ok).toBe(false)
})

test('the card says of a bracket what the drawing has: a bend where there is one, a strap where one goes round the can', () => {
  const b = build('vacuum-side-can')
  for (const shape of ['flat', 'L', 'Z', 'ring'] as const) {
    const x = after(b, setBracket('can', { shape }))
    const { value } = bracketFor(x, plan(x), 'can') as { value: BracketPlan }
    const { says } = jobCard(x, plan(x)).steps.find((s) => s.key === 'bracket-can')!
    const lengths = [...says.matchAll(/([\d.]+) mm/g)].map((m) => Number(m[1]))
    const { widthM, thicknessM, insideRadiusM, legsM } = value.bracket
    const bent = legsM.length > 1 ? [insideRadiusM] : []
    const strap = value.strapM === undefined ? [] : [value.strapM]
    const drawn = [value.flatM, widthM, thicknessM, ...bent, ...strap].map((m) => m * 1000)
    expect(lengths.length).toBeGreaterThanOrEqual(drawn.length)
    lengths.slice(0, drawn.length).forEach((mm, k) => expect(Math.abs(mm / drawn[k]! - 1)).toBeLessThan(0.01))
    expect([shape, /bent over/.test(says), /A strap of/.test(says)]).toEqual([shape, bent.length > 0, strap.length > 0])
  }
})

test('brackets: each shape has its legs and bends; a strap is the can’s circumference and two ears; two supports ask for two', () => {
  const b = build('vacuum-side-can')
  const shaped = (shape: BracketPlan['shape']) => {
    const x = after(b, setBracket('can', { shape }))
    return bracketFor(x, plan(x), 'can')
  }
  const body = canBody(b.bay, plan(b).parts.find((p) => p.id === 'can') as never)!
  for (const [shape, legs] of [
    ['flat', 1],
    ['L', 2],
    ['Z', 3],
    ['ring', 2],
  ] as const) {
    const r = shaped(shape)
    if (!r.ok) throw new Error(r.reason)
    expect([shape, r.value.bracket.legsM.length, r.value.bracket.supports]).toEqual([shape, legs, 1])
    const bends = bracketDrawing(r.value).marks.filter((m) => m.kind === 'line' && m.layer === 'bend').length
    expect([shape, bends]).toEqual([shape, legs - 1 + (shape === 'ring' ? 2 : 0)])
    // flat by hand: legs less what each bend saves (Machinery's Handbook, bend allowance at 90 degrees)
    const { legsM, insideRadiusM: i, thicknessM: t, kFactor: k } = r.value.bracket
    const save = 2 * (i + t) - (Math.PI / 2) * (i + k * t)
    expect(r.value.flatM).toBeCloseTo(legsM.reduce((s, l) => s + l, 0) - (legs - 1) * save, 9)
    if (shape === 'ring') expect(r.value.strapM).toBeCloseTo(Math.PI * (2 * body.radiusM + t) + 0.05, 9)
    else expect(r.value.strapM).toBeUndefined()
  }
  const one = after(b, changeBay({ mounts: b.bay!.mounts!.slice(0, 1) }), setBracket('can', { shape: 'between' }))
  const refused = bracketFor(one, plan(one), 'can')
  expect(refused.ok ? '' : refused.reason).toMatch(/second bolt|too far|Enter a bolt/)
  const two = shaped('between')
  if (two.ok) expect(two.value.bracket.supports).toBe(2)
  // kept with the build
  expect(
    validateBuild(JSON.parse(JSON.stringify(after(b, setBracket('can', { shape: 'Z', alloy: 'steel' }))))).ok,
  ).toBe(true)
})
