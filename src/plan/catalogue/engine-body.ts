/** An engine as blocks with its ports on them, by layout and cylinders: where a bay is not measured yet (every figure is an estimate). */
import type { Bay, Engine } from '../document/schema'

/** Along the crank to the pulley, to the left of who looks that way, up from the highest cover, mm. */
export type EnginePoint = readonly [along: number, left: number, up: number]
export type EngineBlock = {
  readonly name: string
  readonly kind: Bay['keepOuts'][number]['kind']
  readonly from: EnginePoint
  readonly to: EnginePoint
  readonly surfaceC?: number
  /** a pipe along the crank */
  readonly pipe?: boolean
  /** what is drawn up from it, mm */
  readonly pullMm?: number
}
export type EngineBody = {
  readonly blocks: readonly EngineBlock[]
  /** ports by part and port, with the way out of the body there */
  readonly ports: ReadonlyMap<string, { readonly at: EnginePoint; readonly out: EnginePoint }>
  /** half its length without belt and inlet pipe, and half its width, mm */
  readonly halfLong: number
  readonly halfWide: number
}

/** How far a nipple or bung stands out of what it sits on, mm. */
export const STUB = 40
const [UP, LEFT, RIGHT]: readonly EnginePoint[] = [
  [0, 0, 1],
  [0, 1, 0],
  [0, -1, 0],
] as const

type Ports = Readonly<Record<string, readonly [at: EnginePoint, out: EnginePoint]>>
type Form = {
  readonly halfWide: number
  readonly blocks: (half: number) => readonly EngineBlock[]
  readonly ports: (half: number) => Ports
}

/** Ports of a cover on its top at this height: breather and valve seat so far to the left, the filler beside them. */
const coverPorts = (id: string, half: number, [left, fillerLeft]: readonly [number, number], top: number): Ports => ({
  [`${id}.breather`]: [[0.45 * half, left, top], UP!],
  [`${id}.pcv`]: [[-0.55 * half, left, top], UP!],
  [`${id}.filler`]: [[0, fillerLeft, top], UP!],
})
const dipstick = (half: number, left: number, top: number): EngineBlock => ({
  name: 'Dipstick',
  kind: 'service',
  from: [0.2 * half - 8, left - 8, -300],
  to: [0.2 * half + 8, left + 8, top],
  pullMm: 450,
})
const block = (name: string, from: EnginePoint, to: EnginePoint): EngineBlock => ({ name, kind: 'engine', from, to })
const exhaust = (name: string, from: EnginePoint, to: EnginePoint): EngineBlock => ({
  name,
  kind: 'hot',
  from,
  to,
  surfaceC: 550,
})

/** One block a layout: cylinders upright, in two banks, or lying. */
const FORMS: Readonly<Record<Engine['layout'], Form>> = {
  inline: {
    halfWide: 230,
    blocks: (half) => [
      block('Engine block', [-half, -120, -480], [half, 120, -90]),
      block('Head cover', [-half + 10, -95, -90], [half - 10, 95, 0]),
      block('Intake manifold', [-0.75 * half, 120, -200], [0.75 * half, 230, -70]),
      exhaust('Exhaust manifold', [-0.75 * half, -230, -280], [0.75 * half, -130, -140]),
      dipstick(half, -112, -40),
    ],
    ports: (half) => ({
      ...coverPorts('cover', half, [50, -50], 0),
      ...coverPorts('coverL', half, [50, -50], 0),
      ...coverPorts('coverR', half, [-50, 50], 0),
      'manifold.vacuum': [[-0.3 * half, 190, -70], UP!],
      'crankcase.return': [[-0.2 * half, 120, -410], LEFT!],
      pump: [[0.4 * half, 120, -440], LEFT!],
    }),
  },
  vee: {
    halfWide: 350,
    blocks: (half) => [
      block('Engine block', [-half, -170, -480], [half, 170, -200]),
      block('Left head and cover', [-half + 10, 150, -300], [half - 10, 300, -60]),
      block('Right head and cover', [-half + 10, -300, -300], [half - 10, -150, -60]),
      block('Intake manifold', [-0.8 * half, -115, -200], [0.8 * half, 115, -35]),
      exhaust('Left exhaust manifold', [-0.8 * half, 280, -400], [0.8 * half, 350, -300]),
      exhaust('Right exhaust manifold', [-0.8 * half, -350, -400], [0.8 * half, -280, -300]),
      dipstick(half, -325, -100),
    ],
    ports: (half) => ({
      ...coverPorts('cover', half, [260, 190], -60),
      ...coverPorts('coverL', half, [260, 190], -60),
      ...coverPorts('coverR', half, [-260, -190], -60),
      'manifold.vacuum': [[-0.5 * half, 0, -30], UP!],
      'crankcase.return': [[0.95 * half, 170, -470], LEFT!],
      pump: [[0.4 * half, 170, -470], LEFT!],
    }),
  },
  flat: {
    halfWide: 440,
    blocks: (half) => [
      block('Engine block', [-half, -150, -470], [half, 150, -200]),
      block('Left cylinders and cover', [-half + 10, 150, -430], [half - 10, 440, -270]),
      block('Right cylinders and cover', [-half + 10, -440, -430], [half - 10, -150, -270]),
      block('Intake manifold', [-0.8 * half, -125, -200], [0.8 * half, 125, -35]),
      exhaust('Exhaust manifold', [-0.8 * half, -400, -610], [0.8 * half, 400, -540]),
      dipstick(half, -180, -150),
    ],
    ports: (half) => ({
      ...coverPorts('cover', half, [390, 290], -270),
      ...coverPorts('coverL', half, [390, 290], -270),
      ...coverPorts('coverR', half, [-390, -290], -270),
      'manifold.vacuum': [[-0.5 * half, 0, -30], UP!],
      'crankcase.return': [[-0.6 * half, 150, -455], LEFT!],
      pump: [[0.3 * half, 150, -455], LEFT!],
    }),
  },
}

