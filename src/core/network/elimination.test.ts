/** Sparse elimination against the dense one with exchange of rows, on matrices such as networks make. */
import { uniforms } from '../random'
import { eliminator } from './elimination'
import { solveLinear } from './linear'

const draw = uniforms(7)
type Pair = readonly [number, number]

/** A tree of n joints with some loops, and the matrix of conductances between them, each of its own size for either end. */
function network(n: number, loops: number): { pairs: Pair[]; a: Float64Array } {
  const pairs: Pair[] = []
  for (let k = 1; k < n; k++) pairs.push([Math.floor(draw() * k), k])
  for (let k = 0; k < loops; k++) pairs.push([Math.floor(draw() * n), Math.floor(draw() * n)])
  const a = new Float64Array(n * n)
  for (const [i, j] of pairs) {
    if (i === j) continue
    const [one, other] = [10 ** (6 * draw() - 9), 10 ** (6 * draw() - 9)]
    a[i * n + i]! += one
    a[j * n + i]! -= one
    a[j * n + j]! += other
    a[i * n + j]! -= other
  }
  for (let k = 0; k < n; k++) if (draw() < 0.3 || k === 0) a[k * n + k]! += 10 ** (6 * draw() - 9)
  return { pairs, a }
}

test('networks of any shape come out as by the dense elimination', () => {
  for (let round = 0; round < 300; round++) {
    const n = 1 + Math.floor(draw() * 25)
    const { pairs, a } = network(n, Math.floor(draw() * n))
    const b = Float64Array.from({ length: n }, () => 2 * draw() - 1)
    const [sparse, dense] = [b.slice(), b.slice()]
    expect(eliminator(n, pairs)(a.slice(), sparse)).toBe(true)
    expect(solveLinear(a.slice(), dense, n)).toBe(true)
    // both leave the equations balanced to rounding
    for (let i = 0; i < n; i++) {
      let [left, size] = [-b[i]!, 0]
      for (let j = 0; j < n; j++) {
        left += a[i * n + j]! * sparse[j]!
        size += Math.abs(a[i * n + j]! * sparse[j]!)
      }
      expect(Math.abs(left)).toBeLessThan(1e-12 * size + 1e-15)
    }
    sparse.forEach((x, k) => expect(Math.abs(x - dense[k]!)).toBeLessThan(1e-6 * Math.abs(dense[k]!) + 1e-9))
  }
})

test('a tree fills in nowhere', () => {
  const { pairs, a } = network(20, 0)
  const joined = new Set(pairs.flatMap(([i, j]) => [i * 20 + j, j * 20 + i]))
  eliminator(20, pairs)(a, new Float64Array(20).fill(1))
  a.forEach((v, k) => {
    if (k % 21 !== 0 && !joined.has(k)) expect(v).toBe(0)
  })
})

test('a pivot that needs rows exchanged is refused, not divided by', () => {
  const pairs: Pair[] = [[0, 1]]
  expect(eliminator(2, pairs)(Float64Array.of(1e-9, 1, 1, 1), Float64Array.of(1, 1))).toBe(false)
  expect(eliminator(1, [])(Float64Array.of(0), Float64Array.of(1))).toBe(false)
  expect(eliminator(1, [])(Float64Array.of(Number.NaN), Float64Array.of(1))).toBe(false)
})
