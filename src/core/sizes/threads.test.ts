/** Threads by name: what is in the tables, what can be calculated, and what is refused in words. */
import { threadOf, threadSource } from './threads'

const mm = (form: Parameters<typeof threadOf>[0], size: string) => {
  const found = threadOf(form, size)
  if (!found.ok) throw new Error(found.reason)
  const { majorM, pitchM, tapDrillM } = found.value
  return [majorM, pitchM, tapDrillM ?? 0].map((v) => Math.round(v * 1e5) / 100)
}

test('metric: major and pitch by name, the drill their difference (ISO 2306), coarse where no pitch is named (ISO 261)', () => {
  expect(mm('metric', 'M16x1.5')).toEqual([16, 1.5, 14.5])
  expect(mm('metric', 'M8')).toEqual([8, 1.25, 6.75])
  expect(mm('metric', ' m12 X 1.25 ')).toEqual([12, 1.25, 10.75])
  expect(mm('metric', 'M10×1')).toEqual([10, 1, 9])
  expect(mm('metric', 'M16x0.75')).toEqual([16, 0.75, 15.25])
  expect(mm('metric', 'M2.5x0.45')).toEqual([2.5, 0.45, 2.05])
})

test.each([
  '',
  'M',
  '16x1.5',
  'M16x',
  'M16x1.5 left',
  'XM16x1.5',
  'M7.3',
  'M16x0',
  'M16x16',
  'M16x20',
  'M16,5',
  'M1.x2',
])('metric %p is refused by name', (size) => {
  const found = threadOf('metric', size)
  expect(found.ok ? 'found' : found.reason).toBe(`There is no metric thread ${size} in the tables.`)
})

test('flare and boss by dash size, never cut by hand; pipe with its drill (SAE J514, ASME B1.20.1, from memory)', () => {
  expect(mm('37 degree flare', '-10')).toEqual([22.23, 1.81, 0])
  expect(mm('O-ring boss', '-6')).toEqual([14.29, 1.41, 0])
  expect(mm('pipe', '1/8')[1]).toBeCloseTo(25.4 / 27, 2)
  expect(mm('pipe', '1/8')[2]).toBeGreaterThan(8)
  for (const form of ['pipe', '37 degree flare', 'O-ring boss'] as const) expect(threadOf(form, '9/7').ok).toBe(false)
})

test('each table names its source', () => {
  expect(threadSource('metric')).toMatch(/ISO/)
  expect(threadSource('pipes')).toMatch(/ASME/)
  expect(threadSource('dashes')).toMatch(/SAE/)
})
