/**
 * What every number of a build is, said once: its name, the unit it is kept in, its limits, what stands in when it is not given, how far a
 * typical figure may be off and what would measure it. The schema takes its limits from here; inspector, workings, sensitivity, ranges and
 * comparison read it.
 */
import { RING_SHARE_RANGE } from '@/core/engine/states'
import type { Dimension } from '@/core/units/units'

/** Units that documents are kept in, by the ending of a field's name. */
export const KEPT = {
  Gs: ['gasFlow', 'g/s'],
  MPerS: ['speed', 'm/s'],
  Lpm: ['gasFlow', 'l/min'],
  Mm: ['length', 'mm'],
  Um: ['length', 'um'],
  Mm2: ['area', 'mm2'],
  Cm2: ['area', 'cm2'],
  Kpa: ['pressure', 'kPa'],
  Cc: ['volume', 'cc'],
  Ml: ['volume', 'ml'],
  Km: ['distance', 'km'],
  M: ['altitude', 'm'],
  C: ['temperature', 'C'],
  Deg: ['angle', 'deg'],
  Rpm: ['rotation', 'rpm'],
  Pct: ['share', '%'],
} as const satisfies Record<string, readonly [Dimension, string]>
export type StoredUnit = keyof typeof KEPT

/** How far a figure may be off: 80 % of cases lie within, as a factor either way or as so much more or less in the unit it is kept in. */
export type Spread = { readonly times: number } | { readonly plus: number }

export type Field = {
  readonly label: string
  /** left out for a plain number */
  readonly kept?: StoredUnit
  /** behind a plain number on a screen */
  readonly unit?: string
  readonly min: number
  readonly max: number
  readonly whole?: true
  readonly optional?: true
  /** an absolute pressure, which a vacuum gauge does not show */
  readonly absolute?: true
  /** bore of a hose: typed as a dash size or a fraction of an inch too */
  readonly hose?: true
  /** significant digits that are shown */
  readonly digits?: number
  /** what stands in when it is not given; what follows from other facts is in `model/engine` */
  readonly standIn?: number
  /** of a typical or catalogue figure; a figure without one is taken as entered */
  readonly spread?: Spread
  /** of the same figure once it was measured */
  readonly measured?: Spread
  /** what to do to know it better */
  readonly measure?: string
}

/** Points of one figure against another: pressure difference and open area. */
export type Curve = {
  readonly curve: { readonly x: Field; readonly y: Field }
  readonly label: string
  readonly spread: Spread
  readonly measured: Spread
  readonly measure: string
}

/** Media and screens that have filled: their drop against that of clean ones. */
const fouling = {
  label: 'Fouled, times the drop',
  min: 1,
  max: 30,
  optional: true,
  standIn: 1,
  digits: 3,
} as const satisfies Field
const cd = {
  label: 'Discharge coefficient',
  min: 0.1,
  max: 1,
  optional: true,
  digits: 2,
  spread: { times: 1.1 },
  measured: { times: 1.03 },
  measure: 'blow a known flow through it and read the drop',
} as const satisfies Field
const leakPct = {
  label: 'Leaks back, share of its opening',
  kept: 'Pct',
  min: 0,
  max: 100,
  optional: true,
  standIn: 0,
  digits: 2,
} as const satisfies Field
const drop = {
  dropKpaAt100: {
    label: 'Drop at 100 l/min',
    kept: 'Kpa',
    min: 0,
    max: 50,
    digits: 3,
    spread: { times: 1.3 },
    measured: { times: 1.1 },
    measure: 'read the pressure across it',
  },
  linearPct: { label: 'Share in step with flow', kept: 'Pct', min: 0, max: 100, digits: 3 },
} as const satisfies Record<string, Field>
const seat = {
  label: 'Seat',
  kept: 'Mm',
  min: 0,
  max: 60,
  digits: 3,
  spread: { times: 1.15 },
  measured: { times: 1.05 },
  measure: 'measure the seat and the lift',
} as const satisfies Field
const bore = (min: number, max: number) => ({ label: 'Bore', kept: 'Mm', min, max, digits: 3 }) as const satisfies Field

