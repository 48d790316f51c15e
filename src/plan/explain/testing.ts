/** For tests: workings followed by what they print alone, as a builder with a calculator would. */
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { isSolved, type Worked } from '../model/results'
import type { FigureRef } from './figure'
import { checkText, lineText, resultText } from './print'
import { workingOf, type Working } from './workings'

/** Every figure that a screen may show of a worked build. */
export function figuresIn(build: Build, a: Worked): FigureRef[] {
  const { lines, parts } = activeVariant(build)
  return [
    ...a.states.flatMap((s): FigureRef[] => [
      ...(['blowBy', 'capacity', 'air', 'inletDepression', 'manifold'] as const).map((kind) => ({ kind, state: s.id })),
      ...(s.solved ? [{ kind: 'crankcase' as const, state: s.id }] : []),
    ]),
    ...a.states.filter(isSolved).flatMap((s): FigureRef[] => [
      ...Object.keys(s.passages).flatMap((id): FigureRef[] => [
        { kind: 'flow', id, state: s.id },
        { kind: 'drop', id, state: s.id },
        { kind: 'oil', id, state: s.id },
      ]),
      ...(['breather', 'vacuum'] as const).flatMap((side) =>
        (['out', 'in'] as const).map((direction) => ({ kind: 'exchange' as const, state: s.id, side, direction })),
      ),
      ...lines.flatMap((l): FigureRef[] =>
        l.kind === 'hose' && s.passages[l.id] ? [{ kind: 'velocity', id: l.id, state: s.id }] : [],
      ),
      ...parts.flatMap((p): FigureRef[] => [
        ...p.ports.map((q) => ({ kind: 'gauge' as const, id: `${p.id}.${q.id}`, state: s.id })),
        ...(p.kind === 'can'
          ? (['kept', 'caught', 'column'] as const).map((kind) => ({ kind, id: p.id, state: s.id }))
          : []),
      ]),
    ]),
    ...a.cans.flatMap((c) =>
      (['fillNow', 'distance', 'checkBy', 'multiplier'] as const).map((kind) => ({ kind, id: c.part })),
    ),
    { kind: 'bypass' },
    { kind: 'intakeOil' },
  ]
}

const number = (text: string) => Number(text.replaceAll('−', '-').replaceAll(/[\s ]/g, ''))
/** A printed expression as JavaScript: this test's own reading of it. */
function calculated(expression: string, values: ReadonlyMap<string, number>): number {
  const names = [...values.keys()].toSorted((x, y) => y.length - x.length)
  const tokens = expression.match(/\d+(?:\.\d+)?(?:e[−-]?\d+)?|log₁₀|√|\p{L}[\p{L}\p{N}₀-₉_,']*|[+−\-·/^();]/gu) ?? []
  const js = tokens
    .map((t) => {
      if (/^\d/.test(t)) return t.replace('−', '-')
      const plain = {
        '·': '*',
        '^': '**',
        '−': '-',
        ';': ',',
        π: 'Math.PI',
        '√': 'Math.sqrt',
        'log₁₀': 'Math.log10',
        max: 'Math.max',
        min: 'Math.min',
        abs: 'Math.abs',
        sin: 'Math.sin',
        tan: 'Math.tan',
        ceil: 'Math.ceil',
        exp: 'Math.exp',
        ln: 'Math.log',
      }[t]
      if (plain) return plain
      if (!names.includes(t)) return t.length === 1 ? t : `undefined_${t}`
      return `(${values.get(t)!})`
    })
    .join(' ')
  // eslint-disable-next-line no-new-func
  return Number(new Function(`return ${js}`)())
}

/** Recomputes a working from its print alone; what does not come out is listed. */
function follow(build: Build, a: Worked, ref: FigureRef, evaluator: Evaluator): string | undefined {
  const w = workingOf(build, a, ref, evaluator)
  const absolute = ref.kind === 'flow' || ref.kind === 'drop'
  const averaged = a.states.some((s) => s.solved && s.cycle)
  return w && followWorking(w, build.units, { name: `${build.name} ${JSON.stringify(ref)}`, absolute, averaged })
}

type Followed = { readonly name: string; readonly absolute?: boolean; readonly averaged?: boolean }
/** Recomputes one working from its print alone; undefined where it comes out. */
export function followWorking(
  w: Working,
  units: Build['units'],
  { name, absolute = false, averaged = false }: Followed,
): string | undefined {
  const values = new Map<string, number>()
  const problem = (why: string) => `${name}: ${why}`
  for (const line of w.lines) {
    const [symbol, ...rest] = lineText(line).split(' = ')
    const printed = rest.at(-1)!.replace(/^(−?[\d.]+(?:e−?\d+)?).*$/u, '$1')
    if (rest.length === 1) values.set(symbol!, number(printed))
    else {
      const got = calculated(rest.slice(0, -1).join(' = '), values)
      // an intermediate step to six digits, or as near as its own inputs are printed
      const within = 1e-5 * Math.max(Math.abs(got), Math.abs(number(printed))) + 1e-12
      if (!(Math.abs(got - number(printed)) <= within)) {
        if (!Number.isFinite(got)) return problem(`${lineText(line)} is ${got}`)
        // a small difference of large pressures
        if (Math.abs(got - number(printed)) > 2e-3 * Math.abs(got)) return problem(`${lineText(line)}: ${got}`)
      }
      values.set(symbol!, got)
    }
  }
  for (const c of w.checks) {
    const [left, right] = [calculated(c.left, values), calculated(c.right, values)]
    const size = Math.max(Math.abs(left), Math.abs(right))
    // flows of a turn are means over some hundred steps
    const within = averaged ? 0.02 : 2e-3
    if (!(Math.abs(left - right) <= within * size + 3e-8)) return problem(`${checkText(c)} [${left} ${right}]`)
  }
  const shown = { ...w.result, si: absolute ? Math.abs(w.result.si) : w.result.si }
  const text = resultText(w.symbol, shown, units)
  const [, formula, figure] = /^(.*) = (.*)$/.exec(text)!
  const got = calculated(formula!, values)
  const digits = /^−?[\d\s ]*(?:\.(\d+))?/.exec(figure!)!
  const last = 10 ** -(digits[1]?.length ?? 0)
  const value = number(digits[0])
  // the last digit but one; of figures without decimals, three digits
  const allowed = digits[1] ? 10 * last : Math.max(10, Math.abs(value) * 1e-2)
  return Math.abs(got - value) <= allowed ? undefined : problem(`${text}, and its own lines make ${got}`)
}

/** Every so many of a build's workings, recomputed; what does not come out. */
export function followWorkings(
  build: Build,
  a: Worked,
  every: number,
): { readonly tried: number; readonly bad: readonly string[] } {
  const evaluator = makeEvaluator()
  const refs = figuresIn(build, a).filter((_, i) => i % every === 0)
  return { tried: refs.length, bad: refs.flatMap((ref) => follow(build, a, ref, evaluator) ?? []) }
}
