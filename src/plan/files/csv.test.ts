/** Tables out and in. */
import Papa from 'papaparse'
import { csvOf, readCsv } from './csv'

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
  const r = readCsv('\uFEFFKm,Date\n\n 12 ,2026-05-01\n', ['date', 'km'])
  expect(r.ok && r.value).toEqual([{ line: 3, cells: { date: '2026-05-01', km: '12' } }])
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
  expect(says('a,b\n"1,2\n3,4')).toMatch(/Line \d/)
})