/** Length of a cylinder and of what stands before and behind a row of them, mm. */
const [CYLINDER, ENDS] = [98, 80]

/** Where air comes in: a pipe over the pulley or over the gearbox, or a box beside the engine. */
export type InletAt = 'pulley' | 'gearbox' | 'beside'

type Inlet = { readonly block: EngineBlock; readonly ports: Ports }
function inletOf(layout: Engine['layout'], half: number, at: InletAt): Inlet {
  const { halfWide } = FORMS[layout]
  if (at === 'beside')
    return {
      block: { name: 'Air box', kind: 'engine', from: [-90, halfWide + 20, -90], to: [90, halfWide + 130, 60] },
      ports: {
        'inlet.breather': [[-50, halfWide + 75, 60], UP!],
        'inlet.second': [[50, halfWide + 75, 60], UP!],
      },
    }
  const [left, up] = layout === 'inline' ? [175, -60] : [0, -90]
  const end = at === 'pulley' ? 1 : -1
  const reach = at === 'pulley' ? 190 : 120
  const [near, far] = [end * 0.75 * half, end * (half + reach)]
  return {
    block: {
      name: 'Inlet pipe',
      kind: 'engine',
      from: [Math.min(near, far), left - 35, up - 35],
      to: [Math.max(near, far), left + 35, up + 35],
      pipe: true,
    },
    ports: {
      'inlet.breather': [[end * (half + reach - 95), left, up + 35], UP!],
      'inlet.second': [[end * (half + reach - 30), left, up + 35], UP!],
    },
  }
}

/** The engine as a body, its ends and ports placed by the number of cylinders in a row. */
export function engineBody(e: Pick<Engine, 'layout' | 'cylinders' | 'induction'>, inletAt: InletAt): EngineBody {
  const form = FORMS[e.layout]
  const inRow = Math.max(1, e.layout === 'inline' ? e.cylinders : Math.ceil(e.cylinders / 2))
  const half = (inRow * CYLINDER + ENDS) / 2
  const inlet = inletOf(e.layout, half, inletAt)
  const turbo: EngineBlock = {
    name: 'Exhaust housing',
    kind: 'hot',
    from: [-half - 20, -form.halfWide - 10, -470],
    to: [-half + 110, -form.halfWide + 110, -350],
    surfaceC: 650,
  }
  const blocks: EngineBlock[] = [
    ...form.blocks(half),
    { name: 'Belt', kind: 'moving', from: [half + 5, -150, -460], to: [half + 55, 150, -190] },
    inlet.block,
    ...(e.induction === 'turbo' ? [turbo] : []),
  ]
  const ports: Ports = {
    ...form.ports(half),
    ...inlet.ports,
    exhaust: [[-half - 40, -form.halfWide + 60, -420], RIGHT!],
  }
  const stub = ([at, out]: Ports[string]) => ({
    at: [at[0] + out[0] * STUB, at[1] + out[1] * STUB, at[2] + out[2] * STUB] as EnginePoint,
    out,
  })
  return {
    blocks,
    ports: new Map(Object.entries(ports).map(([id, p]) => [id, stub(p)])),
    halfLong: half,
    halfWide: form.halfWide,
  }
}
