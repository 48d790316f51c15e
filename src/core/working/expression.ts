/**
 * Expressions as a working prints them: 4·m/(π·D·μ), √(x), log₁₀(x), max(a; b). What is printed is what is worked out, so that the two cannot
 * part.
 */
import { fail, ok, type Result } from '../result'

type Values = (symbol: string) => number | undefined

const FUNCTIONS: Readonly<Record<string, (...x: number[]) => number>> = {
  '√': Math.sqrt,
  'log₁₀': Math.log10,
  ln: Math.log,
  exp: Math.exp,
  sin: Math.sin,
  tan: Math.tan,
  ceil: Math.ceil,
  min: Math.min,
  max: Math.max,
  abs: Math.abs,
}
const CONSTANTS: Readonly<Record<string, number>> = { π: Math.PI }

/** A number, a name with its subscripts, or a sign. */
const tokenPattern = (): RegExp => /\s*(\d+(?:\.\d+)?(?:e[-+−]?\d+)?|log₁₀|√|[\p{L}][\p{L}\p{N}₀-₉_,']*|[-+−·/^();])/uy

/**
 * The value of a printed expression. Multiplication ·, division /, power ^, minus − or -, functions √ log₁₀ ln exp sin tan ceil min max abs with
 * arguments parted by semicolons, and π.
 * @param values of its symbols; a symbol without one is a failure that names it
 *
 * @example
 * import { evaluateExpression } from '@/core/working/expression'
 *
 * console.log(evaluateExpression('π·D^2/4', (symbol) => ({ D: 0.0159 })[symbol]).value) // 0.00019855650968850582
 */
export function evaluateExpression(text: string, values: Values): Result<number> {
  const tokens: string[] = []
  const pattern = tokenPattern()
  let at = 0
  while (at < text.trimEnd().length) {
    pattern.lastIndex = at
    const found = pattern.exec(text)
    if (!found) return fail(`“${text.slice(at)}” is no expression.`)
    tokens.push(found[1]!)
    at = pattern.lastIndex
  }
  let k = 0
  let missing: string | undefined
  const take = (sign: string): boolean => {
    if (tokens[k] !== sign) return false
    k++
    return true
  }
  const minus = () => take('−') || take('-')
  function sum(): number {
    let value = product()
    for (;;) {
      if (take('+')) value += product()
      else if (minus()) value -= product()
      else return value
    }
  }
  function product(): number {
    let value = power()
    for (;;) {
      if (take('·')) value *= power()
      else if (take('/')) value /= power()
      else return value
    }
  }
  function power(): number {
    if (minus()) return -power()
    const base = atom()
    return take('^') ? base ** power() : base
  }
  function atom(): number {
    const token = tokens[k++]
    if (token === undefined) {
      missing ??= 'the end'
      return Number.NaN
    }
    if (token === '(') {
      const value = sum()
      if (!take(')')) missing ??= ')'
      return value
    }
    if (/^\d/.test(token)) return Number(token.replace('−', '-'))
    const call = FUNCTIONS[token]
    if (call && take('(')) {
      const given = [sum()]
      while (take(';')) given.push(sum())
      if (!take(')')) missing ??= ')'
      return call(...given)
    }
    const value = CONSTANTS[token] ?? values(token)
    if (value === undefined) missing ??= token
    return value ?? Number.NaN
  }
  const value = sum()
  if (missing !== undefined || k < tokens.length) return fail(`Nothing is known of ${missing ?? tokens[k]}.`)
  return ok(value)
}
