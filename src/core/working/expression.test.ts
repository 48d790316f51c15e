import { evaluateExpression } from './expression'

const values = (of: Record<string, number>) => (symbol: string) => of[symbol]
const value = (text: string, of: Record<string, number> = {}): number => {
  const r = evaluateExpression(text, values(of))
  if (!r.ok) throw new Error(r.reason)
  return r.value
}

test.each([
  ['2 + 3·4', 14],
  ['(2 + 3)·4', 20],
  ['2^3^2', 512],
  ['−2^2', -4],
  ['8/4/2', 1],
  ['7 − 2 − 1', 4],
  ['√(16) + log₁₀(1000)', 7],
  ['max(1; 5; 3)·min(2; 4)', 10],
  ['1.5e-3·2e3', 3],
  ['abs(−4) + exp(0) + ln(1) + sin(0)', 5],
])('%s is %p', (text, expected) => {
  expect(value(text)).toBeCloseTo(expected, 12)
})

test('symbols with subscripts and Greek letters are looked up', () => {
  expect(value('4·m/(π·D·μ)', { m: 1e-3, D: 0.0159, μ: 2e-5 })).toBeCloseTo(4003.9, 0)
  expect(value('p₁^2 − p₂^2', { 'p₁': 3, 'p₂': 2 })).toBe(5)
})

test.each([['2 +'], ['(2'], ['x·2'], ['2 2'], ['2 ? 3'], ['√(4']])('%s is refused in words', (text) => {
  const r = evaluateExpression(text, () => undefined)
  expect(r.ok).toBe(false)
  if (!r.ok) expect(r.reason.length).toBeGreaterThan(5)
})
