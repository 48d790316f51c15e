/** The build document: one Yup schema says its shape, its limits and its types. Practical units, named in each field. */
import {
  array,
  boolean,
  lazy,
  mixed,
  number,
  object,
  string,
  tuple,
  type InferType,
  type ISchema,
  type ObjectSchema,
} from 'yup'
import { STATE_IDS } from '@/core/engine/states'
import { ACTIVITIES } from '@/core/service/rates'

export const FORMAT = 'ivent-build'
export const FORMAT_VERSION = 2
export const MAX_PARTS = 200
export const MAX_LINES = 300
export const MAX_LOG = 5000
const PICK_UPS = ['unbaffled', 'baffled', 'multipass'] as const

/** A number inside limits, with messages for the person at the field. */
const num = (min: number, max: number) =>
  number()
    .typeError('must be a number')
    .test('finite', 'must be a number', (v) => v === undefined || v === null || Number.isFinite(v))
    .min(min, `must be at least ${min}`)
    .max(max, `must be at most ${max}`)
const need = (min: number, max: number) => num(min, max).required('is missing')
const text = (max: number) => string().typeError('must be text').max(max, `must be at most ${max} characters`)
const name = () => text(80).required('is missing').min(1, 'is missing').matches(/\S/, 'is missing')
const id = () =>
  text(40)
    .required('is missing')
    .matches(/^[\w-]+$/, 'may hold letters, digits, - and _ only')
const choice = <const T extends string>(...values: T[]) =>
  string()
    .oneOf(values, `must be one of ${values.join(', ')}`)
    .required('is missing')
const shape = <S extends Parameters<typeof object>[0] & object>(fields: S) =>
  object(fields as S)
    .noUnknown('has a field that is not known: ${unknown}')
    .required('is missing')

const byKey = <K extends string, V>(keys: readonly K[], make: () => V) =>
  Object.fromEntries(keys.map((k) => [k, make()])) as unknown as Record<K, V>

const portSchema = shape({
  id: id(),
  name: name(),
  /** through-bore of the nipple or barb, where it is known */
  boreMm: num(0.5, 100).optional(),
})

const partBase = {
  id: id(),
  name: name(),
  ports: array(portSchema).required('is missing').max(24, 'has too many ports'),
  /** where the builder dragged it on the schematic, in its grid units */
  at: shape({ x: need(-2000, 4000), y: need(-2000, 4000) })
    .optional()
    .default(undefined),
}

/** Things told apart by one field: Yup picks the schema by its value. Cast, since Yup's types cannot follow `lazy`. */
function oneOfKinds<T>(field: string, what: string, schemas: () => Readonly<Record<string, unknown>>): ISchema<T> {
  return lazy((value: Record<string, unknown> | undefined) => {
    const kind = String(value?.[field] ?? '')
    const known = schemas()
    return (
      Object.hasOwn(known, kind)
        ? known[kind]
        : mixed().test(
            'kind',
            `is a ${what} of an unknown kind; known are ${Object.keys(known).join(', ')}`,
            () => false,
          )
    ) as ReturnType<typeof mixed>
  }) as unknown as ISchema<T>
}

/** A valve can be set to fail; absent means it works. */
const stuck = string().oneOf(['open', 'shut'], 'must be open or shut').optional()
const discharge = num(0.1, 1).optional()

const impactor = shape({ type: choice('impactor'), jets: need(1, 500), jetDiameterMm: need(0.5, 60) })
const cyclone = shape({
  type: choice('cyclone'),
  inletWidthMm: need(1, 60),
  inletHeightMm: need(1, 100),
  turns: need(0.5, 20),
})
const settling = shape({ type: choice('settling'), floorCm2: need(1, 2000) })
const fibre = shape({
  type: choice('fibre'),
  fibreUm: need(1, 1000),
  solidityPct: need(0.2, 40),
  thicknessMm: need(1, 200),
  faceCm2: need(1, 2000),
})
export const stageSchemas = { impactor, cyclone, settling, fibre }
export type StageSpec = {
  [K in keyof typeof stageSchemas]: InferType<(typeof stageSchemas)[K]>
}[keyof typeof stageSchemas]

const drop = {
  /** pressure drop of a clean part at 100 l/min, and the share of it that grows in step with flow */
  dropKpaAt100: need(0, 50),
  linearPct: need(0, 100),
}