/** Numbers of each kind of part. Kinds without any are left out. */
export const PART_FIELDS = {
  crankcase: {},
  cover: {},
  tee: {},
  tank: {},
  manifold: {},
  chargePipe: {},
  blowerInlet: {},
  atmosphere: {},
  passage: {
    boreMm: {
      ...bore(0, 100),
      spread: { times: 1.12 },
      measured: { times: 1.03 },
      measure: 'measure the passages with a drill shank',
    },
    count: { label: 'How many', min: 1, max: 40, digits: 3 },
    cd,
  },
  pcv: {
    areaMm2ByKpa: {
      label: 'Open area',
      curve: {
        x: { label: 'Pressure difference', kept: 'Kpa', min: 0, max: 200, digits: 3 },
        y: { label: 'Open area', kept: 'Mm2', min: 0, max: 500, digits: 3 },
      },
      spread: { times: 1.25 },
      measured: { times: 1.08 },
      measure: 'flow it on a bench, or read flow against suction',
    },
    cd,
    leakPct,
  },
  check: {
    seatMm: seat,
    crackKpa: {
      label: 'Cracking pressure',
      kept: 'Kpa',
      min: 0,
      max: 20,
      digits: 3,
      spread: { times: 1.6 },
      measured: { times: 1.1 },
      measure: 'blow through it over a manometer until it opens',
    },
    cd,
    leakPct,
  },
  regulator: {
    boreMm: bore(0, 60),
    setKpa: {
      label: 'Holds',
      kept: 'Kpa',
      min: -30,
      max: 5,
      digits: 3,
      spread: { times: 1.2 },
      measured: { times: 1.05 },
      measure: 'read crankcase pressure at a high idle',
    },
    bandKpa: { label: 'Band', kept: 'Kpa', min: 0.1, max: 20, digits: 3 },
    cd,
  },
  relief: {
    seatMm: { label: 'Seat', kept: 'Mm', min: 0, max: 60, digits: 3 },
    openKpa: { label: 'Opens at', kept: 'Kpa', min: 0, max: 50, digits: 3 },
    cd,
  },
  pump: {
    ccPerTurn: { label: 'Displacement a turn', kept: 'Cc', min: 0, max: 1000, digits: 3 },
    ratio: { label: 'Turns per engine turn', min: 0.05, max: 4, digits: 3 },
    clearancePct: { label: 'Clearance', kept: 'Pct', min: 0, max: 200, digits: 3 },
  },
  restrictor: { boreMm: bore(0, 60), cd },
  can: {
    ...drop,
    bowlMl: { label: 'Bowl below the port', kept: 'Ml', min: 5, max: 20000, digits: 3 },
    /** a hose from the bowl to a tap where a hand reaches; left out, the bowl itself is emptied */
    tapMm: { label: 'Drain hose to a tap', kept: 'Mm', min: 0, max: 3000, digits: 3, optional: true },
    faceCm2: { label: 'Face across the gas', kept: 'Cm2', min: 1, max: 2000, digits: 3 },
    surfaceCm2: { label: 'Outside surface', kept: 'Cm2', min: 10, max: 20000, digits: 3 },
    fouling,
  },
  sensor: { boreMm: bore(1, 60) },
  filter: {
    ...drop,
    fouling,
  },
  inlet: {
    depressionPct: { label: 'Share of the inlet depression felt here', kept: 'Pct', min: 0, max: 100, digits: 3 },
  },
  exhaust: { suctionKpa: { label: 'Suction at rated flow', kept: 'Kpa', min: -20, max: 30, digits: 3 } },
} as const satisfies Record<string, Record<string, Field | Curve>>

/** Numbers of each kind of stage in a can. */
export const STAGE_FIELDS = {
  impactor: {
    jets: { label: 'Jets', min: 1, max: 500 },
    jetDiameterMm: { label: 'Jet diameter', kept: 'Mm', min: 0.5, max: 60 },
  },
  cyclone: {
    inletWidthMm: { label: 'Inlet width', kept: 'Mm', min: 1, max: 60 },
    inletHeightMm: { label: 'Inlet height', kept: 'Mm', min: 1, max: 100 },
    turns: { label: 'Turns', min: 0.5, max: 20 },
  },
  settling: { floorCm2: { label: 'Floor', kept: 'Cm2', min: 1, max: 2000 } },
  fibre: {
    fibreUm: { label: 'Fibre diameter', kept: 'Um', min: 1, max: 1000 },
    solidityPct: { label: 'Solidity', kept: 'Pct', min: 0.2, max: 40 },
    thicknessMm: { label: 'Thickness', kept: 'Mm', min: 1, max: 200 },
    faceCm2: { label: 'Face', kept: 'Cm2', min: 1, max: 2000 },
  },
} as const satisfies Record<string, Record<string, Field>>

