/** What stands round an engine in the common layouts, by the room that the engine takes: invented, every figure an estimate. */
import type { Bay } from '../document/schema'
import type { InletAt } from './engine-body'

export type Position = readonly [forwardMm: number, leftMm: number, upMm: number]
export type Surrounding = {
  readonly name: string
  readonly kind: Bay['keepOuts'][number]['kind']
  readonly from: Position
  readonly to: Position
  readonly surfaceC?: number
  /** a round body, upright or lying */
  readonly round?: 'up' | 'ahead' | 'left'
}
export type ReadyMount = {
  readonly name: string
  readonly kind: NonNullable<Bay['mounts']>[number]['kind']
  readonly at: Position
}
/** Half of what the engine takes up in the axes of the bay, and of that the way of its crank, mm. */
export type EngineRoom = { readonly halfAhead: number; readonly halfAcross: number }
export type BaySurroundings = {
  /** middle of the engine, at the height of its highest cover */
  readonly engineAt: Position
  readonly blocks: readonly Surrounding[]
  readonly bonnet: readonly Position[]
  readonly mounts: readonly ReadyMount[]
  /** where an oil tank of its own stands: the middle of its floor, its radius and height */
  readonly tank: { readonly at: Position; readonly radiusMm: number; readonly heightMm: number }
  /** the plane that the car is the same on both sides of */
  readonly middleMm: number
}
export type BayLayout = {
  readonly key: string
  readonly name: string
  readonly datum: string
  /** where the pulley looks */
  readonly crank: 'ahead' | 'left' | 'right'
  readonly inletAt: InletAt
  readonly around: (engine: EngineRoom) => BaySurroundings
}

/** Radius of a strut tower, and how far outboard of the datum on it the wing stands, mm. */
const [TOWER, WING] = [85, 110]

const panel = (name: string, from: Position, to: Position): Surrounding => ({ name, kind: 'panel', from, to })
const tower = (name: string, left: number): Surrounding => ({
  ...panel(name, [-TOWER, left - TOWER, -450], [TOWER, left + TOWER, 0]),
  round: 'up',
})
/** Wings, towers and bulkhead of a car whose middle stands `middle` to the left, from `rear` to `front`. */
const shell = (middle: number, rear: number, front: number): Surrounding[] => [
  tower('Left strut tower', 0),
  tower('Right strut tower', 2 * middle),
  panel('Left wing', [rear, WING, -450], [front, WING + 20, -20]),
  panel('Right wing', [rear, 2 * middle - WING - 20, -450], [front, 2 * middle - WING, -20]),
]
const radiator = (middle: number, from: number, halfWide: number): Surrounding[] => [
  { name: 'Fan', kind: 'moving', from: [from, middle - 180, -480], to: [from + 50, middle + 180, -100] },
  panel('Radiator', [from + 55, middle - halfWide, -500], [from + 105, middle + halfWide, -70]),
]
const servo = (rear: number): Surrounding[] => [
  { name: 'Brake servo', kind: 'brake', from: [rear, -255, -155], to: [rear + 135, -65, 35], round: 'ahead' },
  { name: 'Steering shaft', kind: 'steering', from: [rear, -150, -470], to: [rear + 230, -115, -435] },
]
const strutStuds = (middle: number): ReadyMount[] => [
  { name: 'Left strut stud', kind: 'stud', at: [65, -45, 5] },
  { name: 'Right strut stud', kind: 'stud', at: [65, 2 * middle + 45, 5] },
]

