/** Sorting by dominance against its definition, tried one by one, and the worked room of a front. */
import { uniforms } from '../random'
import { crowdingOf, dominates, farApart, frontOf, frontsOf, type Scored } from './pareto'

const uniform = uniforms(9)
const drawn = (count: number): Scored[] =>
  Array.from({ length: count }, () => ({
    objectives: [Math.floor(8 * uniform()), Math.floor(8 * uniform()), Math.floor(8 * uniform())],
    broken: uniform() < 0.2 ? Math.ceil(3 * uniform()) : 0,
  }))

test('the first front is what none is better than; each next one is that of what is left', () => {
  const all = drawn(120)
  let left = [...all.keys()]
  for (const front of frontsOf(all)) {
    const by = left.filter((i) => !left.some((j) => dominates(all[j]!, all[i]!)))
    expect([...front]).toEqual(by)
    left = left.filter((i) => !front.includes(i))
  }
  expect(left).toEqual([])
})

test('what breaks a constraint is worse than anything that breaks none, and than what breaks less', () => {
  const scored = (broken: number): Scored => ({ objectives: [9 - broken], broken })
  const [sound, little, much] = [scored(0), scored(1), scored(2)]
  expect([dominates(sound, little), dominates(little, much), dominates(much, sound)]).toEqual([true, true, false])
})

test('of two that break as much, neither is better, whatever else they are', () => {
  const [good, bad] = [1, 2].map((objective): Scored => ({ objectives: [objective], broken: 1 }))
  expect([dominates(good!, bad!), dominates(bad!, good!)]).toEqual([false, false])
})

test('ends of a front have all the room there is; one between has the box about it', () => {
  const front = [
    [0, 10],
    [2, 4],
    [6, 1],
    [10, 0],
  ].map((objectives) => ({ objectives, broken: 0 }))
  expect([...crowdingOf(front)]).toEqual([Infinity, 0.6 + 0.9, 0.8 + 0.4, Infinity])
})

test('far apart: the corners before the middle', () => {
  const points = [
    [0, 0],
    [5, 5],
    [10, 10],
    [0, 10],
    [1, 1],
  ] as const
  const distance = (a: readonly number[], b: readonly number[]) => Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!)
  expect(farApart(points, 3, distance)).toEqual([points[0], points[2], points[3]])
})

test('the first front alone is the first of all fronts, with walls and equals among them', () => {
  for (let n = 0; n < 20; n++) {
    const all = drawn(90)
    expect(frontOf(all)).toEqual([...(frontsOf(all)[0] ?? [])])
  }
  expect(frontOf([])).toEqual([])
})

test('of two that break nothing the one that is as good in all and better in one is better', () => {
  const sound = (...objectives: number[]): Scored => ({ objectives, broken: 0 })
  expect(dominates(sound(1, 2), sound(1, 3))).toBe(true)
  expect(dominates(sound(1, 3), sound(1, 2))).toBe(false)
  expect(dominates(sound(1, 2), sound(1, 2))).toBe(false)
  expect(dominates(sound(0, 3), sound(1, 2))).toBe(false)
})
