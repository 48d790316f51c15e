/** Pieces that go between a port and a hose: each fits one form and offers another. Made from the tables of forms. */
import { BARB_LESS, barbName, BARBS, DASHES, dashOf, METRICS, PIPES, QUICKS } from './forms'

export type Sealing = 'O-ring' | 'tape' | 'cone' | 'grommet' | 'weld' | 'clamp' | 'press'
export type Piece = {
  readonly key: string
  readonly name: string
  /** forms that it fits on, and that it offers */
  readonly from: string
  readonly to: string
  readonly boreMm: number
  readonly sealing: Sealing
  /** joints that it makes: each can leak */
  readonly joints: number
  readonly hexMm?: number
  /** spare seal to buy with it */
  readonly seal?: string
  readonly why: string
}

const barbBore = (mm: number) => Math.max(mm - BARB_LESS, 0.5 * mm)
const RING = 'its O-ring seals, oiled; nothing on the thread'
const TAPE =
  'taper thread: PTFE tape wound against the turn of the thread, clockwise seen from its end, two turns, the first thread bare'

const bosses: Piece[] = DASHES.flatMap((d): Piece[] => [
  ...DASHES.filter((o) => Math.abs(DASHES.indexOf(o) - DASHES.indexOf(d)) <= 1).map((o): Piece => ({
    key: `boss-${d.dash}-flare-${o.dash}`,
    name: `-${d.dash} O-ring boss to -${o.dash} flare`,
    from: `boss-${d.dash}`,
    to: `flare-${o.dash}`,
    boreMm: Math.min(d.boreMm, o.boreMm),
    sealing: 'O-ring',
    joints: 1,
    hexMm: Math.max(d.hexMm, o.hexMm),
    seal: `-${d.dash} boss O-ring`,
    why: RING,
  })),
  ...BARBS.filter((b) => Math.abs(b - d.hoseMm) < 4).map((b): Piece => ({
    key: `boss-${d.dash}-barb-${b}`,
    name: `-${d.dash} O-ring boss to ${barbName(b)} barb`,
    from: `boss-${d.dash}`,
    to: `barb-${b}`,
    boreMm: Math.min(d.boreMm, barbBore(b)),
    sealing: 'O-ring',
    joints: 1,
    hexMm: d.hexMm,
    seal: `-${d.dash} boss O-ring`,
    why: RING,
  })),
])

const pipes: Piece[] = PIPES.flatMap(({ size, dashes, barbs, mm }): Piece[] => [
  ...dashes.map((n): Piece => ({
    key: `pipe-${size}-flare-${n}`,
    name: `${size} pipe thread to -${n} flare`,
    from: `pipe-${size}`,
    to: `flare-${n}`,
    boreMm: Math.min(dashOf(n)!.boreMm, mm - 5),
    sealing: 'tape',
    joints: 1,
    hexMm: dashOf(n)!.hexMm,
    why: TAPE,
  })),
  ...barbs.map((b): Piece => ({
    key: `pipe-${size}-barb-${b}`,
    name: `${size} pipe thread to ${barbName(b)} barb`,
    from: `pipe-${size}`,
    to: `barb-${b}`,
    boreMm: Math.min(barbBore(b), mm - 5),
    sealing: 'tape',
    joints: 1,
    hexMm: Math.round(mm + 2),
    why: TAPE,
  })),
])

const metrics: Piece[] = METRICS.flatMap(({ size, dashes, barbs }): Piece[] => {
  const major = Number(/\d+/.exec(size)![0])
  const own = {
    from: `metric-${size}`,
    sealing: 'O-ring',
    joints: 1,
    hexMm: major + 5,
    seal: `${size} O-ring`,
    why: RING,
  } as const
  return [
    ...dashes.map((n): Piece => ({
      ...own,
      key: `metric-${size}-flare-${n}`,
      name: `${size} with O-ring to -${n} flare`,
      to: `flare-${n}`,
      boreMm: Math.min(dashOf(n)!.boreMm, major - 5),
    })),
    ...barbs.map((b): Piece => ({
      ...own,
      key: `metric-${size}-barb-${b}`,
      name: `${size} with O-ring to ${barbName(b)} barb`,
      to: `barb-${b}`,
      boreMm: Math.min(barbBore(b), major - 5),
    })),
  ]
})

const quicks: Piece[] = QUICKS.map(({ mm, barbMm }) => ({
  key: `quick-${mm}-barb-${barbMm}`,
  name: `quick connector for ${mm} mm tube, ${barbName(barbMm)} barb`,
  from: `quick-${mm}`,
  to: `barb-${barbMm}`,
  boreMm: barbBore(barbMm),
  sealing: 'press',
  joints: 1,
  why: 'pushed on till it clicks, then tugged; a drop of oil on its O-rings',
}))

