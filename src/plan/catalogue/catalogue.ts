/** Parts by general class, with typical figures (estimates): what a builder picks from, and may then measure and correct. */
import type { PartOf } from '../document/schema'

type Spec<K extends 'can' | 'pcv' | 'check'> = Omit<PartOf<K>, 'id' | 'name' | 'ports' | 'kind' | 'at' | 'stuck'>
export type Entry<K extends 'can' | 'pcv' | 'check'> = {
  readonly key: string
  readonly name: string
  readonly about: string
  readonly spec: Spec<K>
}

export const CANS: readonly Entry<'can'>[] = [
  {
    key: 'hollow',
    name: 'Hollow can',
    about: 'an empty cup: catches splash, little mist',
    spec: {
      model: 'hollow',
      bowlMl: 90,
      dropKpaAt100: 0.2,
      linearPct: 10,
      faceCm2: 28,
      packed: false,
      surfaceCm2: 220,
      stages: [
        { type: 'impactor', jets: 1, jetDiameterMm: 9.5 },
        { type: 'settling', floorCm2: 28 },
      ],
    },
  },
  {
    key: 'baffled',
    name: 'Baffled can',
    about: 'gas turns round plates: good on splash, fair on mist',
    spec: {
      model: 'baffled',
      bowlMl: 350,
      dropKpaAt100: 0.45,
      linearPct: 15,
      faceCm2: 44,
      packed: false,
      surfaceCm2: 420,
      stages: [
        { type: 'impactor', jets: 6, jetDiameterMm: 5 },
        { type: 'impactor', jets: 10, jetDiameterMm: 4 },
        { type: 'settling', floorCm2: 44 },
      ],
    },
  },
  {
    key: 'mesh',
    name: 'Mesh can',
    about: 'wire mesh after a turn: the usual track can',
    spec: {
      model: 'mesh',
      bowlMl: 500,
      dropKpaAt100: 0.35,
      linearPct: 30,
      faceCm2: 35,
      packed: true,
      surfaceCm2: 480,
      stages: [
        { type: 'impactor', jets: 1, jetDiameterMm: 12.7 },
        { type: 'fibre', fibreUm: 110, solidityPct: 2, thicknessMm: 30, faceCm2: 35 },
      ],
    },
  },
  {
    key: 'fine',
    name: 'Fine-fibre separator',
    about: 'coalescing media: takes mist too, costs pressure',
    spec: {
      model: 'fine',
      bowlMl: 400,
      dropKpaAt100: 1.1,
      linearPct: 75,
      faceCm2: 90,
      packed: true,
      surfaceCm2: 520,
      stages: [
        { type: 'impactor', jets: 1, jetDiameterMm: 12.7 },
        { type: 'fibre', fibreUm: 8, solidityPct: 6, thicknessMm: 6, faceCm2: 90 },
      ],
    },
  },
  {
    key: 'cyclone',
    name: 'Cyclone separator',
    about: 'spins the gas: strong in boost, weak at idle',
    spec: {
      model: 'cyclone',
      bowlMl: 300,
      dropKpaAt100: 0.9,
      linearPct: 5,
      faceCm2: 40,
      packed: false,
      surfaceCm2: 380,
      stages: [{ type: 'cyclone', inletWidthMm: 7, inletHeightMm: 16, turns: 5 }],
    },
  },
]

export const PCVS: readonly Entry<'pcv'>[] = [
  {
    key: 'small',
    name: 'Small plunger',
    about: 'engines to about 1.6 l',
    spec: {
      model: 'small',
      areaMm2ByKpa: [
        [0, 8],
        [8, 7],
        [25, 4],
        [50, 1.9],
        [90, 1.5],
      ],
    },
  },
  {
    key: 'medium',
    name: 'Medium plunger',
    about: 'engines of 1.6 to 3 l',
    spec: {
      model: 'medium',
      areaMm2ByKpa: [
        [0, 14],
        [8, 12],
        [25, 7],
        [50, 3.2],
        [90, 2.6],
      ],
    },
  },
  {
    key: 'large',
    name: 'Large plunger',
    about: 'big sixes and eights',
    spec: {
      model: 'large',
      areaMm2ByKpa: [
        [0, 24],
        [8, 21],
        [25, 13],
        [50, 6.4],
        [90, 5],
      ],
    },
  },
  {
    key: 'fixed',
    name: 'Fixed orifice, 2.2 mm',
    about: 'no plunger: flow grows with suction',
    spec: { model: 'fixed', areaMm2ByKpa: [[0, 3.8]] },
  },
]

export const CHECKS: readonly Entry<'check'>[] = [
  {
    key: 'small',
    name: '6.5 mm seat',
    about: 'small vacuum lines',
    spec: { model: 'small', seatMm: 6.5, crackKpa: 0.5 },
  },
  {
    key: 'medium',
    name: '9 mm seat',
    about: 'a 10 to 13 mm line',
    spec: { model: 'medium', seatMm: 9, crackKpa: 0.4 },
  },
  {
    key: 'large',
    name: '12 mm seat',
    about: 'a 13 to 16 mm line',
    spec: { model: 'large', seatMm: 12, crackKpa: 0.2 },
  },
]

export const DISCHARGE = {
  passage: 0.6,
  pcv: 0.7,
  check: 0.62,
  restrictor: 0.62,
  regulator: 0.62,
  sensor: 0.9,
} as const

/** Which check valve goes with a hose of this bore. */
export const checkFor = (boreMm: number): 'small' | 'medium' | 'large' =>
  boreMm <= 9 ? 'small' : boreMm <= 13 ? 'medium' : 'large'

/** Hose through-bores in mm that are sold: inch and metric rubber, and braided by dash size. */
export const HOSE_BORES: readonly { readonly mm: number; readonly name: string }[] = [
  { mm: 6.3, name: '1/4 in' },
  { mm: 7.9, name: '5/16 in' },
  { mm: 8.7, name: '-6' },
  { mm: 9.5, name: '3/8 in' },
  { mm: 11.1, name: '-8' },
  { mm: 12.7, name: '1/2 in' },
  { mm: 14.3, name: '-10' },
  { mm: 15.9, name: '5/8 in' },
  { mm: 17.5, name: '-12' },
  { mm: 19, name: '3/4 in' },
  { mm: 22.2, name: '-16' },
  { mm: 25.4, name: '1 in' },
]

export const entryOf = <K extends 'can' | 'pcv' | 'check'>(list: readonly Entry<K>[], key: string): Entry<K> => {
  const found = list.find((e) => e.key === key)
  if (!found) throw new RangeError(`no ${key} in the catalogue`)
  return found
}
