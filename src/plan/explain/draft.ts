/**
 * A working as it is written down: numbers that are given, steps in printed symbols that are worked out from them, and checks that a hand can
 * make. A step's value comes from the very expression that is printed.
 */
import { evaluateExpression } from '@/core/working/expression'
import type { Dimension } from '@/core/units/units'

/** A number in SI, by its dimension. */
export type FigureQuantity = { readonly si: number; readonly dimension: Dimension | 'number' }
/** Where a number comes from: a law's own constant; what only the solver gives; what was worked out before. */
export type Origin = 'measured' | 'entered' | 'learned' | 'estimated' | 'computed' | 'solved' | 'constant'

export type Given = {
  readonly symbol: string
  readonly name: string
  readonly value: FigureQuantity
  readonly origin: Origin
}
export type Step = {
  readonly symbol: string
  readonly name: string
  readonly expression: string
  readonly value: FigureQuantity
}
/** Two expressions that are equal where the solver is right. */
export type HandCheck = {
  readonly says: string
  readonly left: string
  readonly right: string
  /** values of both, SI */
  readonly values: readonly [left: number, right: number]
}
export type WorkingLine = Given | Step
/** Whether a line of a working is worked out from others. */
export const isStep = (line: WorkingLine): line is Step => 'expression' in line

type Dim = Dimension | 'number'
export type Draft = {
  readonly lines: readonly WorkingLine[]
  readonly checks: readonly HandCheck[]
  /** a number that is given, in SI; its symbol, which is told apart by a mark where it stands already for another */
  readonly given: (symbol: string, name: string, si: number, of: { dimension: Dim; origin: Origin }) => string
  /** a constant of the law */
  readonly constant: (symbol: string, name: string, si: number, dimension?: Dim) => string
  /** a step: its value follows from the expression */
  readonly step: (symbol: string, name: string, expression: string, dimension?: Dim) => string
  readonly check: (says: string, left: string, right: string) => void
  /** value of a symbol, SI */
  readonly value: (symbol: string) => number
}

/** Small digits, for a symbol of many: m₁₂. */
export const sub = (n: number): string => String(n).replaceAll(/\d/g, (d) => '₀₁₂₃₄₅₆₇₈₉'[Number(d)]!)

/** An empty draft. */
export function makeDraft(): Draft {
  const lines: WorkingLine[] = []
  const checks: HandCheck[] = []
  const values = new Map<string, number>()
  const evaluate = (expression: string): number => {
    const r = evaluateExpression(expression, (symbol) => values.get(symbol))
    // an expression that names what is not there is a slip in this code, not of a builder
    if (!r.ok) throw new RangeError(`${expression}: ${r.reason}`)
    return r.value
  }
  const put = (line: WorkingLine): string => {
    if (values.has(line.symbol)) throw new RangeError(`${line.symbol} stands for two things.`)
    values.set(line.symbol, line.value.si)
    lines.push(line)
    return line.symbol
  }
  return {
    lines,
    checks,
    given: (symbol, name, si, { dimension, origin }) => put({ symbol, name, value: { si, dimension }, origin }),
    constant: (symbol, name, si, dimension = 'number') =>
      put({ symbol, name, value: { si, dimension }, origin: 'constant' }),
    step: (symbol, name, expression, dimension = 'number') =>
      put({ symbol, name, expression, value: { si: evaluate(expression), dimension } }),
    check: (says, left, right) => {
      checks.push({ says, left, right, values: [evaluate(left), evaluate(right)] })
    },
    value: (symbol) => values.get(symbol)!,
  }
}
