/** What a column of a logger's file can be, the units that it may come in, and what it is kept as. */
type Quantity = 'time' | 'pressure' | 'speed' | 'share' | 'temperature' | 'ratio' | 'roadSpeed' | 'none'

export type RoleFacts = {
  readonly label: string
  readonly quantity: Quantity
  /** heads by which it is known, without marks and in small letters */
  readonly named?: RegExp
}
/** In the order in which a head is tried: what is told apart by more words comes first. */
export const ROLE_FACTS = {
  time: { label: 'Time', quantity: 'time', named: /^(time|t|seconds?|elapsed|timestamp|datetime|clock|zeit)\b/ },
  date: { label: 'Date, beside a time of day', quantity: 'none', named: /^date\b/ },
  crankcase: {
    label: 'Crankcase pressure',
    quantity: 'pressure',
    named: /\b(crank ?case|ccv|ccp|blow ?by|dipstick)\b/,
  },
  manifold: {
    label: 'Manifold pressure',
    quantity: 'pressure',
    named: /\b(map|manifold|boost|plenum|intake press\w*|charge press\w*)\b/,
  },
  rpm: { label: 'Engine speed', quantity: 'speed', named: /\b(rpm|engine speed|revs|n ?mot)\b/ },
  throttle: { label: 'Throttle', quantity: 'share', named: /\b(tps|throttle|pedal)\b/ },
  oilTemp: { label: 'Oil temperature', quantity: 'temperature', named: /\boil t\w*\b/ },
  coolant: { label: 'Coolant temperature', quantity: 'temperature', named: /\b(coolant|clt|ect|water t\w*)\b/ },
  airTemp: { label: 'Intake air temperature', quantity: 'temperature', named: /\b(iat|air t\w*|intake t\w*|mat)\b/ },
  lambda: { label: 'Lambda', quantity: 'ratio', named: /\b(lambda|afr|o2|wideband)\b/ },
  trim: { label: 'Fuel trim', quantity: 'share', named: /\b(trim|ltft|stft)\b/ },
  roadSpeed: {
    label: 'Road speed',
    quantity: 'roadSpeed',
    named: /\b(vss|road speed|vehicle speed|speed|gps speed)\b/,
  },
  other: { label: 'Kept as it is', quantity: 'none' },
} as const satisfies Record<string, RoleFacts>
export type ColumnRole = keyof typeof ROLE_FACTS
export const COLUMN_ROLES = Object.keys(ROLE_FACTS) as readonly ColumnRole[]

/** What one of a unit is in SI; a share is of 1, road speed m/s. Temperatures are known by their scale alone. */
export const LOGGER_UNITS: Readonly<Record<Exclude<Quantity, 'none' | 'ratio'>, Readonly<Record<string, number>>>> = {
  time: { s: 1, sec: 1, seconds: 1, ms: 1e-3, msec: 1e-3, us: 1e-6, min: 60, h: 3600 },
  pressure: {
    pa: 1,
    kpa: 1000,
    hpa: 100,
    mbar: 100,
    bar: 1e5,
    psi: 6894.757,
    psig: 6894.757,
    psia: 6894.757,
    inhg: 3386.389,
    inh2o: 249.0889,
    mmhg: 133.3224,
    cmh2o: 98.0665,
    mmh2o: 9.80665,
    kpaabs: 1000,
    barabs: 1e5,
  },
  speed: { rpm: 1, '1/min': 1, 'min-1': 1, hz: 60 },
  share: { '%': 0.01, '': 0.01, '1': 1 },
  temperature: { c: 1, k: 1, f: 5 / 9 },
  roadSpeed: { 'km/h': 1 / 3.6, kmh: 1 / 3.6, kph: 1 / 3.6, mph: 0.44704, 'm/s': 1 },
}
