/** Figures of one line or part in one state: flow, velocity, drop. */
import type { StateId } from '@/core/engine/states'
import { airViscosity, GAS_R } from '@/core/gas/air'
import { colebrook, frictionFactor, LAMINAR_RE, TURBULENT_RE } from '@/core/network/friction'
import { makeHose, type HoseShape } from '@/core/network/hose'
import { toSi } from '@/core/units/units'
import { isThroughPart } from '../../document/kinds'
import { fieldsOfPart, isCurve, KEPT, type Field } from '../../document/fields'
import type { Build, Part } from '../../document/schema'
import { activeVariant } from '../../edit/edit'
import { isLearned } from '../../model/learned'
import { resolve } from '../../model/resolve'
import { NO_FLOW, solvedIn, type Passage, type SolvedState, type Worked } from '../../model/results'
import { gasDensity } from '../../model/state-result'
import {
  input,
  named,
  SOLVER,
  type WorkingOf,
  type Input,
  type FigureQuantity,
  type RefOf,
  type Working,
} from '../figure'

type PassageContext = {
  readonly build: Build
  readonly s: SolvedState
  readonly p: Passage
  readonly ambientPa: number
}

const passageContext = (
  build: Build,
  a: Worked,
  ref: { readonly id: string; readonly state: StateId },
): PassageContext => {
  const s = solvedIn(a, ref.state)!
  return { build, s, p: s.passages[ref.id]!, ambientPa: a.engine.amb.pressurePa }
}

const endsOf = (p: Passage): Input[] => [
  input('Flow', p.flow, 'gasFlow', 'computed'),
  input('Pressure where it starts', p.gaugeFrom, 'pressure', 'computed'),
  input('Pressure where it ends', p.gaugeTo, 'pressure', 'computed'),
]

/** Elbows and ends alone: what is left of K with no length and no bends. */
const endsAlone = (shape: HoseShape) => makeHose('e', 'a', 'b', { ...shape, bends: [] }).kFixed
/** A hose as its gas runs: what its ends lose depends on the way. */
const asItRuns = (shape: HoseShape, flow: number): HoseShape =>
  flow < 0 && shape.kBack !== undefined ? { ...shape, k: shape.kBack, kBack: undefined } : shape

/** Reynolds number of a flow in a hose. */
const reynolds = (shape: HoseShape, s: SolvedState, flow: number) =>
  Math.max(1, (4 * Math.abs(flow)) / (Math.PI * shape.boreM * airViscosity(s.operating.gasK)))
const regime = (re: number) =>
  re < LAMINAR_RE ? 'laminar' : re < TURBULENT_RE ? 'between laminar and turbulent' : 'turbulent'

function throughHose({ build, s, p }: PassageContext, laid: HoseShape): Pick<Working, 'relation' | 'inputs' | 'note'> {
  const shape = asItRuns(laid, p.flow)
  const h = makeHose('h', 'a', 'b', shape)
  const re = reynolds(shape, s, p.flow)
  const rel = h.roughnessM / shape.boreM
  const f = frictionFactor(re, rel, colebrook(TURBULENT_RE, rel))
  const gasC = build.engine.overrides[s.id]?.gasC
  return {
    relation: 'p₁² − p₂² = G² R T (f L/D + ΣK)',
    inputs: [
      ...endsOf(p),
      input('Bore', shape.boreM, 'length', 'entered'),
      input('Straight length', shape.lengthM, 'length', 'entered'),
      input('Friction, f L/D', (f * shape.lengthM) / shape.boreM, 'number', 'computed'),
      input('Bends, K', h.kFixed + h.kPerF * f - endsAlone(shape), 'number', 'computed'),
      input('Elbows and ends, K', endsAlone(shape), 'number', 'computed'),
      // by how its flow splits there, told against the pressure of the tee's first leg
      ...(p.teeLoss ? [input('Lost at its tee', p.teeLoss, 'pressure', 'computed')] : []),
      input('Reynolds number', re, 'number', 'computed'),
      input('Gas temperature', s.operating.gasK, 'temperature', gasC === undefined ? 'estimated' : 'entered'),
    ],
    note: `Gas constant ${GAS_R} J/(kg K); ${regime(re)}.`,
  }
}