/** From a stock barb to a flare: clamped over the barb where no hose is to end on it. */
const CLAMPED = [
  [9.5, 6],
  [12.7, 8],
  [15.9, 10],
  [19, 12],
  [25.4, 16],
] as const
const clamped: Piece[] = CLAMPED.map(([b, n]) => ({
  key: `barb-${b}-flare-${n}`,
  name: `clamp adapter, ${barbName(b)} barb to -${n} flare`,
  from: `barb-${b}`,
  to: `flare-${n}`,
  boreMm: Math.min(barbBore(b), dashOf(n)!.boreMm),
  sealing: 'clamp',
  joints: 1,
  hexMm: dashOf(n)!.hexMm,
  why: 'clamped over the nipple that the cover has, so that a made-up hose screws on',
}))

/** A step in size: a short piece of hose and a stepped joiner, clamped. */
const steps: Piece[] = BARBS.flatMap((a, i) =>
  BARBS.flatMap((b, k): Piece[] =>
    Math.abs(i - k) === 1 || Math.abs(i - k) === 2
      ? [
          {
            key: `step-${a}-${b}`,
            name: `stepped joiner ${barbName(a)} to ${barbName(b)}, with a hand’s width of ${barbName(a)} hose`,
            from: `barb-${a}`,
            to: `barb-${b}`,
            boreMm: barbBore(Math.min(a, b)),
            sealing: 'clamp',
            joints: 2,
            why: 'the two nipples differ in size: a hose is not stretched or pulled together to make up for it',
          },
        ]
      : [],
  ),
)

const holes: Piece[] = BARBS.slice(0, 8).map((b) => ({
  key: `hole-${b}-barb-${b}`,
  name: `grommet and push-in outlet, ${barbName(b)} barb`,
  from: `hole-${b}`,
  to: `barb-${b}`,
  boreMm: barbBore(b),
  sealing: 'grommet',
  joints: 1,
  seal: `grommet for a ${barbName(b)} outlet`,
  why: `the pipe has no outlet: a ${Math.round(b + 6)} mm hole, deburred, on its upper side and off the welds`,
}))

/** Into the cut end of the maker's moulded hose, whose other end stays as it is. */
const splices: Piece[] = BARBS.slice(0, 8).flatMap((a, i): Piece[] => {
  const own = {
    from: `stub-${a}`,
    sealing: 'clamp',
    joints: 1,
    why: 'the maker’s moulded end stays with its bend and its connector; a clamp either side of the joiner',
  } as const
  const flare = CLAMPED.find(([b]) => b === a)?.[1]
  return [
    ...BARBS.filter((_, k) => Math.abs(i - k) <= 1).map((b): Piece => ({
      ...own,
      key: `splice-${a}-${b}`,
      name: a === b ? `straight joiner, ${barbName(a)}` : `stepped joiner ${barbName(a)} to ${barbName(b)}`,
      to: `barb-${b}`,
      boreMm: barbBore(Math.min(a, b)),
    })),
    ...(flare === undefined
      ? []
      : [
          {
            ...own,
            key: `splice-${a}-flare-${flare}`,
            name: `adapter, ${barbName(a)} barb to -${flare} flare`,
            to: `flare-${flare}`,
            boreMm: Math.min(barbBore(a), dashOf(flare)!.boreMm),
            hexMm: dashOf(flare)!.hexMm,
          },
        ]),
  ]
})

/** What stands in for the filler cap, and what goes into the seat of a PCV valve that is taken out. */
const necks: Piece[] = [
  ...BARBS.slice(2, 8).flatMap((b): Piece[] => [
    {
      key: `neck-barb-${b}`,
      name: `filler cap with a ${barbName(b)} barb`,
      from: 'neck',
      to: `barb-${b}`,
      boreMm: barbBore(b),
      sealing: 'press',
      joints: 1,
      seal: 'seal of the filler cap',
      why: 'the cap of this engine with a barb in it: its seal oiled, its catches home',
    },
    {
      key: `seat-barb-${b}`,
      name: `elbow for the PCV seat, ${barbName(b)} barb`,
      from: 'seat',
      to: `barb-${b}`,
      boreMm: barbBore(b),
      sealing: 'grommet',
      joints: 1,
      seal: 'grommet of the PCV seat',
      why: 'pushed into a new grommet where the valve sat, a drop of oil on it',
    },
  ]),
  ...DASHES.slice(2, 6).map((d): Piece => ({
    key: `neck-flare-${d.dash}`,
    name: `filler cap with a -${d.dash} flare`,
    from: 'neck',
    to: `flare-${d.dash}`,
    boreMm: d.boreMm,
    sealing: 'press',
    joints: 1,
    seal: 'seal of the filler cap',
    why: 'the cap of this engine with a flare in it: its seal oiled, its catches home',
  })),
]

const tubes: Piece[] = BARBS.slice(0, 8).map((b) => ({
  key: `tube-${b}-barb-${b}`,
  name: `bead rolled on the ${barbName(b)} tube`,
  from: `tube-${b}`,
  to: `barb-${b}`,
  boreMm: b - 2,
  sealing: 'clamp',
  joints: 0,
  why: 'a plain tube lets a hose slide off: a bead, or a good clamp where none can be rolled',
}))

export const PIECES: readonly Piece[] = [
  ...bosses,
  ...pipes,
  ...metrics,
  ...quicks,
  ...clamped,
  ...steps,
  ...holes,
  ...splices,
  ...necks,
  ...tubes,
]
