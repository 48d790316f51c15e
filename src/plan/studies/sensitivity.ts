/** What a figure depends on most: each input raised by a tenth, one at a time, and everything worked out again. */
import { fromSi } from '@/core/units/units'
import { fullLoadState } from '@/core/engine/states'
import { evaluate } from '../analyse'
import { makeEvaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import { ENGINE_FIELDS, fieldsOfPart, isCurve, LINE_FIELDS, type Field } from '../document/fields'
import type { Build, Part } from '../document/schema'
import { perform, setField, setLine, setPart, type EditBuilder } from '../edit/edit-builders'
import { activeVariant } from '../edit/edit'
import { isOfCan, readFigure, type FigureRef } from '../explain/figures'
import { defaultOf } from '../model/engine'
import type { Worked } from '../model/results'

export type Influence = { readonly name: string; readonly from: number; readonly to: number }
const UP = 1.1

type Candidate = { readonly name: string; readonly builder: EditBuilder }
type Numbers = Readonly<Record<string, unknown>>

/** Every number of a part, told by its field; a curve is raised as a whole. */
function ofPart(p: Part): Candidate[] {
  return Object.entries(fieldsOfPart(p.kind)).flatMap(([key, field]): Candidate[] => {
    const value = (p as Numbers)[key]
    const name = `${p.name}, ${field.label.toLowerCase()}`
    if (isCurve(field))
      return [
        {
          name,
          builder: setPart(p.id, {
            [key]: (value as readonly (readonly [number, number])[]).map(([x, y]) => [x, y * UP]),
          }),
        },
      ]
    return typeof value === 'number' ? [{ name, builder: setPart(p.id, { [key]: value * UP }) }] : []
  })
}

function candidates(build: Build, blowByLpm: number): Candidate[] {
  const { engine } = build
  const variant = activeVariant(build)
  const fact = (key: keyof typeof ENGINE_FIELDS & keyof typeof engine, value: number): Candidate => ({
    name: ENGINE_FIELDS[key].label,
    builder: setField(['engine', key], value * UP),
  })
  const ofLine = (key: 'boreMm' | 'lengthMm', field: Field): Candidate[] =>
    variant.lines.flatMap((l) =>
      l.kind === 'hose'
        ? [{ name: `${l.name}, ${field.label.toLowerCase()}`, builder: setLine(l.id, { [key]: l[key] * UP }) }]
        : [],
    )
  return [
    {
      name: 'Blow-by',
      builder: setField(['engine', 'blowBy'], { state: fullLoadState(engine.induction), lpm: blowByLpm * UP }),
    },
    fact('inletDepressionKpa', engine.inletDepressionKpa ?? defaultOf(build, 'inletDepressionKpa')),
    fact('idleManifoldKpa', engine.idleManifoldKpa ?? defaultOf(build, 'idleManifoldKpa')),
    ...(engine.induction === 'na' ? [] : [fact('boostKpa', engine.boostKpa)]),
    ...ofLine('boreMm', LINE_FIELDS.boreMm),
    ...ofLine('lengthMm', LINE_FIELDS.lengthMm),
    ...variant.parts.flatMap(ofPart),
  ]
}

/**
 * The `most` strongest influences on a figure, strongest first; those that do not move it by a thousandth are left out.
 * @param today for figures that follow from the log; the others do not depend on it
 */
export function influences(build: Build, today: string, ref: FigureRef, most = 4): Influence[] {
  const evaluator = makeEvaluator()
  const workedOut = (b: Build): Worked =>
    isOfCan(ref) ? evaluate(b, today, evaluator) : { ...figuresOf(b, evaluator), cans: [], oilLearned: 1 }
  const now = workedOut(build)
  const from = readFigure(build, now, ref, evaluator)
  if (from === undefined || !Number.isFinite(from)) return []
  const full = now.states.find((s) => s.id === fullLoadState(build.engine.induction))
  return candidates(build, fromSi('gasFlow', full?.blowBy ?? 0, 'l/min'))
    .flatMap(({ name, builder }): Influence[] => {
      const then = perform(build, builder)
      const to = then.ok ? readFigure(then.value, workedOut(then.value), ref, evaluator) : undefined
      return to === undefined || !Number.isFinite(to) || Math.abs(to - from) <= 1e-3 * Math.abs(from)
        ? []
        : [{ name, from, to }]
    })
    .toSorted((a, b) => Math.abs(b.to - b.from) - Math.abs(a.to - a.from))
    .slice(0, most)
}