export const LINE_FIELDS = {
  boreMm: { ...bore(0, 100), hose: true },
  lengthMm: { label: 'Straight length', kept: 'Mm', min: 0, max: 20000, digits: 3 },
  // of the second end above the first: where gas climbs slowly, oil on the wall runs back
  riseMm: { label: 'Rises by', kept: 'Mm', min: -3000, max: 3000, optional: true, digits: 3 },
} as const satisfies Record<string, Field>
export const BEND_FIELDS = {
  angleDeg: { label: 'Angle', kept: 'Deg', min: 0, max: 180, digits: 3 },
  radiusMm: { label: 'Radius', kept: 'Mm', min: 1, max: 2000, digits: 3 },
} as const satisfies Record<string, Field>
export const END_FIELDS = {
  elbowDeg: { label: 'Elbow', kept: 'Deg', min: 0, max: 150, optional: true },
  barbMm: {
    label: 'Barb bore',
    kept: 'Mm',
    min: 0.5,
    max: 100,
    optional: true,
    digits: 3,
    spread: { plus: 0.75 },
    measured: { plus: 0.1 },
    measure: 'measure the bore of a barb with a drill shank',
  },
} as const satisfies Record<string, Field>
export const PORT_FIELDS = {
  /** of a cover's outlet: plates with rows of holes that the builder puts under it */
  baffles: { label: 'Plates', min: 0, max: 4, whole: true, optional: true },
  baffleHoles: { label: 'Holes a plate', min: 2, max: 300, whole: true, optional: true },
  baffleHoleMm: { label: 'Holes of', kept: 'Mm', min: 1.5, max: 30, digits: 3, optional: true },
  baffleGapMm: { label: 'Channel behind each', kept: 'Mm', min: 2, max: 60, digits: 3, optional: true },
  baffleReturns: { label: 'Oil returns a plate', min: 1, max: 12, whole: true, optional: true },
  baffleReturnMm: { label: 'Returns of', kept: 'Mm', min: 2, max: 15, digits: 3, optional: true },
  boreMm: {
    ...bore(0.5, 100),
    label: 'Port bore',
    optional: true,
    spread: { times: 1.25 },
    measured: { times: 1.04 },
    measure: 'read the crankcase at idle, or try the hole with a drill shank',
  },
  lossKpaAt100: {
    label: 'Baffle and nipple at 100 l/min',
    kept: 'Kpa',
    min: 0,
    max: 20,
    optional: true,
    standIn: 0.5,
    digits: 3,
    spread: { times: 2 },
    measured: { times: 1.15 },
    measure: 'read the pressure at the dipstick tube against that at the nipple, in a pull',
  },
} as const satisfies Record<string, Field>
export const PLACE_FIELDS = {
  x: { label: 'Across', min: -2000, max: 4000 },
  y: { label: 'Down', min: -2000, max: 4000 },
} as const satisfies Record<string, Field>

/** A bent strip, as it is calculated at the bench. */
export const BRACKET_FIELDS = {
  leg: { label: 'Leg', kept: 'Mm', min: 1, max: 2000 },
  thickness: { label: 'Thickness', kept: 'Mm', min: 0.5, max: 12 },
  radius: { label: 'Inside radius', kept: 'Mm', min: 0, max: 100 },
  angle: { label: 'Angle', kept: 'Deg', min: 1, max: 150 },
} as const satisfies Record<string, Field>

export const ENGINE_FIELDS = {
  cylinders: { label: 'Cylinders', min: 1, max: 12, whole: true },
  displacementCc: { label: 'Displacement', kept: 'Cc', min: 30, max: 15000 },
  boreMm: { label: 'Bore', kept: 'Mm', min: 20, max: 200 },
  compression: { label: 'Compression ratio', unit: ': 1', min: 5, max: 25 },
  idleRpm: { label: 'Idle', kept: 'Rpm', min: 300, max: 3000 },
  ratedRpm: { label: 'Rated speed', kept: 'Rpm', min: 1500, max: 20000 },
  boostKpa: { label: 'Boost at rated speed', kept: 'Kpa', min: 0, max: 500 },
  pistonPhaseDeg: { label: 'Pistons apart, crank degrees', kept: 'Deg', min: 0, max: 180, optional: true },
  crankcaseCc: { label: 'Crankcase, free volume', kept: 'Cc', min: 50, max: 60000, optional: true },
  idleManifoldKpa: {
    label: 'Manifold at idle, absolute',
    absolute: true,
    kept: 'Kpa',
    min: 10,
    max: 105,
    optional: true,
    standIn: 35,
    spread: { plus: 6.4 },
    measured: { plus: 1.3 },
    measure: 'log it at warm idle',
  },
  inletDepressionKpa: {
    label: 'Inlet depression, rated',
    kept: 'Kpa',
    min: 0,
    max: 30,
    optional: true,
    spread: { times: 1.5 },
    measured: { times: 1.08 },
    measure: 'read it ahead of the throttle or compressor at rated speed',
  },
  inletFouling: { label: 'Air filter fouling, ×', min: 1, max: 5, optional: true, standIn: 1 },
  freshHoleMm: { label: 'Fresh-air hole', kept: 'Mm', min: 1, max: 30, optional: true, digits: 3 },
  blowByTimes: {
    label: 'Blow-by, times that of the ring class',
    min: 0.1,
    max: 10,
    optional: true,
    standIn: 1,
    digits: 3,
    spread: { times: RING_SHARE_RANGE },
    measure: 'measure blow-by with a meter or an orifice',
  },
  oilC: {
    label: 'Oil in use, warmed through',
    kept: 'C',
    min: 40,
    max: 150,
    optional: true,
    standIn: 95,
    digits: 3,
  },
  oilLevelPct: {
    label: 'Oil above full (− below), of the sump',
    kept: 'Pct',
    min: -30,
    max: 30,
    optional: true,
    standIn: 0,
  },
} as const satisfies Record<string, Field>

