import { formatNumber, formatQuantity } from './format'
import { parseQuantity } from './parse'
import { DIMENSIONS, fromSi, toSi, type Dimension } from './units'

const metric = { system: 'metric', pressure: 'kPa', flow: 'l/min' } as const
const imperial = { system: 'imperial', pressure: 'inHg', flow: 'cfm' } as const

test('conversions agree with NIST SP 811, appendix B (from memory)', () => {
  expect(toSi('pressure', 1, 'psi')).toBeCloseTo(6894.757, 3)
  expect(toSi('pressure', 1, 'inHg')).toBeCloseTo(3386.389, 2) // at 0 C
  expect(toSi('pressure', 1, 'inH2O')).toBeCloseTo(249.0889, 3) // conventional
  expect(toSi('length', 5 / 8, 'in')).toBeCloseTo(0.015875, 12)
  expect(toSi('temperature', 212, 'F')).toBeCloseTo(373.15, 9)
  expect(fromSi('gasFlow', toSi('gasFlow', 1, 'cfm'), 'l/min')).toBeCloseTo(28.316847, 5)
})

test('every unit goes to SI and back', () => {
  for (const d of Object.keys(DIMENSIONS) as Dimension[])
    for (const u of Object.keys(DIMENSIONS[d])) expect(fromSi(d, toSi(d, 12.5, u), u)).toBeCloseTo(12.5, 9)
})

test.each([
  ['5/8 in', 'length', 0.015875],
  ['1 1/2 in', 'length', 0.0381],
  ['15.9', 'length', 0.0159],
  ['15,9 mm', 'length', 0.0159],
  ['5/8"', 'length', 0.015875],
  ['12 inHg', 'pressure', 40636.668],
  ['-0.5', 'pressure', -500],
  ['−0.5 kPa', 'pressure', -500],
  ['12 psi', 'pressure', 82737.084],
  ['12 500 km', 'distance', 12.5e6],
  ['90 ml', 'volume', 90e-6],
  ['20 °C', 'temperature', 293.15],
  ['3e2 mm', 'length', 0.3],
  ['100 lpm', 'gasFlow', 2.006865e-3],
] as const)('reads %s', (text, dimension, si) => {
  const r = parseQuantity(text, dimension, metric)
  expect(r.ok && r.value).toBeCloseTo(si, 6)
})

test('a bare number is in the unit that is shown', () => {
  const r = parseQuantity('12', 'pressure', imperial)
  expect(r.ok && r.value).toBeCloseTo(40636.668, 2)
})

test.each([
  ['', /Type a number/],
  ['abc', /not a number/],
  ['12 furlongs', /not a unit here. Use/],
  ['1/0 in', /not a number/],
  ['12 kPa', /not a unit here/],
  ['NaN', /not a number/],
  ['1e999', /not a number/],
  ['--5', /not a number/],
])('refuses %p with a sentence', (text, reason) => {
  const r = parseQuantity(text, 'length', metric)
  expect(r.ok ? 'read' : r.reason).toMatch(reason)
})

test.each([
  [-0.8734, 2, '−0.87'],
  [0, 3, '0'],
  [-0.0001, 3, '0'],
  [123.456, 3, '123'],
  [15250, 3, '15 300'],
  [0.0049, 3, '0.005'],
  [Number.NaN, 3, '–'],
  [Infinity, 3, '–'],
  [5694, 2, '5700'],
  [99.97, 3, '100'],
  [9.996, 3, '10.0'],
  [99.94, 3, '99.9'],
  [0.9996, 3, '1.00'],
])('prints %p at %p digits as %s', (value, digits, text) => {
  expect(formatNumber(value, digits).replaceAll(' ', ' ')).toBe(text)
})

test('a pressure has no more decimals than a gauge', () => {
  expect(formatQuantity(-5.4, 'pressure', metric, 2)).toEqual({ text: '−0.01', unit: 'kPa' })
})
