/** The inputs that are estimated or read with an error: how far each may be off, and what measurement would replace it. */
import { quantityText } from '@/core/units/format'
import { fromSi, toSi, unitLabel } from '@/core/units/units'
import {
  END_FIELDS,
  ENGINE_FIELDS,
  OVERRIDE_FIELDS,
  PART_FIELDS,
  PORT_FIELDS,
  fieldsOfPart,
  isCurve,
  KEPT,
  type Curve,
  type Field,
  type Spread,
} from '../document/fields'
import type { Build, Part } from '../document/schema'
import { activeVariant, type Edit } from '../edit/edit'
import { defaultOf, engineModel, measuredFlowOf } from '../model/engine'
import { isLearned } from '../model/learned'
import { dischargeOf, isHoled } from '../model/network'
import { barbOf, coverPort, portLoss, resolve, type Resolve } from '../model/resolve'
import { labelIn, lowered } from '../document/words'
import { FRESH_HOLE } from '../catalogue/fresh-air'

/** Standard deviations between the middle and the 90 % point. */
const NINETY = 1.2816
/** Standard deviation of the logarithm of a figure that lies within x/ `range` in 80 % of cases. */
const sigmaOf = (range: number) => Math.log(range) / NINETY

export type Uncertain = {
  readonly id: string
  readonly name: string
  /** what to do to know it better */
  readonly measure: string
  /** the range as a person reads it */
  readonly range: string
  /** how well that measurement would know it: its standard deviation over the present one */
  readonly left: number
  /** what a standard deviation of it is: a factor, or so much of its unit */
  readonly step: { readonly times: number } | { readonly plus: number; readonly unit: string }
  /** the figure itself, where it is one that a person knows by its size */
  readonly from?: { readonly value: number; readonly unit: string }
  /** the input moved by `z` standard deviations, as edits */
  readonly edits: (z: number) => readonly Edit[]
}

const inputStep = (s: Spread, field: Field | Curve): Uncertain['step'] =>
  isFactor(s)
    ? { times: Math.exp(sigmaOf(s.times)) }
    : { plus: widthOf(s), unit: !isCurve(field) && field.kept ? unitLabel(KEPT[field.kept][1]) : '' }
const isFactor = (s: Spread): s is { readonly times: number } => 'times' in s
const widthOf = (s: Spread) => (isFactor(s) ? sigmaOf(s.times) : s.plus / NINETY)
type Mover = (value: number, z: number) => number
/** Moves values by `z` standard deviations of their spread, kept inside their limits. */
function moverOf(s: Spread, { min, max }: Pick<Field, 'min' | 'max'>): Mover {
  const [factor, width] = [isFactor(s), widthOf(s)]
  return (value, z) => {
    const to = factor ? value * Math.exp(width * z) : value + width * z
    return value < min || value > max ? to : Math.min(max, Math.max(min, to))
  }
}
function spreadText(s: Spread, field: Field | Curve, units: Build['units']): string {
  if (isFactor(s)) return `×/÷ ${s.times}`
  if (isCurve(field) || !field.kept) return `± ${s.plus}`
  const [dimension, unit] = KEPT[field.kept]
  return `± ${quantityText(toSi(dimension, s.plus, unit), dimension, units, 2)}`
}

function blowByInput(build: Build): Uncertain {
  const { engine } = build
  const { blowBy } = engine
  const flow = measuredFlowOf(build)
  if (!blowBy || flow === undefined) {
    const field = ENGINE_FIELDS.blowByTimes
    const from = engine.blowByTimes ?? field.standIn
    const move = moverOf(field.spread, field)
    return {
      id: 'blowBy',
      name: `Blow-by of ${engine.rings} rings`,
      measure: field.measure,
      range: spreadText(field.spread, field, build.units),
      left: 0.05 / widthOf(field.spread),
      step: inputStep(field.spread, field),
      edits: (z) => [{ op: 'set', path: ['engine', 'blowByTimes'], value: move(from, z) }],
    }
  }
  // reading error of a meter, and of an orifice by its bore and gauge (estimates), one standard deviation
  const error = blowBy.lpm === undefined ? 0.08 : 0.05
  return {
    id: 'blowBy',
    name: 'Blow-by, as measured',
    measure: 'repeat the measurement',
    range: `± ${100 * error} %`,
    left: 0.7,
    step: { times: 1 + error },
    edits: (z) => [
      {
        op: 'set',
        path: ['engine', 'blowBy'],
        value: { state: blowBy.state, lpm: fromSi('gasFlow', flow * (1 + error * z), 'l/min') },
      },
    ],
  }
}

