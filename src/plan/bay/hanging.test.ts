/** What holds a can: the thinnest strip that does not ring within the engine's speeds, by the frequency of a beam with a mass. */
import { ALLOYS } from '../catalogue/alloys'
import { STRIP_WIDTH, supportFor } from './hanging'

const engine = { cylinders: 4, idleRpm: 850, ratedRpm: 6000 }
/** Twice a turn at 6 000 rpm, a fifth clear of it. */
const LEAST_HZ = 1.2 * 200
const THICKNESSES = [2, 3, 4, 5, 6].map((t) => t / 1000)
const [{ youngs, density }] = ALLOYS as [(typeof ALLOYS)[number]]

/** Blevins, Formulas for Natural Frequency (from memory): a cantilever, and a beam held at both ends with the mass in its middle. */
function ringsHz(t: number, lengthM: number, massKg: number, supports: 1 | 2): number {
  const [stiffness, share] = supports === 1 ? [3, 33 / 140] : [192, 13 / 35]
  const k = (stiffness * youngs * ((STRIP_WIDTH * t ** 3) / 12)) / lengthM ** 3
  return Math.sqrt(k / (massKg + share * STRIP_WIDTH * t * lengthM * density)) / (2 * Math.PI)
}
const mounts = (...away: readonly number[]) => away.map((awayM) => ({ awayM }))

test.each([0.2, 0.3, 0.4])('of %f kg on one mount 45 mm off: no thinner strip would do', (massKg) => {
  const support = supportFor(engine, mounts(0.045), { massKg })!
  const thinnest = THICKNESSES.find((t) => ringsHz(t, 0.045, massKg, 1) > LEAST_HZ)
  expect(thinnest).toBeLessThan(0.006)
  expect(support).toMatchObject({
    thicknessM: thinnest,
    supports: 1,
    rings: 'above',
    engineHz: [expect.closeTo(28.33, 1), 200],
  })
  expect(support.ringsHz).toBeCloseTo(ringsHz(thinnest!, 0.045, massKg, 1), 6)
})

test('too heavy for one mount it is held from two, and where that is not enough by the stiffest there is', () => {
  const held = supportFor(engine, mounts(0.05, 0.05), { massKg: 3 })!
  expect(held).toMatchObject({ supports: 2, freeM: 0.1, thicknessM: 0.006, rings: 'above' })
  expect(ringsHz(0.005, 0.1, 3, 2)).toBeLessThan(LEAST_HZ)
  expect(supportFor(engine, mounts(0.05), { massKg: 3 })).toMatchObject({
    supports: 1,
    thicknessM: 0.006,
    rings: 'within',
  })
  expect(supportFor(engine, mounts(0.05, 0.05), { massKg: 0.2, least: 2 })).toMatchObject({ supports: 2 })
  expect(supportFor(engine, [], { massKg: 1 })).toBeUndefined()
})
