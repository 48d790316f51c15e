/** Cans and separators. */
import type { Entry } from './entry'

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
    key: 'wide-mesh',
    name: 'Wide mesh can',
    about: 'the mesh can with a larger face: for the breather side, which must cost little',
    spec: {
      model: 'wide-mesh',
      bowlMl: 500,
      dropKpaAt100: 0.2,
      linearPct: 30,
      faceCm2: 64,
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
