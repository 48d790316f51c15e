/** Ready bays by layout, invented, so that nobody starts from an empty sheet: every figure is an estimate until the tape has been there. */
import { spotsAsked } from '../bay/geometry'
import type { Bay, Build, Part, Variant } from '../document/schema'

type Place = readonly [forwardMm: number, leftMm: number, upMm: number]
type ReadyBay = {
  readonly key: string
  readonly name: string
  readonly datum: string
  /** by part and port, else by kind of part and port, else by kind */
  readonly places: Readonly<Record<string, Place>>
  readonly keepOuts: readonly Omit<Bay['keepOuts'][number], 'id' | 'measured'>[]
  readonly bonnet: readonly Place[]
}

const box = (
  name: string,
  kind: Bay['keepOuts'][number]['kind'],
  [forwardMm, leftMm, upMm]: Place,
  [longMm, wideMm, highMm]: Place,
  surfaceC?: number,
): ReadyBay['keepOuts'][number] => ({
  name,
  kind,
  forwardMm,
  leftMm,
  upMm,
  longMm,
  wideMm,
  highMm,
  ...(surfaceC === undefined ? {} : { surfaceC }),
})

export const READY_BAYS: readonly ReadyBay[] = [
  {
    key: 'transverse',
    name: 'Transverse engine, strut tower beside it',
    datum: 'Left strut top',
    places: {
      'cover.breather': [310, -420, -35],
      'cover.pcv': [280, -480, -40],
      'cover.filler': [250, -350, -20],
      'manifold.vacuum': [430, -440, -150],
      'inlet.breather': [520, -150, -60],
      inlet: [520, -190, -80],
      'crankcase.return': [180, -520, -400],
      crankcase: [240, -520, -380],
      manifold: [430, -470, -160],
      cover: [300, -380, -30],
      chargePipe: [430, -300, -80],
      pcv: [290, -480, -20],
      tank: [40, -700, -200],
      filter: [60, -120, 40],
    },
    keepOuts: [
      box('Exhaust housing', 'hot', [150, -640, -180], [190, 190, 190], 650),
      box('Belt', 'moving', [640, -380, -220], [60, 300, 300]),
      box('Charge pipe', 'panel', [470, -300, -190], [300, 65, 65]),
      box('Fuse box', 'electrical', [260, -60, -120], [160, 110, 120]),
    ],
    bonnet: [
      [60, -90, 120],
      [300, -420, 90],
      [700, -400, 30],
    ],
  },
  {
    key: 'longitudinal',
    name: 'Longitudinal engine between the struts',
    datum: 'Left strut top',
    places: {
      'coverL.breather': [260, -330, -60],
      'coverR.breather': [260, -640, -60],
      'coverR.pcv': [180, -640, -60],
      'cover.breather': [300, -430, -30],
      'cover.pcv': [180, -430, -30],
      'manifold.vacuum': [220, -500, -20],
      'inlet.breather': [560, -480, -40],
      inlet: [560, -520, -60],
      'crankcase.return': [150, -420, -450],
      crankcase: [250, -420, -440],
      manifold: [240, -500, -20],
      cover: [250, -400, -40],
      chargePipe: [600, -250, -200],
      pcv: [190, -630, -40],
      tank: [-120, -300, -150],
      filter: [60, -120, 60],
    },
    keepOuts: [
      box('Exhaust manifold', 'hot', [220, -230, -320], [400, 90, 160], 550),
      box('Belt and fan', 'moving', [660, -480, -200], [120, 460, 400]),
      box('Brake servo', 'brake', [-120, -150, -80], [220, 240, 240]),
      box('Steering shaft', 'moving', [0, -260, -350], [300, 50, 50]),
    ],
    bonnet: [
      [0, -200, 110],
      [300, -480, 120],
      [700, -480, 50],
    ],
  },
]

/** Where a first can and each further one hang until they are placed. */
const CANS: readonly Place[] = [
  [60, -110, -140],
  [60, -240, -140],
  [-80, -110, -140],
]

function placeOf({ places }: ReadyBay, part: Part, id: string, cans: number, others: number): Place {
  if (part.kind === 'can') return CANS[cans % CANS.length]!
  const found = places[id] ?? places[`${part.kind}.${id.split('.')[1] ?? ''}`] ?? places[part.kind] ?? places[part.id]
  // what stands in a line and has no place of its own hangs between engine and tower, side by side
  return found ?? [180 + 30 * others, -260, -20]
}

/** A ready bay for a plan: what the tape has measured already stays. */
export function readyBay(build: Build, variant: Variant, key: string): Bay {
  const ready = READY_BAYS.find((r) => r.key === key) ?? READY_BAYS[0]!
  const known = new Map((build.bay?.spots ?? []).filter((s) => s.measured).map((s) => [s.id, s]))
  let [cans, others] = [0, 0]
  const spots = spotsAsked(variant).map(({ id, part }) => {
    const measured = known.get(id)
    const [forwardMm, leftMm, upMm] = placeOf(ready, part, id, cans, others)
    if (part.kind === 'can') cans++
    else others++
    known.delete(id)
    return measured ?? { id, forwardMm, leftMm, upMm, measured: false }
  })
  return {
    datum: ready.datum,
    spots: [...spots, ...known.values()],
    keepOuts: ready.keepOuts.map((k, i) => ({ id: `keep-out-${i + 1}`, ...k, measured: false })),
    bonnet: ready.bonnet.map(([forwardMm, leftMm, upMm], i) => ({
      id: `bonnet-${i + 1}`,
      forwardMm,
      leftMm,
      upMm,
      measured: false,
    })),
  }
}

/** The ready bay that an engine's layout suggests. */
export const bayFor = (e: Build['engine']): string =>
  e.layout === 'vee' && e.cylinders > 2 ? 'longitudinal' : 'transverse'