/** Every kind of part. Kinds with ports `in` and `out` let gas through; the others are spaces or places that hold a pressure. */
export const partSchemas = {
  crankcase: shape({ ...partBase, kind: choice('crankcase') }),
  cover: shape({ ...partBase, kind: choice('cover') }),
  tee: shape({ ...partBase, kind: choice('tee') }),
  tank: shape({ ...partBase, kind: choice('tank') }),
  passage: shape({ ...partBase, kind: choice('passage'), boreMm: need(0, 100), count: need(1, 40), cd: discharge }),
  pcv: shape({
    ...partBase,
    kind: choice('pcv'),
    model: text(60).optional(),
    cd: discharge,
    stuck,
    areaMm2ByKpa: array(tuple([need(0, 200), need(0, 500)]).required('is missing'))
      .required('is missing')
      .min(1, 'needs a point')
      .max(40, 'has too many points'),
  }),
  check: shape({
    ...partBase,
    kind: choice('check'),
    model: text(60).optional(),
    cd: discharge,
    stuck,
    seatMm: need(0, 60),
    crackKpa: need(0, 20),
  }),
  regulator: shape({
    ...partBase,
    kind: choice('regulator'),
    model: text(60).optional(),
    cd: discharge,
    stuck,
    boreMm: need(0, 60),
    setKpa: need(-30, 5),
    bandKpa: need(0.1, 20),
  }),
  relief: shape({
    ...partBase,
    kind: choice('relief'),
    model: text(60).optional(),
    cd: discharge,
    stuck,
    seatMm: need(0, 60),
    openKpa: need(0, 50),
  }),
  /** a belt-driven vacuum pump or the scavenge stage of a dry sump; stuck shut: it does not turn and lets nothing through */
  pump: shape({
    ...partBase,
    kind: choice('pump'),
    model: text(60).optional(),
    stuck: string().oneOf(['shut'], 'must be shut').optional(),
    ccPerTurn: need(0, 1000),
    ratio: need(0.05, 4),
    clearancePct: need(0, 200),
  }),
  restrictor: shape({ ...partBase, kind: choice('restrictor'), cd: discharge, boreMm: need(0, 60) }),
  can: shape({
    ...partBase,
    kind: choice('can'),
    model: text(60).optional(),
    ...drop,
    bowlMl: need(5, 20000),
    faceCm2: need(1, 2000),
    packed: boolean().required('is missing'),
    /** what it catches runs back to the engine: by the port it breathes through, or by a line of its own */ drain:
      string().oneOf(['shared', 'own'], 'must be shared or own').optional(),
    surfaceCm2: need(10, 20000),
    stages: array()
      .of(oneOfKinds<StageSpec>('type', 'stage', () => stageSchemas))
      .required('is missing')
      .max(6, 'has too many stages'),
  }),
  sensor: shape({ ...partBase, kind: choice('sensor'), boreMm: need(1, 60) }),
  filter: shape({ ...partBase, kind: choice('filter'), ...drop, fouling: num(1, 20).optional() }),
  manifold: shape({ ...partBase, kind: choice('manifold') }),
  inlet: shape({ ...partBase, kind: choice('inlet'), depressionPct: need(0, 100) }),
  chargePipe: shape({ ...partBase, kind: choice('chargePipe') }),
  /** between throttle and supercharger: sucks while the throttle is closed, never sees boost */
  blowerInlet: shape({ ...partBase, kind: choice('blowerInlet') }),
  /** an exhaust collector with a slash-cut pipe in it: `suctionKpa` below the surroundings at rated flow */
  exhaust: shape({ ...partBase, kind: choice('exhaust'), suctionKpa: need(-20, 30) }),
  atmosphere: shape({ ...partBase, kind: choice('atmosphere') }),
} satisfies Record<string, ObjectSchema<{ kind: string }>>

export type PartKind = keyof typeof partSchemas
export type PartOf<K extends PartKind> = Omit<InferType<(typeof partSchemas)[K]>, 'kind'> & { kind: K }
export type Part = { [K in PartKind]: PartOf<K> }[PartKind]
export type Port = InferType<typeof portSchema>

const endSchema = shape({
  part: id(),
  port: id(),
  /** turn of a tight elbow at this end; 0 straight */
  elbowDeg: num(0, 150).optional(),
  /** through-bore of the fitting's barb, where it is less than the hose */
  barbMm: num(0.5, 100).optional(),
})
export const lineSchema = shape({
  id: id(),
  name: name(),
  /** direct: the two ports are one opening, with no hose between. drain: oil runs back through it and fills it, so no gas does */
  kind: choice('hose', 'direct', 'drain'),
  from: endSchema,
  to: endSchema,
  boreMm: need(0, 100),
  lengthMm: need(0, 20000),
  bends: array(shape({ angleDeg: need(0, 180), radiusMm: need(1, 2000) }))
    .required('is missing')
    .max(30, 'has too many bends'),
})
export type Line = InferType<typeof lineSchema>
export type LineEnd = InferType<typeof endSchema>

const overrideSchema = shape({
  rpm: num(100, 25000).optional(),
  manifoldKpa: num(5, 700).optional(),
  inletDepressionKpa: num(0, 40).optional(),
  airGs: num(0.05, 5000).optional(),
  gasC: num(-40, 180).optional(),
  oilC: num(-40, 180).optional(),
  bonnetC: num(-40, 150).optional(),
})
export type Override = InferType<typeof overrideSchema>

