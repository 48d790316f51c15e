import type { Hose, Network } from '../network/elements'
import { makeHose } from '../network/hose'
import { segmented } from './segments'

const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
const hose = (lengthM: number): Network => ({
  gas,
  nodes: { a: {}, b: { p: 101_325 } },
  elements: [makeHose('h', 'a', 'b', { boreM: 0.02, lengthM, k: 1.2 })],
})
const hosesOf = (n: Network) => n.elements.filter((e): e is Hose => e.kind === 'hose')

test('a hose shorter than a tenth of the wave stays one, a longer one is cut', () => {
  // speed of sound sqrt(gamma R T) = 376.7 m/s: at 150 turns a second a wave is 2.51 m
  expect(hosesOf(segmented(hose(0.2), {}, 150).network)).toHaveLength(1)
  expect(hosesOf(segmented(hose(0.6), {}, 150).network)).toHaveLength(3)
  expect(hosesOf(segmented(hose(0.6), {}, 25).network)).toHaveLength(1)
})

test('length, losses and the gas inside are the same whole, and the pieces stand in a row', () => {
  const { network, volumes } = segmented(hose(0.9), { a: 1e-3 }, 150)
  const pieces = hosesOf(network)
  const sum = (of: (h: Hose) => number) => pieces.reduce((s, h) => s + of(h), 0)
  expect(sum((h) => h.lengthM)).toBeCloseTo(0.9, 12)
  expect(sum((h) => h.kFixed)).toBeCloseTo(1.2, 12)
  const gasM3 = (Math.PI * 0.02 ** 2 * 0.9) / 4
  expect(Object.values(volumes).reduce((s, v) => s + v, 0)).toBeCloseTo(1e-3 + gasM3, 12)
  pieces.slice(1).forEach((h, k) => expect(h.from).toBe(pieces[k]!.to))
  expect([pieces[0]!.from, pieces.at(-1)!.to, pieces[0]!.id]).toEqual(['a', 'b', 'h'])
})
