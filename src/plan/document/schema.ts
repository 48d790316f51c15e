/**
 * The build document: one Yup schema says its shape and its types, with the limits of `fields.ts`. Practical units,
 * named in each field.
 */
import { isValid, parseISO } from 'date-fns'
import { array, boolean, lazy, mixed, string, tuple, type InferType, type ISchema, type ObjectSchema } from 'yup'
import { STATE_IDS } from '@/core/engine/states'
import { ACTIVITIES } from '@/core/service/rates'
import { baySchema } from './bay-schema'
import {
  CLIMATES,
  FORMAT,
  FORMAT_VERSION,
  FRESH_AIR,
  FUELS,
  LEVELS,
  LOG_KINDS,
  LOG_NAME,
  LOG_NOTE,
  LOOKS,
  MAX_BENDS,
  MEANS,
  MAX_LINES,
  MAX_LOG,
  MAX_MEASURED,
  MAX_PARTS,
  MAX_POINTS,
  MAX_PORTS,
  MAX_STAGES,
  MAX_TAGS,
  MAX_LEARNED,
  MAX_VARIANTS,
  MAX_WAY,
  MAX_CASES,
  SEEN,
  MAX_TAG_LETTERS,
} from './bounds'
import { SPOT_FIELDS } from './bay-fields'
import {
  BEND_FIELDS,
  BLOW_BY_FIELDS,
  DUTY_FIELDS,
  END_FIELDS,
  ENGINE_FIELDS,
  HOURS_FIELD,
  LINE_FIELDS,
  NIGHT_FIELD,
  OVERRIDE_FIELDS,
  PART_FIELDS,
  PLACE_FIELDS,
  PORT_FIELDS,
  SITE_FIELDS,
  STAGE_FIELDS,
} from './fields'
import { fitSchema } from './fit-schema'
import { askSchema } from './ask-schema'
import { caseSchema } from './case-schema'
import { kindPriorSchema } from './kind-prior-schema'
import { LOG_FIELDS, READING_FIELDS } from './log-fields'
import { byKey, choice, id, name, numbers, reference, required, shape, text } from './shapes'

const PICK_UPS = ['unbaffled', 'baffled', 'multipass'] as const

const portSchema = shape({
  id: id(),
  name: name(),
  /** through-bore of the nipple or barb, where it is known */
  ...numbers(PORT_FIELDS),
})

