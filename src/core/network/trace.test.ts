import { traceGas } from './trace'

const streams = [
  { id: 'a', from: 'in', to: 'mix', flow: 3e-3 },
  { id: 'b', from: 'mix', to: 'other', flow: -1e-3 },
  { id: 'c', from: 'mix', to: 'left', flow: 1e-3 },
  { id: 'd', from: 'mix', to: 'right', flow: 3e-3 },
]
const sources = [
  { origin: 'x', joint: 'in', flow: 3e-3 },
  { origin: 'y', joint: 'other', flow: 1e-3 },
]

test('gas of two origins mixes at a joint and leaves by every way in the same shares', () => {
  const t = traceGas(streams, sources)
  expect(t.shareAt('mix', 'x')).toBeCloseTo(0.75, 9)
  expect(t.arriving('left', 'x')).toBeCloseTo(0.75e-3, 12)
  expect(t.arriving('right', 'y')).toBeCloseTo(0.75e-3, 12)
  expect(t.inStream('b', 'y')).toBeCloseTo(1e-3, 12)
  expect(t.inStream('b', 'x')).toBe(0)
})

test('what enters leaves: every origin is found again at the ends', () => {
  const t = traceGas(streams, sources)
  for (const { origin, flow } of sources)
    expect(t.arriving('left', origin) + t.arriving('right', origin)).toBeCloseTo(flow, 11)
})

test('an origin ends in a stream that stops it', () => {
  const t = traceGas(streams, sources, (id, origin) => id === 'd' && origin === 'x')
  expect(t.arriving('right', 'x')).toBe(0)
  expect(t.arriving('right', 'y')).toBeCloseTo(0.75e-3, 12)
})

test('gas that a pump sends round settles: a loop that returns half', () => {
  const t = traceGas(
    [
      { id: 'in', from: 's', to: 'j', flow: 1e-3 },
      { id: 'up', from: 'j', to: 'k', flow: 2e-3 },
      { id: 'back', from: 'k', to: 'j', flow: 1e-3 },
      { id: 'out', from: 'k', to: 'e', flow: 1e-3 },
    ],
    [{ origin: 'x', joint: 's', flow: 1e-3 }],
  )
  expect(t.shareAt('k', 'x')).toBeCloseTo(1, 6)
  expect(t.arriving('e', 'x')).toBeCloseTo(1e-3, 9)
})