function factInput(build: Build, id: string, key: 'inletDepressionKpa' | 'idleManifoldKpa'): Uncertain {
  const field = ENGINE_FIELDS[key]
  const entered = build.engine[key]
  const spread = entered === undefined || isLearned(build, ['engine', key]) ? field.spread : field.measured
  const from = entered ?? defaultOf(build, key)
  const move = moverOf(spread, field)
  return {
    id,
    name: field.label,
    measure: field.measure,
    range: spreadText(spread, field, build.units),
    step: inputStep(spread, field),
    left: widthOf(field.measured) / widthOf(spread),
    edits: (z) => [{ op: 'set', path: ['engine', key], value: move(from, z) }],
  }
}

/** The manifold at cruise follows from no fact: it is drawn where it was not logged. */
function cruiseManifold(build: Build): Uncertain[] {
  const state = engineModel(build).states.find((s) => s.id === 'cruise')
  const field = OVERRIDE_FIELDS.manifoldKpa
  const override = build.engine.overrides.cruise
  const learned = isLearned(build, ['engine', 'overrides', 'cruise', 'manifoldKpa'])
  if (!state || (override?.manifoldKpa !== undefined && !learned)) return []
  const from = fromSi('pressure', state.manifoldPa, 'kPa')
  const move = moverOf(field.spread, field)
  return [
    {
      id: 'cruiseManifold',
      name: 'Manifold at cruise, absolute',
      measure: field.measure,
      get range() {
        return spreadText(field.spread, field, build.units)
      },
      step: inputStep(field.spread, field),
      left: widthOf(field.measured) / widthOf(field.spread),
      edits: (z) => [
        {
          op: 'set',
          path: ['engine', 'overrides', 'cruise'],
          value: { ...override, manifoldKpa: move(from, z) },
        },
      ],
    },
  ]
}

/** A figure that was entered nowhere, wherever it stands in: what is known of one is known of its like. */
type FigurePlace = { readonly path: readonly string[]; readonly value: number }
function sharedInput(
  build: Build,
  { id, name }: Pick<Uncertain, 'id' | 'name'>,
  field: SpreadField,
  places: readonly FigurePlace[],
): Uncertain[] {
  if (places.length === 0) return []
  const at = places.map(({ path, value }) => ({ path: ['variants', build.active, ...path], value }))
  const move = moverOf(field.spread, field)
  return [
    {
      id,
      name,
      measure: field.measure,
      get range() {
        return spreadText(field.spread, field, build.units)
      },
      step: inputStep(field.spread, field),
      left: widthOf(field.measured) / widthOf(field.spread),
      edits: (z) => at.map(({ path, value }) => ({ op: 'set', path, value: move(value, z) })),
    },
  ]
}
type SpreadField = Field & { readonly spread: Spread; readonly measured: Spread; readonly measure: string }

/** Barbs of the hoses: one maker's are alike. */
function barbInput(build: Build): Uncertain[] {
  const variant = ['variants', build.active]
  const ends = activeVariant(build).lines.flatMap((l) =>
    l.kind === 'hose'
      ? (['from', 'to'] as const).flatMap((side) => {
          const path = ['lines', l.id, side, 'barbMm']
          const { barbMm } = l[side]
          if (barbMm !== undefined && !isLearned(build, [...variant, ...path])) return []
          return [{ path, value: barbMm ?? barbOf(l.boreMm) }]
        })
      : [],
  )
  return sharedInput(build, { id: 'barbs', name: 'Barbs inside the hoses' }, END_FIELDS.barbMm, ends)
}

/** Baffles and nipples of the covers. */
function coverInput(build: Build, resolving: Resolve): Uncertain[] {
  const r = resolving(activeVariant(build))
  const ports = [...r.topology.baffled.values()].map((at) => ({
    path: ['parts', at.part, 'ports', at.port, 'lossKpaAt100'],
    value: portLoss(coverPort(r, at).port),
  }))
  return sharedInput(
    build,
    { id: 'coverPorts', name: 'Baffles and nipples of the covers' },
    PORT_FIELDS.lossKpaAt100,
    ports,
  )
}

/** How much of its area a hole, seat or drilled restrictor passes. */
function dischargeInput(build: Build): Uncertain[] {
  const variant = ['variants', build.active]
  const holes = activeVariant(build).parts.flatMap((p) => {
    const path = ['parts', p.id, 'cd']
    if (!isHoled(p) || (p.cd !== undefined && !isLearned(build, [...variant, ...path]))) return []
    return [{ path, value: dischargeOf(p) }]
  })
  return sharedInput(
    build,
    { id: 'discharge', name: 'Discharge of valves and holes' },
    PART_FIELDS.restrictor.cd,
    holes,
  )
}

