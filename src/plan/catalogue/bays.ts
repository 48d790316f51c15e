/** Ready bays by layout, invented, so that nobody starts from an empty sheet: every figure is an estimate until the tape has been there. */
import { spotsAsked } from './bay-geometry'
import type { Bay, Build, Part, Variant } from '../document/schema'

type Position = readonly [forwardMm: number, leftMm: number, upMm: number]
type ReadyBay = {
  readonly key: string
  readonly name: string
  readonly datum: string
  /** by part and port, else by kind of part and port, else by kind */
  readonly places: Readonly<Record<string, Position>>
  readonly keepOuts: readonly Omit<Bay['keepOuts'][number], 'id' | 'measured'>[]
  readonly bonnet: readonly Position[]
  /** what a can may hang on */
  readonly mounts: readonly (readonly [name: string, kind: NonNullable<Bay['mounts']>[number]['kind'], at: Position])[]
}

const box = (
  name: string,
  kind: Bay['keepOuts'][number]['kind'],
  [[forwardMm, leftMm, upMm], [longMm, wideMm, highMm]]: readonly [middle: Position, size: Position],
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

/** A pipe that runs ahead, as thick as it is high. */
const pipeAhead = (...as: Parameters<typeof box>): ReadyBay['keepOuts'][number] => ({
  ...box(...as),
  round: true,
  lies: 'ahead',
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
      box(
        'Exhaust housing',
        'hot',
        [
          [150, -640, -180],
          [190, 190, 190],
        ],
        650,
      ),
      box('Belt', 'moving', [
        [640, -380, -220],
        [60, 300, 300],
      ]),
      pipeAhead('Charge pipe', 'panel', [
        [470, -300, -190],
        [300, 65, 65],
      ]),
      box('Fuse box', 'electrical', [
        [260, -60, -120],
        [160, 110, 120],
      ]),
    ],
    mounts: [
      ['Strut tower stud', 'stud', [20, -40, 0]],
      ['Fuse box bracket', 'bracket', [200, -40, -60]],
      ['Rail bolt', 'bolt', [420, -60, -260]],
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
      box(
        'Exhaust manifold',
        'hot',
        [
          [220, -230, -320],
          [400, 90, 160],
        ],
        550,
      ),
      box('Belt and fan', 'moving', [
        [660, -480, -200],
        [120, 460, 400],
      ]),
      box('Brake servo', 'brake', [
        [-120, -150, -80],
        [220, 240, 240],
      ]),
      box('Steering shaft', 'moving', [
        [0, -260, -350],
        [300, 50, 50],
      ]),
    ],
    mounts: [
      ['Strut tower stud', 'stud', [20, -40, 0]],
      ['Wing rail bolt', 'bolt', [300, -40, -40]],
      ['Servo bracket', 'bracket', [-60, -110, -20]],
    ],
    bonnet: [
      [0, -200, 110],
      [300, -480, 120],
      [700, -480, 50],
    ],
  },
  {
    key: 'flat',
    name: 'Flat engine low between the rails',
    datum: 'Left strut top',
    places: {
      'coverL.breather': [180, -130, -330],
      'coverR.breather': [180, -820, -330],
      'coverR.pcv': [60, -820, -330],
      'cover.breather': [180, -130, -330],
      'cover.pcv': [60, -820, -330],
      'cover.filler': [240, -180, -260],
      'manifold.vacuum': [140, -480, -120],
      'inlet.breather': [420, -300, -140],
      inlet: [420, -340, -150],
      'crankcase.return': [60, -400, -480],
      crankcase: [80, -470, -200],
      manifold: [160, -480, -130],
      cover: [120, -150, -340],
      chargePipe: [300, -520, -60],
      pcv: [80, -500, -180],
      tank: [-180, -200, -200],
      filter: [40, -100, 40],
    },
    keepOuts: [
      box(
        'Exhaust manifold',
        'hot',
        [
          [120, -470, -560],
          [420, 600, 80],
        ],
        520,
      ),
      box(
        'Turbo and downpipe',
        'hot',
        [
          [-40, -760, -200],
          [180, 170, 260],
        ],
        650,
      ),
      box('Belt', 'moving', [
        [520, -480, -260],
        [60, 420, 260],
      ]),
      box('Battery', 'electrical', [
        [420, -90, -120],
        [240, 170, 190],
      ]),
    ],
    mounts: [
      ['Strut tower stud', 'stud', [20, -40, 0]],
      ['Wing rail bolt', 'bolt', [320, -30, -60]],
    ],
    bonnet: [
      [0, -200, 80],
      [250, -480, 70],
      [600, -480, 0],
    ],
  },
  {
    key: 'mid',
    name: 'Mid-engine behind the cabin',
    datum: 'Left rear strut top',
    places: {
      'coverL.breather': [220, -300, -40],
      'coverR.breather': [220, -620, -40],
      'coverR.pcv': [140, -620, -40],
      'cover.breather': [240, -420, -20],
      'cover.pcv': [140, -440, -30],
      'cover.filler': [180, -380, -10],
      'manifold.vacuum': [200, -520, -60],
      'inlet.breather': [-60, -200, -40],
      inlet: [-60, -240, -60],
      'crankcase.return': [160, -420, -420],
      crankcase: [200, -460, -400],
      manifold: [200, -500, -70],
      cover: [220, -380, -40],
      chargePipe: [20, -640, -120],
      pcv: [150, -600, -20],
      tank: [420, -180, -260],
      filter: [20, -120, 60],
    },
    keepOuts: [
      box(
        'Exhaust and silencer',
        'hot',
        [
          [-260, -480, -240],
          [180, 700, 200],
        ],
        600,
      ),
      box('Fuel line', 'fuel', [
        [430, -300, -240],
        [40, 40, 300],
      ]),
      box('Belt', 'moving', [
        [470, -460, -220],
        [50, 320, 260],
      ]),
      box('Gear cables', 'moving', [
        [40, -420, -220],
        [260, 60, 40],
      ]),
    ],
    mounts: [
      ['Strut tower stud', 'stud', [20, -40, 0]],
      ['Bulkhead bolt', 'bolt', [420, -120, -100]],
    ],
    bonnet: [
      [400, -460, 140],
      [100, -460, 120],
      [-200, -460, 60],
    ],
  },
  {
    key: 'motorcycle',
    name: 'Motorcycle, under tank and seat',
    datum: 'Steering head, middle',
    places: {
      'cover.breather': [-180, 20, -260],
      'cover.pcv': [-230, -20, -270],
      'cover.filler': [-220, 120, -420],
      'manifold.vacuum': [-330, 40, -240],
      'inlet.breather': [-430, 0, -160],
      inlet: [-430, 30, -170],
      'crankcase.return': [-330, -60, -470],
      crankcase: [-300, 60, -380],
      manifold: [-330, 30, -250],
      cover: [-200, 0, -270],
      chargePipe: [-360, -80, -260],
      pcv: [-260, -40, -260],
      tank: [-520, 60, -330],
      filter: [-520, 60, -60],
    },
    keepOuts: [
      box(
        'Exhaust pipe',
        'hot',
        [
          [-40, 0, -420],
          [120, 220, 260],
        ],
        450,
      ),
      box('Battery', 'electrical', [
        [-560, 0, -180],
        [110, 150, 140],
      ]),
      box('Chain', 'moving', [
        [-560, -120, -480],
        [300, 40, 90],
      ]),
      pipeAhead('Frame spine', 'panel', [
        [-220, 0, -60],
        [420, 60, 60],
      ]),
    ],
    mounts: [
      ['Seat rail bolt', 'bolt', [-480, -70, -120]],
      ['Tank rubber', 'isolator', [-150, 60, -80]],
    ],
    bonnet: [
      [-100, 0, 20],
      [-350, 0, 10],
      [-600, 0, 0],
    ],
  },
]