export const engineSchema = shape({
  cylinders: need(1, 12).integer('must be a whole number'),
  layout: choice('inline', 'vee', 'flat'),
  displacementCc: need(30, 15000),
  boreMm: need(20, 200),
  compression: need(5, 25),
  induction: choice('na', 'turbo', 'super'),
  injection: choice('port', 'direct', 'dual'),
  idleRpm: need(300, 3000),
  ratedRpm: need(1500, 20000),
  boostKpa: need(0, 500),
  rings: choice('tight', 'normal', 'loose', 'worn'),
  pickUp: choice(...PICK_UPS),
  /**
   * A measured blow-by replaces the estimate from the ring class: read from a flow meter, or worked out from the crankcase pressure while
   * everything leaves through one orifice of known bore to the open air.
   */
  blowBy: shape({
    state: choice(...STATE_IDS),
    lpm: num(0.1, 2000).optional(),
    orificeMm: num(1, 60).optional(),
    kpa: num(0.01, 50).optional(),
  })
    .optional()
    .default(undefined),
  sump: choice('wet', 'dry'),
  /** crank degrees between the two pistons of a twin: 0 when they rise together (parallel or boxer), 90 for a 90-degree vee on one pin */
  pistonPhaseDeg: num(0, 180).optional(),
  /** free volume of the crankcase with the pistons halfway */
  crankcaseCc: num(50, 60000).optional(),
  idleManifoldKpa: num(10, 105).optional(),
  inletDepressionKpa: num(0, 30).optional(),
  inletFouling: num(1, 5).optional(),
  /** figures of a state that were measured or are known better */
  overrides: shape(byKey(STATE_IDS, () => overrideSchema.optional().default(undefined))),
})
export type Engine = InferType<typeof engineSchema>

export const variantSchema = shape({
  id: id(),
  name: name(),
  school: text(40).required('is missing'),
  /** baffles at the breather pick-up that this circuit brings, where they differ from the engine's own */
  pickUp: string()
    .oneOf([...PICK_UPS], `must be one of ${PICK_UPS.join(', ')}`)
    .optional(),
  parts: array()
    .of(oneOfKinds<Part>('kind', 'part', () => partSchemas))
    .required('is missing')
    .max(MAX_PARTS, `has more than ${MAX_PARTS} parts`),
  lines: array(lineSchema).required('is missing').max(MAX_LINES, `has more than ${MAX_LINES} lines`),
})
export type Variant = InferType<typeof variantSchema>

export const logEntrySchema = shape({
  id: id(),
  date: string()
    .required('is missing')
    .matches(/^\d{4}-\d{2}-\d{2}$/, 'must be a date such as 2026-05-30'),
  kind: choice('fitted', 'emptied', 'checked', 'oil-added', 'reading'),
  odometerKm: need(0, 2_000_000),
  /** the plan that was on the engine then; left out, the first of the build */
  plan: text(40).optional(),
  /** the can that was fitted, emptied or looked at */
  part: text(40).optional(),
  ml: num(0, 20000).optional(),
  /** how much of it was water, when it was told apart */
  waterMl: num(0, 20000).optional(),
  /** track sessions of 20 minutes since the last entry of this can */
  sessions: num(0, 500).optional(),
  reading: shape({ state: choice(...STATE_IDS), kpa: need(-60, 400) })
    .optional()
    .default(undefined),
  note: text(500).optional(),
})
export type LogEntry = InferType<typeof logEntrySchema>

export const buildSchema = shape({
  format: choice(FORMAT),
  version: need(1, FORMAT_VERSION).integer('must be a whole number'),
  name: name(),
  about: text(200).defined('is missing'),
  units: shape({
    system: choice('metric', 'imperial'),
    pressure: choice('kPa', 'inHg', 'inH2O', 'psi'),
    flow: choice('l/min', 'cfm'),
  }),
  site: shape({
    altitudeM: need(-450, 5000),
    /** the barometer at the place itself, when it is read */ pressureKpa: num(45, 110).optional(),
    ambientC: need(-40, 55),
    humidityPct: need(0, 100),
  }),
  engine: engineSchema,
  duty: shape({
    kmPerYear: need(10, 300000),
    checkEveryKm: need(20, 50000),
    /** smallest catch tank that the class rules ask for; the rulebook decides */
    catchRuleMl: num(100, 20000).optional(),
    /** hours, in any unit: only their proportions count */
    hours: shape(byKey(ACTIVITIES, () => need(0, 1000))),
  }),
  active: id(),
  variants: array(variantSchema).required('is missing').min(1, 'needs at least one').max(12, 'has more than 12'),
  log: array(logEntrySchema).required('is missing').max(MAX_LOG, `has more than ${MAX_LOG} entries`),
})
export type Build = InferType<typeof buildSchema>