const partBase = {
  id: id(),
  name: name(),
  ports: array(portSchema).required('is missing').max(MAX_PORTS, 'has too many ports'),
  /** where the builder dragged it on the schematic, in its grid units */
  at: shape(numbers(PLACE_FIELDS)).optional().default(undefined),
  /** figures that the builder measured or read off the part itself: each is then as exact as its measurement, the others stay typical */
  measured: array(text(40).required('is missing'))
    .max(MAX_MEASURED, 'names too many figures')
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

const impactor = shape({ type: choice('impactor'), ...numbers(STAGE_FIELDS.impactor) })
const cyclone = shape({ type: choice('cyclone'), ...numbers(STAGE_FIELDS.cyclone) })
const settling = shape({ type: choice('settling'), ...numbers(STAGE_FIELDS.settling) })
const fibre = shape({ type: choice('fibre'), ...numbers(STAGE_FIELDS.fibre) })
export const stageSchemas = { impactor, cyclone, settling, fibre }
export type StageSpec = {
  [K in keyof typeof stageSchemas]: InferType<(typeof stageSchemas)[K]>
}[keyof typeof stageSchemas]

/** Every kind of part. Kinds with ports `in` and `out` let gas through; the others are spaces or places that hold a pressure. */
export const partSchemas = {
  crankcase: shape({ ...partBase, kind: choice('crankcase') }),
  cover: shape({ ...partBase, kind: choice('cover') }),
  tee: shape({ ...partBase, kind: choice('tee') }),
  tank: shape({ ...partBase, kind: choice('tank') }),
  passage: shape({ ...partBase, kind: choice('passage'), ...numbers(PART_FIELDS.passage) }),
  pcv: shape({
    ...partBase,
    kind: choice('pcv'),
    model: text(60).optional(),
    stuck,
    ...numbers(PART_FIELDS.pcv),
    areaMm2ByKpa: array(
      tuple([required(PART_FIELDS.pcv.areaMm2ByKpa.curve.x), required(PART_FIELDS.pcv.areaMm2ByKpa.curve.y)]).required(
        'is missing',
      ),
    )
      .required('is missing')
      .min(1, 'needs a point')
      .max(MAX_POINTS, 'has too many points'),
  }),
  check: shape({
    ...partBase,
    kind: choice('check'),
    model: text(60).optional(),
    stuck,
    ...numbers(PART_FIELDS.check),
  }),
  regulator: shape({
    ...partBase,
    kind: choice('regulator'),
    model: text(60).optional(),
    stuck,
    ...numbers(PART_FIELDS.regulator),
  }),
  relief: shape({
    ...partBase,
    kind: choice('relief'),
    model: text(60).optional(),
    stuck,
    ...numbers(PART_FIELDS.relief),
  }),
  /** a belt-driven vacuum pump or the scavenge stage of a dry sump; stuck shut: it does not turn and lets nothing through */
  pump: shape({
    ...partBase,
    kind: choice('pump'),
    model: text(60).optional(),
    stuck: string().oneOf(['shut'], 'must be shut').optional(),
    ...numbers(PART_FIELDS.pump),
  }),
  restrictor: shape({ ...partBase, kind: choice('restrictor'), ...numbers(PART_FIELDS.restrictor) }),
  can: shape({
    ...partBase,
    kind: choice('can'),
    model: text(60).optional(),
    ...numbers(PART_FIELDS.can),
    packed: boolean().required('is missing'),
    /** full: its drain is blocked or nobody emptied it, and it passes everything on */
    stuck: string().oneOf(['full'], 'must be full').optional(),
    /** the side whose pressure the bowl stands at; without one it follows from the kind */
    bowl: string().oneOf(['inlet', 'outlet'], 'must be inlet or outlet').optional(),
    /** what it catches runs back to the engine: by the port it breathes through, or by a line of its own */
    drain: string().oneOf(['shared', 'own'], 'must be shared or own').optional(),
    stages: array()
      .of(oneOfKinds<StageSpec>('type', 'stage', () => stageSchemas))
      .required('is missing')
      .max(MAX_STAGES, 'has too many stages'),
  }),
  sensor: shape({ ...partBase, kind: choice('sensor'), ...numbers(PART_FIELDS.sensor) }),
  filter: shape({ ...partBase, kind: choice('filter'), ...numbers(PART_FIELDS.filter) }),
  manifold: shape({ ...partBase, kind: choice('manifold') }),
  inlet: shape({ ...partBase, kind: choice('inlet'), ...numbers(PART_FIELDS.inlet) }),
  chargePipe: shape({ ...partBase, kind: choice('chargePipe') }),
  /** between throttle and supercharger: sucks while the throttle is closed, never sees boost */
  blowerInlet: shape({ ...partBase, kind: choice('blowerInlet') }),
  /** an exhaust collector with a slash-cut pipe in it: `suctionKpa` below the surroundings at rated flow */
  exhaust: shape({ ...partBase, kind: choice('exhaust'), ...numbers(PART_FIELDS.exhaust) }),
  atmosphere: shape({ ...partBase, kind: choice('atmosphere') }),
} satisfies Record<keyof typeof PART_FIELDS, ObjectSchema<{ kind: string }>>

export type PartKind = keyof typeof partSchemas
export type PartOf<K extends PartKind> = Omit<InferType<(typeof partSchemas)[K]>, 'kind'> & { kind: K }
export type Part = { [K in PartKind]: PartOf<K> }[PartKind]
export type Port = InferType<typeof portSchema>
export const partSchema = oneOfKinds<Part>('kind', 'part', () => partSchemas)

const endSchema = shape({
  part: id(),
  port: id(),
  /** turn of a tight elbow at this end, 0 straight; through-bore of the fitting's barb, where it is less than the hose */
  ...numbers(END_FIELDS),
})
export const lineSchema = shape({
  id: id(),
  name: name(),
  /** direct: the two ports are one opening, with no hose between. drain: oil runs back through it and fills it, so no gas does */
  kind: choice('hose', 'direct', 'drain'),
  from: endSchema,
  to: endSchema,
  ...numbers(LINE_FIELDS),
  bends: array(shape(numbers(BEND_FIELDS)))
    .required('is missing')
    .max(MAX_BENDS, 'has too many bends'),
  /** points of the bay that it is led by, between its ends; length and bends follow from them */
  way: array(shape(numbers(SPOT_FIELDS)))
    .max(MAX_WAY, 'has too many points')
    .optional()
    .default(undefined),
})
export type Line = InferType<typeof lineSchema>
export type LineEnd = InferType<typeof endSchema>

const overrideSchema = shape(numbers(OVERRIDE_FIELDS))
export type Override = InferType<typeof overrideSchema>

export const engineSchema = shape({
  ...numbers(ENGINE_FIELDS),
  layout: choice('inline', 'vee', 'flat'),
  induction: choice('na', 'turbo', 'super'),
  injection: choice('port', 'direct', 'dual'),
  rings: choice('tight', 'normal', 'loose', 'worn'),
  pickUp: choice(...PICK_UPS),
  /**
   * A measured blow-by replaces the estimate from the ring class: read from a flow meter, or worked out from the crankcase pressure while
   * everything leaves through one orifice of known bore to the open air.
   */
  blowBy: shape({ state: choice(...STATE_IDS), ...numbers(BLOW_BY_FIELDS) })
    .optional()
    .default(undefined),
  sump: choice('wet', 'dry'),
  /** of a four: pistons that move in pairs (paired pins, big bang) pump the crankcase; left out: they cancel */
  pistons: string().oneOf(['even', 'paired'], 'must be even or paired').optional(),
  /** open hose, metered hole, hole with a full-load check beside it, or by a diaphragm's leave; left out: by whether a hole is given */
  freshAir: string()
    .oneOf(FRESH_AIR, `must be one of ${FRESH_AIR.join(', ')}`)
    .optional(),
  /** left out: petrol */
  fuel: string()
    .oneOf(FUELS, `must be one of ${FUELS.join(', ')}`)
    .optional(),
  /** figures of a state that were measured or are known better */
  overrides: shape(byKey(STATE_IDS, () => overrideSchema.optional().default(undefined))),
})
export type Engine = InferType<typeof engineSchema>

export const variantSchema = shape({
  id: id(),
  name: name(),
  school: reference(40).required('is missing'),
  /** baffles at the breather pick-up that this circuit brings, where they differ from the engine's own */
  pickUp: string()
    .oneOf([...PICK_UPS], `must be one of ${PICK_UPS.join(', ')}`)
    .optional(),
  parts: array().of(partSchema).required('is missing').max(MAX_PARTS, `has more than ${MAX_PARTS} parts`),
  lines: array(lineSchema).required('is missing').max(MAX_LINES, `has more than ${MAX_LINES} lines`),
})
export type Variant = InferType<typeof variantSchema>

/** A day that the calendar has: 2026-02-31 is none. */
export function isDay(text: string): boolean {
  return /^[12]\d{3}-\d{2}-\d{2}$/.test(text) && isValid(parseISO(text))
}

export const logEntrySchema = shape({
  id: id(),
  date: string()
    .required('is missing')
    .test('date', 'must be a day of the calendar such as 2026-05-30', (v) => typeof v === 'string' && isDay(v)),
  kind: choice(...LOG_KINDS),
  /** ml and waterMl: what came out and how much of it was water; sessions of 20 minutes on track since this can's last entry */
  ...numbers(LOG_FIELDS),
  /** what cannot be measured: it was brim full or had run over, so that at least its bowl came together; there was a film at most */
  seen: string()
    .oneOf(SEEN, `must be one of ${SEEN.join(', ')}`)
    .optional(),
  looks: string()
    .oneOf(LOOKS, `must be one of ${LOOKS.join(', ')}`)
    .optional(),
  /** of an oil level: by the marks of the engine's dipstick */
  level: string()
    .oneOf(LEVELS, `must be one of ${LEVELS.join(', ')}`)
    .optional(),
  /** the plan that was on the engine then; left out, the first of the build */
  plan: reference(LOG_NAME).optional(),
  /** the can that was fitted, emptied or looked at */
  part: reference(LOG_NAME).optional(),
  /** one figure, of the crankcase or of what `at` names: the drop across a part, flow or velocity in a hose */
  reading: shape({ state: choice(...STATE_IDS), at: reference(LOG_NAME).optional(), ...numbers(READING_FIELDS) })
    .optional()
    .default(undefined),
  note: text(LOG_NOTE).optional(),
})
export type LogEntry = InferType<typeof logEntrySchema>

export const buildSchema = shape({
  format: choice(FORMAT),
  version: required({ label: 'Version', min: 1, max: FORMAT_VERSION, whole: true }),
  name: name(),
  about: text(200).defined('is missing'),
  /** words to find it by in the garage */
  tags: array(text(MAX_TAG_LETTERS).required('is missing')).max(MAX_TAGS, 'has too many').optional().default(undefined),
  /** put away in the garage: kept whole, and out of the list and the calendar */
  away: boolean().optional(),
  units: shape({
    system: choice('metric', 'imperial'),
    pressure: choice('kPa', 'inHg', 'inH2O', 'psi'),
    flow: choice('l/min', 'cfm'),
  }),
  site: shape({
    ...numbers(SITE_FIELDS),
    /** months as they are where it is driven: one of the ready climates */
    climate: string()
      .oneOf(CLIMATES, `must be one of ${CLIMATES.join(', ')}`)
      .optional(),
    /** the coldest night of each month as the builder knows them, C, January first: they count before any ready climate */
    nights: array(required(NIGHT_FIELD)).length(12, 'must be twelve months').optional().default(undefined),
  }),
  engine: engineSchema,
  duty: shape({
    /** catchRuleMl: smallest catch tank that the class rules ask for; the rulebook decides */
    ...numbers(DUTY_FIELDS),
    /** on track; without one, tyres for the road */
    tyres: string().oneOf(['slicks'], 'must be slicks').optional(),
    /** hours, in any unit: only their proportions count */
    hours: shape(byKey(ACTIVITIES, () => required(HOURS_FIELD))),
  }),
  /** who builds it: what there is to do it with, and what will not be done */
  bench: shape({
    has: array(choice(...MEANS))
      .max(MEANS.length, 'names too many')
      .optional()
      .default(undefined),
    refuses: array(choice(...MEANS))
      .max(MEANS.length, 'names too many')
      .optional()
      .default(undefined),
  })
    .optional()
    .default(undefined),
  active: id(),
  /** the plan that is on the car; left out: the one whose can the log last tells of */
  fitted: reference(40).optional(),
  variants: array(variantSchema)
    .required('is missing')
    .min(1, 'needs at least one')
    .max(MAX_VARIANTS, `has more than ${MAX_VARIANTS}`),
  /** figures that readings put into the plan, by their place, and as they put them: estimates until another figure stands there */
  learned: array(
    shape({
      id: reference(300).required('is missing'),
      figure: required({ label: 'Figure', min: -1e9, max: 1e9 }),
      /** what stood there before the first reading; none where a default did */
      before: required({ label: 'Figure before', min: -1e9, max: 1e9, optional: true }),
    }),
  )
    .max(MAX_LEARNED, 'has too many')
    .optional()
    .default(undefined),
  kindPrior: kindPriorSchema.optional().default(undefined),
  bay: baySchema.optional().default(undefined),
  fit: fitSchema.optional().default(undefined),
  ask: askSchema.optional().default(undefined),
  cases: array(caseSchema).max(MAX_CASES, 'has too many').optional().default(undefined),
  log: array(logEntrySchema).required('is missing').max(MAX_LOG, `has more than ${MAX_LOG} entries`),
})
export type { Bay } from './bay-schema'
export type { FitNotes } from './fit-schema'
export type { FaultCase } from './case-schema'
export type { KindPrior } from './kind-prior-schema'
export type Build = InferType<typeof buildSchema>