/** Where a first can and each further one hang until they are placed. */
const CANS: readonly Position[] = [
  [60, -110, -140],
  [60, -240, -140],
  [-80, -110, -140],
]
/** Where they hang elsewhere than by the left strut top. */
const CANS_OF: Readonly<Record<string, readonly Position[]>> = {
  flat: [
    [330, -60, -300],
    [120, -40, -240],
    [-120, -60, -240],
  ],
  motorcycle: [
    [-480, -90, -260],
    [-480, 110, -260],
    [-420, 0, -300],
  ],
}

/** Parts that have been given a place so far. */
type Placed = { cans: number; others: number }
function positionOf({ places, key }: ReadyBay, part: Part, id: string, { cans, others }: Placed): Position {
  const hang = CANS_OF[key] ?? CANS
  if (part.kind === 'can') return hang[cans % hang.length]!
  const found = places[id] ?? places[`${part.kind}.${id.split('.')[1] ?? ''}`] ?? places[part.kind] ?? places[part.id]
  // what stands in a line and has no place of its own hangs between engine and tower, side by side
  return found ?? [180 + 30 * others, -260, -20]
}

/** A ready bay for a plan: what the tape has measured already stays. */
export function readyBay(build: Build, variant: Variant, key: string): Bay {
  const ready = READY_BAYS.find((r) => r.key === key) ?? READY_BAYS[0]!
  const known = new Map((build.bay?.spots ?? []).filter((s) => s.measured).map((s) => [s.id, s]))
  const placed: Placed = { cans: 0, others: 0 }
  const spots = spotsAsked(variant).map(({ id, part }) => {
    const measured = known.get(id)
    const [forwardMm, leftMm, upMm] = positionOf(ready, part, id, placed)
    if (part.kind === 'can') placed.cans++
    else placed.others++
    known.delete(id)
    return measured ?? { id, forwardMm, leftMm, upMm, points: undefined, turnDeg: undefined, measured: false }
  })
  return {
    datum: ready.datum,
    spots: [...spots, ...known.values()],
    keepOuts: ready.keepOuts.map((k, i) => ({
      id: `keep-out-${i + 1}`,
      round: undefined,
      lies: undefined,
      ...k,
      measured: false,
    })),
    bonnet: ready.bonnet.map(([forwardMm, leftMm, upMm], i) => ({
      id: `bonnet-${i + 1}`,
      forwardMm,
      leftMm,
      upMm,
      measured: false,
    })),
    mounts: ready.mounts.map(([name, kind, [forwardMm, leftMm, upMm]], i) => ({
      id: `mount-${i + 1}`,
      name,
      kind,
      forwardMm,
      leftMm,
      upMm,
      measured: false,
    })),
  }
}

/** The ready bay that an engine's layout suggests. */
export function bayFor(e: Build['engine']): string {
  if (e.cylinders <= 2) return 'motorcycle'
  if (e.layout === 'flat') return 'flat'
  return e.layout === 'vee' ? 'longitudinal' : 'transverse'
}