/** Flow or drop: the law of the hose or part. */
function byLaw(here: PassageContext, ref: RefOf<'flow'> | RefOf<'drop'>): Omit<Working, 'result'> {
  const { build, s, p } = here
  const r = resolve(activeVariant(build))
  const line = r.variant.lines.find((l) => l.id === ref.id)
  const part = r.parts.get(ref.id)
  const title = `${(line ?? part)?.name ?? ''}, ${line ? `${ref.kind === 'flow' ? 'flow' : 'pressure drop'} ` : ''}${named(s.id)}`
  if (!line)
    return { title, relation: relationOf(part), source: SOLVER, inputs: [...endsOf(p), ...inputsOf(build, part)] }
  if (Math.abs(p.flow) < NO_FLOW) return { title, ...nothingRuns(p) }
  return { title, source: SOLVER, ...throughHose(here, r.lines.get(line.id)!.shape) }
}

const nothingRuns = (p: Passage) => ({
  relation: 'a valve or plug along this line is shut: nothing runs, so nothing is lost',
  source: SOLVER,
  inputs: endsOf(p),
})

/** Working of a flow through a part or line, m3/s (methods 4). */
export const flowWorking: WorkingOf<'flow'> = (build, a, ref) => byLaw(passageContext(build, a, ref), ref)

/** Working of a pressure drop, Pa (methods 4). */
export const dropWorking: WorkingOf<'drop'> = (build, a, ref) => byLaw(passageContext(build, a, ref), ref)

/** Working of a gas velocity, m/s: flow over bore area. */
export const velocityWorking: WorkingOf<'velocity'> = (build, a, ref) => {
  const { s, p, ambientPa } = passageContext(build, a, ref)
  const r = resolve(activeVariant(build))
  const title = `${r.variant.lines.find((l) => l.id === ref.id)?.name ?? ''}, velocity ${named(s.id)}`
  if (Math.abs(p.flow) < NO_FLOW) return { title, ...nothingRuns(p) }
  const rho = gasDensity(s.operating, (p.gaugeFrom + p.gaugeTo) / 2, ambientPa)
  return {
    title,
    relation: 'mass flow / (density × bore area)',
    source: 'Continuity; density at the mean pressure and crankcase gas temperature.',
    inputs: [
      ...endsOf(p),
      input('Bore', r.lines.get(ref.id)?.shape.boreM ?? 0, 'length', 'entered'),
      input('Gas density', rho, 'concentration', 'computed'),
    ],
  }
}

const ORIFICE = 'm = Cd A p₁ / √(R T) · ψ(p₂/p₁)'

function relationOf(part: Part | undefined): string {
  if (!part || !isThroughPart(part)) return ORIFICE
  switch (part.kind) {
    case 'can':
    case 'filter':
      return 'Δp = a Q + b ρ Q²'
    case 'pcv':
      return 'm = Cd A(Δp) p₁ / √(R T) · ψ(p₂/p₁)'
    case 'regulator':
      return 'm = Cd A(p₁) p₁ / √(R T) · ψ(p₂/p₁), A from none to all over the band'
    case 'pump':
      return 'm = ρ₁ · displacement · speed · (1 + c − c (p₂/p₁)^(1/γ))'
    case 'relief':
    case 'check':
      return 'm = Cd A (p₁ − crack) / √(R T) · ψ; nothing backwards'
    case 'passage':
    case 'restrictor':
    case 'sensor':
      return ORIFICE
  }
}

/** A document's number in SI, by its field. */
const quantityOf = (field: Field, value: number): FigureQuantity =>
  field.kept === undefined
    ? { si: value, dimension: 'number' }
    : { si: toSi(KEPT[field.kept][0], value, KEPT[field.kept][1]), dimension: KEPT[field.kept][0] }

/** Every number of a part, as its field tells it: typical figures are estimates until they are the builder's own. */
function inputsOf(build: Build, part: Part | undefined): Input[] {
  if (!part) return []
  return Object.entries(fieldsOfPart(part.kind)).flatMap(([key, field]): Input[] => {
    const value = (part as Readonly<Record<string, unknown>>)[key]
    const learned = isLearned(build, ['variants', build.active, 'parts', part.id, key])
    const estimated = field.spread && !part.measured?.includes(key)
    const origin = learned ? 'learned' : estimated ? 'estimated' : 'entered'
    if (isCurve(field))
      return (value as readonly (readonly [number, number])[]).map(([x, y]) => ({
        name: `${field.label} at ${x} ${KEPT[field.curve.x.kept!][1]}`,
        value: quantityOf(field.curve.y, y),
        origin,
      }))
    return typeof value === 'number' ? [{ name: field.label, value: quantityOf(field, value), origin }] : []
  })
}