/** Holes by which fresh air is metered ahead of throttle or compressor: bored into the inlet's port, or beside a full-load check. */
function holeInputs(build: Build): Uncertain[] {
  const { parts, lines } = activeVariant(build)
  const field = PORT_FIELDS.boreMm
  const move = moverOf(field.spread, field)
  const hole = (id: string, boreMm: number, path: readonly string[]): Uncertain => ({
    id,
    name: 'Fresh-air hole',
    measure: field.measure,
    get range() {
      return spreadText(field.spread, field, build.units)
    },
    left: widthOf(field.measured) / widthOf(field.spread),
    step: inputStep(field.spread, field),
    from: { value: boreMm, unit: 'mm' },
    edits: (z) => [
      {
        op: 'set',
        path: ['variants', build.active, 'parts', ...path, 'boreMm'],
        value: move(boreMm, z),
      },
    ],
  })
  return parts.flatMap((part): Uncertain[] => {
    if (part.kind === 'restrictor' && part.id === FRESH_HOLE) return [hole(part.id, part.boreMm, [part.id])]
    if (part.kind !== 'inlet') return []
    return part.ports.flatMap((port) => {
      const used = lines.some((l) => [l.from, l.to].some((e) => e.part === part.id && e.port === port.id))
      if (port.boreMm === undefined || !used) return []
      return [hole(`${part.id} ${port.id}`, port.boreMm, [part.id, 'ports', port.id])]
    })
  })
}

function partInputs(build: Build, p: Part): Uncertain[] {
  return Object.entries(fieldsOfPart(p.kind)).flatMap(([key, field]): Uncertain[] => {
    const value = (p as Readonly<Record<string, unknown>>)[key]
    if (value === undefined || !field.spread || !field.measured) return []
    const spread: Spread = p.measured?.includes(key) ? field.measured : field.spread
    const path = ['variants', build.active, 'parts', p.id, key]
    const move = moverOf(spread, isCurve(field) ? field.curve.y : field)
    return [
      {
        id: `${p.id} ${key}`,
        // words when they are read: plans are tried by the thousand for their figures alone
        get name() {
          return `${p.name}, ${lowered(labelIn(field.label, build.units))}`
        },
        measure: field.measure ?? 'measure it',
        get range() {
          return spreadText(spread, field, build.units)
        },
        step: inputStep(spread, field),
        left: widthOf(field.measured) / widthOf(spread),
        edits: (z) => [
          {
            op: 'set',
            path,
            value: isCurve(field)
              ? (value as readonly (readonly [number, number])[]).map(([x, y]) => [x, move(y, z)])
              : move(value as number, z),
          },
        ],
      },
    ]
  })
}

/** Those of the engine, the same for every plan. Methods 3 and 4 give the ranges of ring share and default figures. */
export const engineInputs = (build: Build): readonly Uncertain[] => [
  blowByInput(build),
  factInput(build, 'inlet', 'inletDepressionKpa'),
  ...(build.engine.overrides.idle?.manifoldKpa === undefined
    ? [factInput(build, 'idleManifold', 'idleManifoldKpa')]
    : []),
  ...cruiseManifold(build),
]
/**
 * Those of the active plan: parts' ranges are estimates of the trade, in the field tables.
 * @param resolving the caller's own, where it has resolved the plan already
 */
export const planInputs = (build: Build, resolving: Resolve = resolve): readonly Uncertain[] => [
  ...barbInput(build),
  ...coverInput(build, resolving),
  ...dischargeInput(build),
  ...holeInputs(build),
  ...activeVariant(build).parts.flatMap((p) => partInputs(build, p)),
]
/** All of them, the engine's first. */
export const uncertainInputs = (build: Build): readonly Uncertain[] => [...engineInputs(build), ...planInputs(build)]

/**
 * Those of a build as they stand in one that was made from it by a change: a figure that the change has set moves about what it is now. What
 * the change has taken away moves nothing.
 */
export function recentredInputs(inputs: readonly Uncertain[], changed: Build): readonly Uncertain[] {
  const now = new Map(uncertainInputs(changed).map((input) => [input.id, input]))
  return inputs.map((input) => now.get(input.id) ?? { ...input, edits: () => [] })
}
