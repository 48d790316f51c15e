/** PCV valves, checks, and how much of an ideal nozzle's flow each kind of opening passes. */
import type { Entry } from './entry'

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
    key: 'eight',
    name: 'Twin plunger',
    about: 'eights above 4.5 l',
    spec: {
      model: 'eight',
      areaMm2ByKpa: [
        [0, 38],
        [8, 33],
        [25, 20],
        [50, 10],
        [90, 8],
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
  {
    key: 'wide',
    name: '19 mm seat',
    about: 'a 19 to 25 mm line, and every breather that boost leaves by',
    spec: { model: 'wide', seatMm: 19, crackKpa: 0.15 },
  },
  {
    key: 'huge',
    name: '28 mm seat',
    about: 'the one way out of a strong engine',
    spec: { model: 'huge', seatMm: 28, crackKpa: 0.15 },
  },
]

/** Discharge coefficients by kind (estimates about a sharp-edged hole's 0.6; ISO 5167-2 has 0.60 to 0.62 for a plate in a pipe). */
export const DISCHARGE = {
  passage: 0.6,
  pcv: 0.7,
  check: 0.62,
  relief: 0.62,
  restrictor: 0.62,
  regulator: 0.62,
  sensor: 0.9,
} as const

/** Which check valve goes with a hose of this bore. */
export const checkFor = (boreMm: number): 'small' | 'medium' | 'large' | 'wide' =>
  boreMm <= 9 ? 'small' : boreMm <= 13 ? 'medium' : boreMm <= 17 ? 'large' : 'wide'
