/** One comparison with the world outside, told so that a test can run it and a document print it. */
export type Check = {
  readonly group: string
  readonly what: string
  /** where the expected value is from; "from memory" where the page was not at hand */
  readonly source: string
  readonly unit?: string
  readonly expected: number | readonly [low: number, high: number]
  readonly got: number
  /** share of the expected value that it may be off; a range allows itself */
  readonly within: number
}

export const passes = (c: Check): boolean =>
  typeof c.expected === 'number'
    ? Math.abs(c.got - c.expected) <= c.within * Math.abs(c.expected)
    : c.got >= c.expected[0] && c.got <= c.expected[1]

type Row = Omit<Check, 'group' | 'source' | 'within'> & { readonly within?: number }
/** Several checks of one group and source. */
export const checks = (group: string, source: string, within: number, rows: readonly Row[]): Check[] =>
  rows.map((r) => ({ group, source, within, ...r }))
