/** Tables out and in: one way for every station. */
import Papa from 'papaparse'
import { fail, ok, type Result } from '@/core/result'

export type CsvCell = string | number | undefined

/** What a spreadsheet would work out; a plain number with its sign is none. */
const FORMULA = /^(?:[=@\t\r]|[+-](?![\d.]+(?:e[+-]?\d+)?$))/i

/**
 * A table as CSV. What a spreadsheet would take for a formula (a text that begins with = + - @) is made harmless.
 *
 * @example
 * import { csvOf } from '@/plan/files/csv'
 *
 * console.log(csvOf([['Part', 'mm'], ['can', 5]])) // 'Part,mm\r\ncan,5'
 */
export const csvOf = (rows: readonly (readonly CsvCell[])[]): string =>
  Papa.unparse(
    rows.map((r) => r.map((c) => c ?? '')),
    { escapeFormulae: FORMULA },
  )

/** A CSV parsed, a mark at its head left out. */
const parse = (text: string) => Papa.parse<string[]>(text.replace(/^\uFEFF/, ''))
/** Rows and cells of a CSV as they stand, a mark at its head left out. */
export const tableOf = (text: string): readonly (readonly string[])[] => parse(text.trimEnd()).data

export type CsvRow = { readonly line: number; readonly cells: Readonly<Record<string, string>> }

/** Errors listed one by one; of more, the count. */
const MOST_LISTED = 5

/** Problems of a file by line, the first few and how many more. */
export const byLine = (problems: readonly { readonly line: number; readonly says: string }[]): string =>
  [
    ...problems.slice(0, MOST_LISTED).map((p) => `Line ${p.line}: ${p.says}`),
    ...(problems.length > MOST_LISTED ? [`and ${problems.length - MOST_LISTED} more.`] : []),
  ].join(' ')

/**
 * Rows of a CSV with the columns that are asked for, by their heads in any order and case, empty lines left out; fails with every line that
 * is not of them.
 *
 * @example
 * import { readCsv } from '@/plan/files/csv'
 *
 * console.log(readCsv('a,b\n1,2', ['a', 'b']).value[0].cells.b) // '2'
 */
export function readCsv(text: string, columns: readonly string[]): Result<readonly CsvRow[]> {
  const parsed = parse(text)
  const [head, ...rest] = parsed.data
  if (!head || head.every((c) => c.trim() === '')) return fail('The file is empty.')
  const heads = head.map((c) => c.trim().toLowerCase())
  const missing = columns.filter((c) => !heads.includes(c.toLowerCase()))
  if (missing.length > 0)
    return fail(`Line 1: the column ${missing.join(', ')} is missing. It needs ${columns.join(', ')}.`)
  // that one cell a line leaves the separator open is no error
  const problems = parsed.errors
    .filter((e) => e.type !== 'Delimiter')
    .map((e) => ({ line: (e.row ?? 0) + 1, says: e.message.endsWith('.') ? e.message : `${e.message}.` }))
  const rows = rest.flatMap((cells, i): CsvRow[] => {
    if (cells.every((c) => c.trim() === '')) return []
    if (cells.length !== head.length)
      problems.push({ line: i + 2, says: `has ${cells.length} cells, the head has ${head.length}.` })
    const at = (c: string) => (cells[heads.indexOf(c.toLowerCase())] ?? '').trim().replace(/^'(?=[=+\-@])/, '')
    return [{ line: i + 2, cells: Object.fromEntries(columns.map((c) => [c, at(c)])) }]
  })
  return problems.length > 0 ? fail(byLine(problems)) : ok(rows)
}
