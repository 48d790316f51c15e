/** Cans and separators. */
import { dropOf } from './stages'
import type { Entry } from './entry'

/** A can as it is built; what it costs follows from its holes, media and nipples. */
type Built = { readonly nippleMm: number } & Omit<Entry<'can'>['spec'], 'dropKpaAt100' | 'linearPct'>
const built = ({ nippleMm, ...spec }: Built): Entry<'can'>['spec'] => ({ ...spec, ...dropOf(spec.stages, nippleMm) })

export const CANS: readonly Entry<'can'>[] = [
  {
    key: 'hollow',
    name: 'Hollow can',
    about: 'an empty cup: catches splash, little mist',
    spec: built({
      nippleMm: 12.7,
      model: 'hollow',
      bowlMl: 90,
      faceCm2: 28,
      packed: false,
      surfaceCm2: 220,
      stages: [
        { type: 'impactor', jets: 1, jetDiameterMm: 12.7 },
        { type: 'settling', floorCm2: 28 },
      ],
    }),
  },
  {
    key: 'baffled',
    name: 'Baffled can',
    about: 'gas turns round plates: good on splash, fair on mist',
    spec: built({
      nippleMm: 12.7,
      model: 'baffled',
      bowlMl: 350,
      faceCm2: 44,
      packed: false,
      surfaceCm2: 420,
      stages: [
        { type: 'impactor', jets: 6, jetDiameterMm: 5 },
        { type: 'impactor', jets: 10, jetDiameterMm: 4 },
        { type: 'settling', floorCm2: 44 },
      ],
    }),
  },
  {
    key: 'mesh',
    name: 'Mesh can',
    about: 'wire mesh after a turn: the usual track can',
    spec: built({
      nippleMm: 12.7,
      model: 'mesh',
      bowlMl: 500,
      faceCm2: 35,
      packed: true,
      surfaceCm2: 480,
      stages: [
        { type: 'impactor', jets: 1, jetDiameterMm: 12.7 },
        { type: 'fibre', fibreUm: 110, solidityPct: 2, thicknessMm: 30, faceCm2: 35 },
      ],
    }),
  },
  {
    key: 'wide-mesh',
    name: 'Wide mesh can',
    about: 'the mesh can with a larger face: for the breather side, which must cost little',
    spec: built({
      nippleMm: 15.9,
      model: 'wide-mesh',
      bowlMl: 500,
      faceCm2: 64,
      packed: true,
      surfaceCm2: 480,
      stages: [
        { type: 'impactor', jets: 1, jetDiameterMm: 15.9 },
        { type: 'fibre', fibreUm: 110, solidityPct: 2, thicknessMm: 30, faceCm2: 64 },
      ],
    }),
  },
  {
    key: 'fine',
    name: 'Fine-fibre separator',
    about: 'coalescing media: takes mist too, costs pressure',
    spec: built({
      nippleMm: 12.7,
      model: 'fine',
      bowlMl: 400,
      faceCm2: 90,
      packed: true,
      surfaceCm2: 520,
      stages: [
        { type: 'impactor', jets: 1, jetDiameterMm: 12.7 },
        { type: 'fibre', fibreUm: 8, solidityPct: 6, thicknessMm: 6, faceCm2: 90 },
      ],
    }),
  },
  {
    key: 'cyclone',
    name: 'Cyclone separator',
    about: 'spins the gas: strong in boost, weak at idle',
    spec: built({
      nippleMm: 15.9,
      model: 'cyclone',
      bowlMl: 300,
      faceCm2: 40,
      packed: false,
      surfaceCm2: 380,
      stages: [{ type: 'cyclone', inletWidthMm: 7, inletHeightMm: 16, turns: 5 }],
    }),
  },
  {
    key: 'wide-cyclone',
    name: 'Wide cyclone separator',
    about: 'the cyclone for a larger engine: a wider inlet, which costs a third',
    spec: built({
      nippleMm: 19,
      model: 'wide-cyclone',
      bowlMl: 400,
      faceCm2: 60,
      packed: false,
      surfaceCm2: 460,
      stages: [{ type: 'cyclone', inletWidthMm: 9, inletHeightMm: 22, turns: 5 }],
    }),
  },
  {
    key: 'big',
    name: 'Big vented can',
    about: 'rows of large holes in a wide can: costs little, catches splash, lets mist go',
    spec: built({
      nippleMm: 19,
      model: 'big',
      bowlMl: 2000,
      faceCm2: 110,
      packed: false,
      surfaceCm2: 1100,
      stages: [
        { type: 'impactor', jets: 20, jetDiameterMm: 6 },
        { type: 'impactor', jets: 24, jetDiameterMm: 5 },
        { type: 'settling', floorCm2: 110 },
      ],
    }),
  },
  {
    key: 'race-tank',
    name: 'Race breather tank',
    about: 'wide nipples and many large holes, for engines that make more than 250 l/min',
    spec: built({
      nippleMm: 28,
      model: 'race-tank',
      bowlMl: 3000,
      faceCm2: 180,
      packed: false,
      surfaceCm2: 1600,
      stages: [
        { type: 'impactor', jets: 40, jetDiameterMm: 8 },
        { type: 'settling', floorCm2: 180 },
      ],
    }),
  },
]
