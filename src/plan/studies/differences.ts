/** What sets one plan apart from another, in words, each difference with what it does on its own. */
import { fullLoadState } from '@/core/engine/states'
import { quantityText, formatNumber } from '@/core/units/format'
import { toSi } from '@/core/units/units'
import { makeEvaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import { HOSE_BORES } from '../catalogue/hoses'
import { fieldsOfPart, isCurve, KEPT, type Field } from '../document/fields'
import { isThrough, KINDS } from '../document/kinds'
import type { Build, Line, Part, Variant } from '../document/schema'
import { perform, setLine, setPart, setPlan, type EditBuilder } from '../edit/edit-builders'
import { sameJson } from '../edit/diff'
import { atState, joinWords, unitFormatter } from '../document/words'
import { solvedIn, type Figures } from '../model/results'
import { showing } from './comparison'

export type Difference = {
  readonly what: string
  readonly effect: string
  /** size of the effect, for ordering */
  readonly weight: number
}
type PlanChange = { readonly what: string; readonly builder: EditBuilder }
type Units = Build['units']

/** A bore by the name it is sold under, else as a length. */
const boreName = (mm: number, units: Units): string =>
  HOSE_BORES.find((b) => Math.abs(b.mm - mm) < 0.06)?.name ?? unitFormatter(units).mm(mm)
const bendText = (l: Line) =>
  l.bends.length === 0 ? 'no bends' : `${l.bends.length} ${l.bends.length === 1 ? 'bend' : 'bends'}`

function lineChanges(a: Line, b: Line, units: Units): PlanChange[] {
  const name = `the ${a.name.toLowerCase()}`
  const { mm } = unitFormatter(units)
  const change = (what: string, to: Partial<Line>): PlanChange => ({ what, builder: setLine(a.id, to) })
  return [
    ...(a.boreMm === b.boreMm
      ? []
      : [
          change(`${boreName(b.boreMm, units)} instead of ${boreName(a.boreMm, units)} on ${name}`, {
            boreMm: b.boreMm,
          }),
        ]),
    ...(a.lengthMm === b.lengthMm
      ? []
      : [change(`${mm(b.lengthMm)} instead of ${mm(a.lengthMm)} of ${name}`, { lengthMm: b.lengthMm })]),
    ...(sameJson(a.bends, b.bends)
      ? []
      : [change(`${bendText(b)} instead of ${bendText(a)} in ${name}`, { bends: b.bends })]),
  ]
}

function valueText(field: Field, value: unknown, units: Units): string {
  if (typeof value !== 'number') return 'none'
  if (field.kept === undefined) return formatNumber(value, 3)
  const [dimension, unit] = KEPT[field.kept]
  return quantityText(toSi(dimension, value, unit), dimension, units, 3)
}

const NOT_FIGURES: ReadonlySet<string> = new Set(['id', 'name', 'ports', 'at', 'kind'])
const figuresOfPart = (p: Part) => Object.fromEntries(Object.entries(p).filter(([k]) => !NOT_FIGURES.has(k)))

/** Another model is one difference; of one model, each figure that differs is. */
function partChanges(a: Part, b: Part, units: Units): PlanChange[] {
  if (a.kind !== b.kind || sameJson(figuresOfPart(a), figuresOfPart(b))) return []
  const name = a.name.toLowerCase()
  const model = (p: Part) => ('model' in p && p.model ? `${p.model} ` : '')
  if (model(a) !== model(b))
    return [
      {
        what: `a ${model(b)}${KINDS[b.kind].name.toLowerCase()} instead of a ${model(a)}one as the ${name}`,
        builder: setPart(a.id, figuresOfPart(b)),
      },
    ]
  const [one, other] = [a, b] as unknown as readonly Readonly<Record<string, unknown>>[]
  const table = fieldsOfPart(a.kind)
  const figureChanges = Object.entries(table).flatMap(([key, field]): PlanChange[] => {
    const [was, is] = [one![key], other![key]]
    if (sameJson(was, is)) return []
    const what = isCurve(field)
      ? `another ${field.label.toLowerCase()} of the ${name}`
      : `${field.label.toLowerCase()} of the ${name} ${valueText(field, is, units)} instead of ${valueText(field, was, units)}`
    return [{ what, builder: setPart(a.id, { [key]: is }) }]
  })
  const unlisted = Object.keys(figuresOfPart(b)).filter(
    (k) => !Object.hasOwn(table, k) && !sameJson(one![k], other![k]),
  )
  if (unlisted.length === 0) return figureChanges
  const rest = Object.fromEntries(unlisted.map((k) => [k, other![k]]))
  return [...figureChanges, { what: `other workings of the ${name}`, builder: setPart(a.id, rest) }]
}

/** Full-load crankcase pressure and oil to the intake, as what changed. */
function effectOf(
  build: Build,
  before: Figures,
  after: Figures,
  learned: number,
): Pick<Difference, 'effect' | 'weight'> {
  const id = fullLoadState(build.engine.induction)
  const say = unitFormatter(build.units)
  const [g0, g1] = [before, after].map((f) => solvedIn(f, id)?.crankcaseGauge)
  const said: string[] = []
  let weight = 0
  if (g0 === undefined || g1 === undefined) {
    said.push(g1 === undefined ? `leaves no answer ${atState(id)}` : `gives an answer ${atState(id)}`)
    weight = 1e4
  } else if (Math.abs(g1 - g0) > 20) {
    said.push(
      `${g1 < g0 ? 'lowers' : 'raises'} the crankcase ${atState(id)} from ${say.signed(g0)} to ${say.signed(g1)}`,
    )
    weight += Math.abs(g1 - g0)
  }
  const [o0, o1] = [before, after].map((f) => f.intakeOil * learned) as [number, number]
  const oilMl = (o1 - o0) * 1e12
  if (Math.abs(oilMl) > 0.5) {
    said.push(`takes oil to the intake from ${say.perDistance(o0)} to ${say.perDistance(o1)}`)
    weight += Math.abs(oilMl) * 50
  }
  return { effect: said.length === 0 ? 'changes nothing that shows' : joinWords(said), weight }
}

/** Lines and parts that both plans have, and the pick-up. */
function changesBetween(build: Build, a: Variant, b: Variant): PlanChange[] {
  const lines = a.lines.flatMap((l) => {
    const other = b.lines.find(
      (x) => x.id === l.id && x.kind === l.kind && x.from.part === l.from.part && x.to.part === l.to.part,
    )
    return other && l.kind === 'hose' ? lineChanges(l, other, build.units) : []
  })
  const parts = a.parts.flatMap((p) => {
    const other = b.parts.find((x) => x.id === p.id)
    return other ? partChanges(p, other, build.units) : []
  })
  const pickUp = (v: Variant) => v.pickUp ?? build.engine.pickUp
  const baffles: PlanChange[] =
    a.pickUp === b.pickUp
      ? []
      : [{ what: `${pickUp(b)} pick-up instead of ${pickUp(a)}`, builder: setPlan({ pickUp: b.pickUp }) }]
  return [...lines, ...parts, ...baffles]
}

/** Parts that gas runs through which one plan has and the other has not. */
const onlyIn = (x: Variant, y: Variant) =>
  x.parts
    .filter((p) => isThrough(p.kind) && p.kind !== 'passage' && !y.parts.some((q) => q.id === p.id))
    .map((p) => p.name.toLowerCase())

/**
 * What sets plan `b` apart from `a`, most telling first.
 * @param learned factor on all oil that the log has taught
 *
 * @example
 * import { newBuild } from '@/plan/schools/new-build'
 * import { differences } from '@/plan/studies/differences'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const b = { ...build.variants[0], id: 'b', parts: build.variants[0].parts.map((p) => (p.kind === 'can' ? { ...p, bowlMl: 250 } : p)) }
 * console.log(differences({ ...build, variants: [...build.variants, b] }, 'a', 'b').length) // 1
 */
export function differences(build: Build, aId: string, bId: string, learned = 1): readonly Difference[] {
  const a = build.variants.find((v) => v.id === aId)
  const b = build.variants.find((v) => v.id === bId)
  if (!a || !b || a === b) return []
  const base = showing(build, aId)
  const evaluator = makeEvaluator()
  const before = figuresOf(base, evaluator)
  const single = changesBetween(build, a, b).flatMap(({ what, builder }): Difference[] => {
    const changed = perform(base, builder)
    return changed.ok ? [{ what, ...effectOf(build, before, figuresOf(changed.value, evaluator), learned) }] : []
  })
  const [gone, come] = [onlyIn(a, b), onlyIn(b, a)]
  const phrases = [
    come.length > 0 ? `with ${come.join(', ')}` : '',
    gone.length > 0 ? `without ${gone.join(', ')}` : '',
  ]
  const whole: Difference[] =
    come.length + gone.length === 0
      ? []
      : [
          {
            what: phrases.filter(Boolean).join(', '),
            ...effectOf(build, before, figuresOf(showing(build, bId), evaluator), learned),
            weight: Infinity,
          },
        ]
  return [...whole, ...single.toSorted((x, y) => y.weight - x.weight)]
}
