/** How a logger's file is written: what stands before its table, separator, decimal mark, heads and units. Told from its first lines. */
import Papa from 'papaparse'
import { fail, ok, type Result } from '@/core/result'

export type TableFormat = {
  readonly separator: ',' | ';' | '\t'
  /** figures have a comma where others have a point */
  readonly decimalComma: boolean
  /** lines before the first row of figures */
  readonly skip: number
  readonly heads: readonly string[]
  readonly units: readonly string[]
  /** what stands above the heads */
  readonly preamble: readonly string[]
}

const SEPARATORS = ['\t', ';', ','] as const
/** Lines that are looked at. */
const LOOKED_AT = 200
/** Columns that a file may have. */
export const MAX_COLUMNS = 64

const NUMBER = /^[+-]?(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d+)?$/i
/** A time of day or of a calendar, as loggers write it. */
const TIME = /^(\d{4}-\d\d?-\d\d?([T ]\S+)?|\d{1,2}[./]\d{1,2}[./]\d{2,4}( \S+)?|\d+:\d\d(:\d\d)?([.,]\d+)?)Z?$/
const isFigure = (cell: string) => NUMBER.test(cell) || TIME.test(cell)
const isEmpty = (cell: string) => cell === '' || /^(-+|nan|null|n\/a|none)$/i.test(cell)

/** Units of a row or of brackets, as patterns; a dash stands for none. */
const UNITS = [
  's|ms|sec|min|h|us',
  'k?pa(g|a| abs)?|hpa|m?bar( ?abs)?|psi[ag]?|inhg|inh2o|mmhg|cmh2o',
  'rpm|1/min|%|°?[cfk]|deg ?[cfk]?|km/h|kmh|kph|mph|m/s',
  'lambda|v|mv|a|hz|l/min|g|-',
].join('|')
const UNIT = new RegExp(String.raw`^[[(]?(${UNITS})?[\])]?$`, 'i')
const isUnit = (cell: string) => UNIT.test(cell.trim())

/** Cells of one line. */
export const cellsOf = (line: string, separator: string): string[] =>
  (line.includes('"')
    ? (Papa.parse<string[]>(line, { delimiter: separator }).data[0] ?? [])
    : line.split(separator)
  ).map((c) => c.trim())

type Tried = {
  readonly separator: TableFormat['separator']
  readonly first: number
  readonly columns: number
  readonly rows: number
}

/** Where rows of figures begin with a separator, and how many of the lines looked at are such rows. */
function tryWith(lines: readonly string[], separator: TableFormat['separator']): Tried {
  const rows = lines.map((line) => cellsOf(line, separator))
  const isRow = (cells: readonly string[]) =>
    cells.length > 1 && cells.some(isFigure) && cells.every((c) => isFigure(c) || isEmpty(c))
  // the width that most rows of figures have; a mark at the end of each line makes an empty last cell
  const widths = new Map<number, number>()
  for (const cells of rows) if (isRow(cells)) widths.set(cells.length, (widths.get(cells.length) ?? 0) + 1)
  const [columns, count] = [...widths].toSorted((a, b) => b[1] - a[1])[0] ?? [0, 0]
  const first = rows.findIndex((cells) => cells.length === columns && isRow(cells))
  return { separator, first, columns, rows: count }
}

/** "MAP (kPa)" and "MAP [kPa]" as head and unit. */
function splitHead(head: string): readonly [name: string, unit: string] {
  const found = /^(.*\S)\s*[[(]([^\])]*)[\])]$/.exec(head)
  if (found && (isUnit(found[2]!) || found[2]!.length <= 8)) return [found[1]!, found[2]!.trim()]
  const spaced = /^(.*\S)[\s_,]+(\S+)$/.exec(head)
  return spaced && isUnit(spaced[2]!) && spaced[2]! !== '-' ? [spaced[1]!, spaced[2]!] : [head, '']
}

/**
 * How a file is written, from its beginning.
 *
 * @example
 * import { tableFormat } from '@/plan/recordings/table-format'
 *
 * console.log(tableFormat('Time;MAP (kPa)\n0,0;35,1\n0,1;35,2').value.units) // [ '', 'kPa' ]
 */
export function tableFormat(beginning: string): Result<TableFormat> {
  const lines = beginning.split(/\r\n|\n|\r/).slice(0, LOOKED_AT)
  const best = SEPARATORS.map((s) => tryWith(lines, s)).reduce((a, b) =>
    b.rows * b.columns > a.rows * a.columns ? b : a,
  )
  if (best.rows === 0)
    return fail('No rows of figures were found in it: a logger’s file has a row of heads and rows of figures below it.')
  if (best.columns > MAX_COLUMNS) return fail(`It has ${best.columns} columns; up to ${MAX_COLUMNS} can be read.`)
  const { separator, first, columns } = best
  const figures = lines.slice(first).flatMap((l) => cellsOf(l, separator))
  const decimalComma =
    separator !== ',' && figures.some((c) => /\d,\d/.test(c)) && !figures.some((c) => /^[+-]?\d+\.\d+$/.test(c))
  const above = lines.slice(0, first)
  const cellsAbove = (up: number) => {
    const line = above.at(-up)
    const cells = line === undefined || line.trim() === '' ? [] : cellsOf(line, separator)
    return cells.length === columns ? cells : undefined
  }
  const [last, before] = [cellsAbove(1), cellsAbove(2)]
  const unitRow = last && before && last.every(isUnit) && !before.every(isUnit) ? last : undefined
  const headRow = unitRow ? before : last
  const split = (headRow ?? Array.from({ length: columns }, (_, k) => `Column ${k + 1}`)).map(splitHead)
  const used = (headRow ? 1 : 0) + (unitRow ? 1 : 0)
  return ok({
    separator,
    decimalComma,
    skip: first,
    heads: split.map(([name], k) => (name === '' ? `Column ${k + 1}` : name).slice(0, 60)),
    units: split.map(([, unit], k) => (unitRow?.[k] || unit).replaceAll(/^[[(]|[\])]$/g, '').slice(0, 20)),
    preamble: above.slice(0, above.length - used).filter((l) => l.trim() !== ''),
  })
}
