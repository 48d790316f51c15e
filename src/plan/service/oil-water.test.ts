import { saturationPressure } from '@/core/water/vapour'
import { figuresOf } from '../model/figures'
import { newBuild } from '../schools/new-build'
import { waterWay } from '../studies/water-way'
import { waterIntoOil } from './oil-water'

const at = (ambientC: number, use: 'street' | 'track' = 'street') => {
  const b = newBuild({ name: 'Hill', engineClass: 'i4-turbo', use, ambientC, units: 'metric' })
  return waterIntoOil(b, figuresOf(b))!
}

test('a cold crankcase keeps what its gas holds above saturation, and the colder it is the more', () => {
  // gas of 5.6 % water at most (40 % burnt of 12.6 %, and the air's own) is saturated at 35 C: walls of a 20 C day stay dry but for a trace
  expect(saturationPressure(308.15) / 101_325).toBeCloseTo(0.0556, 3)
  expect(at(25)).toBe(0)
  expect(at(10)).toBeGreaterThan(0)
  expect(at(-10)).toBeGreaterThan(1.5 * at(10))
  // a tenth of the water that a litre of petrol makes would be 100 ml a tank: a litre in 1 000 km is out of reach
  expect(at(-10) * 1e12).toBeLessThan(1000)
})

test('a car that is trailered to the track leaves less in its oil than one that is driven there', () => {
  expect(at(0, 'track')).toBeLessThan(at(0))
})

test('water that comes to a can is all accounted for: hoses, can, and what goes on; longer hoses take more of it', () => {
  const b = newBuild({
    name: 'x',
    engineClass: 'i5-turbo',
    use: 'street',
    ambientC: -20,
    units: 'metric',
    school: 'breather-side-can',
  })
  const variant = b.variants[0]!
  const id = variant.parts.find((p) => p.kind === 'can')!.id
  const of = (v: typeof variant) => {
    const f = figuresOf({ ...b, variants: [v] })
    return f.states.flatMap((s) => (s.solved ? [waterWay(v, s, id, f.engine)!] : [])).filter((w) => w !== undefined)
  }
  const ways = of(variant)
  expect(ways.length).toBeGreaterThan(2)
  for (const w of ways) {
    expect(w.hoses + w.can + w.goesOn).toBeCloseTo(w.comes, 15)
    for (const v of Object.values(w)) expect(v).toBeGreaterThanOrEqual(0)
  }
  const long = of({
    ...variant,
    lines: variant.lines.map((l) => (l.kind === 'hose' ? { ...l, lengthMm: l.lengthMm + 3000 } : l)),
  })
  const share = (list: typeof ways) => list.reduce((s, w) => s + w.hoses, 0) / list.reduce((s, w) => s + w.comes, 0)
  expect(share(long)).toBeGreaterThan(share(ways))
})

test('a fuel that makes more water leaves more of it', () => {
  const b = newBuild({ name: 'Hill', engineClass: 'i4-turbo', use: 'street', ambientC: 0, units: 'metric' })
  const left = (fuel: 'petrol' | 'e85' | 'ethanol' | 'methanol') => {
    const fuelled = { ...b, engine: { ...b.engine, fuel } }
    return waterIntoOil(fuelled, figuresOf(fuelled))!
  }
  const amounts = (['petrol', 'e85', 'ethanol', 'methanol'] as const).map(left)
  expect(amounts).toEqual(amounts.toSorted((x, y) => x - y))
  expect(amounts[3]).toBeGreaterThan(2 * amounts[0]!)
  expect(waterIntoOil(b, figuresOf(b))).toBe(amounts[0])
})