/** An engine along the car between its towers: upright, in banks, or lying low. */
function along({ halfAhead, halfAcross }: EngineRoom, beside: number, top: number): BaySurroundings {
  const middle = -(TOWER + beside + halfAcross)
  const [rear, engine] = [-260, halfAhead - 150]
  const fan = Math.max(engine + halfAhead + 250, 580)
  const right = 2 * middle
  return {
    engineAt: [engine, middle, top],
    middleMm: middle,
    blocks: [
      ...shell(middle, rear, fan + 100),
      panel('Bulkhead', [rear - 20, right - WING, -500], [rear, WING, 40]),
      ...radiator(middle, fan, 330),
      ...servo(rear),
      { name: 'Battery', kind: 'electrical', from: [130, right - 80, -260], to: [370, right + 95, -70] },
      { name: 'Fuse box', kind: 'electrical', from: [rear + 5, right - 60, -150], to: [rear + 150, right + 60, -30] },
    ],
    bonnet: [
      [-230, middle, 130],
      [-200, 60, 75],
      [-200, right - 60, 75],
      [250, middle, 110],
      [250, 60, 50],
      [250, right - 60, 50],
      [fan + 60, middle, 60],
      [fan + 60, 60, 20],
      [fan + 60, right - 60, 20],
    ],
    mounts: [
      ...strutStuds(middle),
      { name: 'Left wing rail bolt', kind: 'bolt', at: [250, WING - 5, -30] },
      { name: 'Right wing rail bolt', kind: 'bolt', at: [450, right - WING + 5, -30] },
      { name: 'Bulkhead bolt', kind: 'bolt', at: [rear + 5, middle + 90, 10] },
      { name: 'Radiator bracket', kind: 'bracket', at: [fan + 50, middle + 260, -60] },
    ],
    tank: { at: [fan - 95, 5, -420], radiusMm: 85, heightMm: 320 },
  }
}