/** A blow-by that was measured: by meter, or by a known orifice and the crankcase pressure over it. */
export const BLOW_BY_FIELDS = {
  lpm: { label: 'Blow-by, measured', kept: 'Lpm', min: 0.1, max: 2000, optional: true, digits: 3 },
  orificeMm: { label: 'Orifice bore', kept: 'Mm', min: 1, max: 60, optional: true, digits: 3 },
  kpa: { label: 'Crankcase, gauge', kept: 'Kpa', min: 0.01, max: 50, optional: true, digits: 3 },
} as const satisfies Record<string, Field>

/** Figures of a state that replace what is derived. */
export const OVERRIDE_FIELDS = {
  rpm: { label: 'Speed', kept: 'Rpm', min: 100, max: 25000, optional: true },
  manifoldKpa: {
    label: 'Manifold, absolute',
    absolute: true,
    kept: 'Kpa',
    min: 5,
    max: 700,
    optional: true,
    digits: 3,
    spread: { plus: 10 },
    measured: { plus: 2 },
    measure: 'log the manifold at a steady cruise',
  },
  inletDepressionKpa: { label: 'Inlet depression', kept: 'Kpa', min: 0, max: 40, optional: true, digits: 3 },
  airGs: { label: 'Engine air', kept: 'Gs', min: 0.05, max: 5000, optional: true, digits: 3 },
  gasC: { label: 'Crankcase gas', kept: 'C', min: -40, max: 180, optional: true, digits: 3 },
  bonnetC: { label: 'Air under the bonnet', kept: 'C', min: -40, max: 150, optional: true, digits: 3 },
} as const satisfies Record<string, Field>

export const SITE_FIELDS = {
  altitudeM: { label: 'Altitude', kept: 'M', min: -450, max: 5000 },
  pressureKpa: { label: 'Barometer', kept: 'Kpa', min: 45, max: 110, optional: true },
  ambientC: { label: 'Outside air', kept: 'C', min: -40, max: 55 },
  humidityPct: { label: 'Humidity', kept: 'Pct', min: 0, max: 100 },
} as const satisfies Record<string, Field>

/** The coldest night of a month. */
export const NIGHT_FIELD = { label: 'Coldest night', kept: 'C', min: -60, max: 45 } as const satisfies Field

export const DUTY_FIELDS = {
  kmPerYear: { label: 'A year', kept: 'Km', min: 10, max: 300000 },
  checkEveryKm: { label: 'Distance between looks', kept: 'Km', min: 20, max: 50000 },
  catchRuleMl: { label: 'Class asks for a tank of', kept: 'Ml', min: 100, max: 20000, optional: true },
} as const satisfies Record<string, Field>
/** Hours of one kind of use. */
export const HOURS_FIELD = { label: 'Hours', unit: 'h', min: 0, max: 1000 } as const satisfies Field

export type PartWithFields = keyof typeof PART_FIELDS
/** Whether a field is a curve of points, not a single number. */
export const isCurve = (f: Field | Curve): f is Curve => 'curve' in f

/** The numbers of a kind of part by name; none for a kind that has no figures. */
export const fieldsOfPart = (kind: string): Readonly<Record<string, Field | Curve>> =>
  Object.hasOwn(PART_FIELDS, kind) ? PART_FIELDS[kind as PartWithFields] : {}

/** The plain numbers of a kind of part that a document may hold, curves left out. */
export const numbersOfPart = (kind: string): readonly (readonly [name: string, field: Field])[] =>
  Object.entries(fieldsOfPart(kind)).flatMap(([name, f]) => (isCurve(f) ? [] : [[name, f] as const]))
