/** Tables out and in. */
import Papa from 'papaparse'
import { byLine, csvOf, readCsv } from './csv'

test('what a spreadsheet would work out is made harmless, numbers stay numbers', () => {
  const text = csvOf([
    ['a', 'b'],
    ['=1+1', -0.5],
    ['-12 O-ring boss', '-0.5'],
    ['@x', '+3'],
    ['-2+3', undefined],
  ])
  expect(Papa.parse<string[]>(text).data).toEqual([
    ['a', 'b'],
    ["'=1+1", '-0.5'],
    ["'-12 O-ring boss", '-0.5'],
    ["'@x", '+3'],
    ["'-2+3", ''],
  ])
  const back = readCsv(text, ['a', 'b'])
  expect(back.ok && back.value.map((r) => r.cells['a'])).toEqual(['=1+1', '-12 O-ring boss', '@x', '-2+3'])
})

test('columns are found by their heads, in any order and case; a mark at the head of the file does not hide one', () => {
  const r = readCsv('\uFEFFKm , Date\n\n 12 ,2026-05-01\n , \n\n', ['date', 'km'])
  expect(r.ok && r.value).toEqual([{ line: 3, cells: { date: '2026-05-01', km: '12' } }])
  const inside = readCsv('a,b\n1\uFEFF2,3', ['a', 'b'])
  expect(inside.ok && inside.value[0]?.cells['a']).toBe('1\uFEFF2')
})

test('what is no such table is refused with every line that is wrong', () => {
  const says = (text: string) => {
    const r = readCsv(text, ['a', 'b'])
    return r.ok ? 'read' : r.reason
  }
  expect(says('')).toMatch(/empty/)
  expect(says('a,c\n1,2')).toMatch(/Line 1: the column b is missing/)
  expect(says('a,b\n1,2,3\n1\n1,2')).toMatch(/Line 2: has 3 cells.*Line 3: has 1 cells/)
  expect(says(`a,b\n${'1\n'.repeat(9)}`)).toMatch(/and 4 more/)
  expect(says('a,b\n5,6\n"1,2\n3,4')).toMatch(/^Line 3: [^.]+\. /)
})

test('of many wrong lines the first five are named, and how many more there are', () => {
  const wrong = (count: number) => byLine(Array.from({ length: count }, (_, k) => ({ line: k + 2, says: 'is wrong.' })))
  expect(wrong(2)).toBe('Line 2: is wrong. Line 3: is wrong.')
  expect(wrong(5).match(/Line \d/g)).toEqual(['Line 2', 'Line 3', 'Line 4', 'Line 5', 'Line 6'])
  expect(wrong(5)).not.toMatch(/more/)
  expect(wrong(6).match(/Line \d/g)).toHaveLength(5)
  expect(wrong(6)).toMatch(/and 1 more\.$/)
})