export const BAY_LAYOUTS: readonly BayLayout[] = [
  {
    key: 'transverse',
    name: 'Transverse engine, strut tower beside it',
    datum: 'Left strut top',
    crank: 'right',
    inletAt: 'gearbox',
    around: ({ halfAhead, halfAcross }) => {
      const [rear, engine] = [-170, 70 + halfAhead]
      const across = -(TOWER + 190 + halfAcross)
      const right = across - halfAcross - 95
      const fan = engine + halfAhead + 60
      return {
        engineAt: [engine, across, -60],
        middleMm: right / 2,
        blocks: [
          ...shell(right / 2, rear, fan + 100),
          panel('Bulkhead', [rear - 20, right - WING, -500], [rear, WING, 40]),
          ...radiator(right / 2, fan, 300),
          ...servo(rear),
          {
            name: 'Gearbox',
            kind: 'engine',
            from: [engine - 110, across + halfAcross, -500],
            to: [engine + 110, -95, -330],
          },
          { name: 'Battery', kind: 'electrical', from: [fan - 195, -65, -290], to: [fan - 20, 95, -100] },
          { name: 'Fuse box', kind: 'electrical', from: [170, right - 105, -130], to: [330, right - 15, -20] },
        ],
        bonnet: [
          [-150, across, 120],
          [-120, 60, 90],
          [-120, right - 60, 90],
          [250, across, 100],
          [250, 60, 60],
          [250, right - 60, 60],
          [fan + 60, across, 50],
          [fan + 60, 60, 20],
          [fan + 60, right - 60, 20],
        ],
        mounts: [
          ...strutStuds(right / 2),
          { name: 'Wing rail bolt', kind: 'bolt', at: [230, WING - 5, -30] },
          { name: 'Gearbox bolt', kind: 'bolt', at: [engine - 60, -180, -325] },
          { name: 'Battery tray bracket', kind: 'bracket', at: [fan - 200, -40, -280] },
          { name: 'Bulkhead bolt', kind: 'bolt', at: [rear + 5, across + 60, 10] },
        ],
        tank: { at: [engine + halfAhead - 60, right - 15, -420], radiusMm: 85, heightMm: 320 },
      }
    },
  },
  {
    key: 'longitudinal',
    name: 'Longitudinal engine between the struts',
    datum: 'Left strut top',
    crank: 'ahead',
    inletAt: 'pulley',
    around: (e) => along(e, 130, -60),
  },
  {
    key: 'flat',
    name: 'Flat engine low between the rails',
    datum: 'Left strut top',
    crank: 'ahead',
    inletAt: 'pulley',
    around: (e) => along(e, 60, -80),
  },
  {
    key: 'mid',
    name: 'Mid-engine behind the cabin',
    datum: 'Left rear strut top',
    crank: 'ahead',
    inletAt: 'gearbox',
    around: ({ halfAhead, halfAcross }) => {
      const middle = -(TOWER + 130 + halfAcross)
      const engine = 60
      const [front, back] = [engine + Math.max(halfAhead, 180) + 150, engine - halfAhead - 330]
      const right = 2 * middle
      return {
        engineAt: [engine, middle, -50],
        middleMm: middle,
        blocks: [
          ...shell(middle, back, front),
          panel('Cabin bulkhead', [front, right - WING, -500], [front + 20, WING, 60]),
          panel('Rear panel', [back - 170, right - WING, -500], [back - 150, WING, -60]),
          {
            name: 'Exhaust silencer',
            kind: 'hot',
            from: [back - 140, middle - 330, -560],
            to: [back + 40, middle + 330, -360],
            surfaceC: 500,
          },
          {
            name: 'Fuel line',
            kind: 'fuel',
            from: [front - 40, right + 100, -450],
            to: [front - 15, right + 125, -60],
          },
          {
            name: 'Gear cables',
            kind: 'moving',
            from: [engine - halfAhead - 200, middle - 60, -470],
            to: [engine - halfAhead - 20, middle, -430],
          },
          {
            ...panel('Coolant pipe', [back, right + 150, -470], [front, right + 195, -425]),
            round: 'ahead',
          },
        ],
        bonnet: [
          [front - 20, middle, 140],
          [front - 20, 60, 90],
          [front - 20, right - 60, 90],
          [engine, middle, 120],
          [engine, 60, 80],
          [engine, right - 60, 80],
          [back, middle, 80],
          [back, 60, 45],
          [back, right - 60, 45],
        ],
        mounts: [
          ...strutStuds(middle),
          { name: 'Cabin bulkhead bolt', kind: 'bolt', at: [front - 5, -40, -60] },
          { name: 'Left rail bolt', kind: 'bolt', at: [-200, WING - 5, -40] },
          { name: 'Right rail bolt', kind: 'bolt', at: [-200, right - WING + 5, -40] },
        ],
        tank: { at: [front - 105, 0, -420], radiusMm: 85, heightMm: 320 },
      }
    },
  },
  {
    key: 'motorcycle',
    name: 'Motorcycle, under tank and seat',
    datum: 'Steering head, middle',
    crank: 'left',
    inletAt: 'beside',
    around: ({ halfAhead, halfAcross }) => {
      const engine = -(110 + halfAhead)
      const back = engine - halfAhead
      const rail = Math.max(115, halfAcross + 25)
      const pipe = (
        name: string,
        [left, up]: readonly [number, number],
        [from, to]: readonly [number, number],
        r: number,
      ) => ({
        ...panel(name, [from, left - r, up - r], [to, left + r, up + r]),
        round: 'ahead' as const,
      })
      return {
        engineAt: [engine, 0, -210],
        middleMm: 0,
        blocks: [
          pipe('Frame spine', [0, -50], [back + 60, -20], 30),
          pipe('Left seat rail', [rail, -40], [back - 620, back + 80], 14),
          pipe('Right seat rail', [-rail, -40], [back - 620, back + 80], 14),
          { name: 'Battery', kind: 'electrical', from: [back - 500, -75, -200], to: [back - 390, 75, -60] },
          { name: 'Rear wheel', kind: 'moving', from: [back - 700, -75, -750], to: [back - 200, 75, -450] },
          { name: 'Chain', kind: 'moving', from: [back - 350, -130, -560], to: [back, -100, -480] },
        ],
        bonnet: [
          [-100, 0, 20],
          [engine, 0, 15],
          [engine, rail, 10],
          [engine, -rail, 10],
          [back - 300, 0, 15],
          [back - 600, 0, 20],
        ],
        mounts: [
          { name: 'Left seat rail bolt', kind: 'bolt', at: [back - 200, rail - 14, -60] },
          { name: 'Right seat rail bolt', kind: 'bolt', at: [back - 200, 14 - rail, -60] },
          { name: 'Rear rail bolt', kind: 'bolt', at: [back - 560, rail - 14, -60] },
          { name: 'Tank rubber', kind: 'isolator', at: [engine + 60, 60, -70] },
        ],
        tank: { at: [back - 590, 0, -380], radiusMm: 60, heightMm: 240 },
      }
    },
  },
]
