/** What a recording says of a plan: blow-by, losses, fresh-air hole and the sensor's offset, and since when they changed. */
import { finish, type Job } from '@/core/job'
import { fitBlocks, type BlockFit } from '@/core/recording/block-fit'
import { findChange } from '@/core/recording/change'
import { robustDeviation } from '@/core/recording/robust'
import type { Surface } from '@/core/recording/surface'
import type { Range } from '@/core/range'
import type { Build } from '../document/schema'
import { activeVariant, applyEdits, type Edit } from '../edit/edit'
import { adoptLearned } from '../model/learned'
import { barbOf } from '../model/resolve'
import { eachSeries, type Drive } from '../recordings/drive'
import { driveMap, predictedOver } from './drive-map'
import { uncertainInputs, type Uncertain } from './uncertain'

export type FitId = 'blowBy' | 'losses' | 'hole' | 'offset'
/** One unknown as the recording has it. */
export type FittedFigure = {
  readonly id: FitId
  readonly name: string
  /** times what was taken; of the offset Pa */
  readonly now: Range
  /** how far it was open before, the same way */
  readonly before: Range
  /** the recording has narrowed it by half or more */
  readonly determined: boolean
  /** edits that put it into the plan; none of the offset, which is the sensor's */
  readonly adopt: readonly Edit[]
}
export type RecordingChange = {
  /** seconds from the start: likely, and between which times */
  readonly at: number
  readonly from: number
  readonly to: number
  /** known to within ten seconds either way */
  readonly known: boolean
  /** what moved most, and what each was before and after it */
  readonly of: FitId
  readonly before: readonly FittedFigure[]
  readonly after: readonly FittedFigure[]
}
export type RecordingFit = {
  readonly figures: readonly FittedFigure[]
  /** robust standard deviation of what is left, and of what samples stray by from one to the next, Pa */
  readonly scatter: number
  readonly noise: number
  /** what is left is noise: else no car like this one gives what was recorded, and its figures say little */
  readonly explained: boolean
  readonly change: RecordingChange | undefined
}

/** Losses of the way out before anything is measured, and the sensor's offset, Pa (estimates, one standard deviation). */
const [LOSS_SIGMA, OFFSET_SIGMA] = [0.54, 400]
/** Standard deviations between the middle and the 90 % point. */
const NINETY = 1.2816
/** Samples that are fitted at most; stretches whose errors hang together, s; points along either axis of the map. */
const [MOST_SAMPLES, BLOCK_S, MAP_POINTS] = [5000, 8, 28]
/** What a gauge is never better than, Pa. */
const LEAST_SCATTER = 5
/** Time that either side of a change must have, s; and how near its time must be known. */
const [LEAST_SIDE_S, KNOWN_WITHIN_S] = [12, 10]
/** A figure is determined by a recording that leaves it less than this share of what was open before. */
const LEAST_DETERMINED = 0.5
/** Of the draws that give the intervals: the same recording, the same intervals. */
const SEED = 1

type Unknown = {
  readonly id: FitId
  readonly name: string
  readonly sigma: number
  /** moves the plan by x of it; nothing for what is the sensor's */
  readonly edits: (x: number) => readonly Edit[]
  /** as a factor or a figure */
  readonly shown: (x: number) => number
}

/** All losses of hoses, barbs and covers together, times exp(x): a hole's drop goes with the fourth power of its bore. */
function lossesOf(build: Build, covers: Uncertain | undefined): Unknown {
  const variant = activeVariant(build)
  const width = covers && 'times' in covers.step ? Math.log(covers.step.times) : 1
  const ends = variant.lines.flatMap((l) =>
    l.kind === 'hose'
      ? (['from', 'to'] as const).map((side) => ({ line: l.id, side, bore: l[side].barbMm ?? barbOf(l.boreMm) }))
      : [],
  )
  return {
    id: 'losses',
    name: 'Losses of hoses and covers',
    sigma: LOSS_SIGMA,
    edits: (x) => [
      ...(covers?.edits(x / width) ?? []),
      ...ends.map(({ line, side, bore }): Edit => ({
        op: 'set',
        path: ['variants', variant.id, 'lines', line, side, 'barbMm'],
        value: Math.max(0.5, Math.min(100, bore * Math.exp(-x / 4))),
      })),
    ],
    shown: Math.exp,
  }
}

/** What can be fitted from crankcase, speed and manifold of one plan. */
export function unknownsOf(build: Build): readonly Unknown[] {
  const inputs = uncertainInputs(build)
  const factor = (id: FitId, name: string, input: Uncertain | undefined): Unknown[] => {
    if (!input || !('times' in input.step)) return []
    const sigma = Math.log(input.step.times)
    return [{ id, name, sigma, edits: (x) => input.edits(x / sigma), shown: Math.exp }]
  }
  return [
    ...factor(
      'blowBy',
      'Blow-by',
      inputs.find((i) => i.id === 'blowBy'),
    ),
    lossesOf(
      build,
      inputs.find((i) => i.id === 'coverPorts'),
    ),
    ...factor(
      'hole',
      'Bore of the fresh-air hole',
      inputs.find((i) => i.from !== undefined && i.name === 'Fresh-air hole'),
    ),
    { id: 'offset', name: 'Offset of the sensor', sigma: OFFSET_SIGMA, edits: () => [], shown: (x) => x },
  ]
}

/** Evenly taken samples of a drive, no more than are needed. */
function thinned(drive: Drive): Drive {
  const n = drive.seconds.length
  const stride = Math.max(1, Math.ceil(n / MOST_SAMPLES))
  if (stride === 1) return drive
  return eachSeries(drive, (series) => series.filter((_, k) => k % stride === 0) as typeof series)
}

/** Stretches of about so many seconds, as indexes. */
function blocksOf(seconds: Float64Array): readonly (readonly [number, number])[] {
  const blocks: [number, number][] = []
  for (let from = 0; from < seconds.length;) {
    let end = from + 1
    while (end < seconds.length && seconds[end]! - seconds[from]! < BLOCK_S) end++
    blocks.push([from, end])
    from = end
  }
  return blocks
}

type Fitting = { readonly build: Build; readonly unknowns: readonly Unknown[] }

function fitDrive({ build, unknowns }: Fitting, drive: Drive): BlockFit | undefined {
  const offset = unknowns.findIndex((u) => u.id === 'offset')
  const maps = new Map<string, Surface | undefined>()
  const mapOf = (at: readonly number[], points: number): Surface | undefined => {
    const inPlan = at.map((x, i) => (i === offset ? 0 : x))
    const key = `${points} ${inPlan.join(' ')}`
    if (!maps.has(key)) {
      const moved = applyEdits(
        build,
        unknowns.flatMap((u, i) => (inPlan[i] === 0 ? [] : u.edits(inPlan[i]!))),
      )
      maps.set(key, moved.ok ? finish(driveMap(moved.value, points)) : undefined)
    }
    return maps.get(key)
  }
  const measured = Float64Array.from(drive.crankcase)
  const modelWith = (points: number) => (at: readonly number[]) => {
    const map = mapOf(at, points)
    return map && predictedOver(map, drive).map((p) => p + at[offset]!)
  }
  const follow = (points: number, start: readonly number[]) =>
    fitBlocks(modelWith(points), measured, {
      sigmas: unknowns.map((u) => u.sigma),
      blocks: blocksOf(drive.seconds),
      leastScale: LEAST_SCATTER,
      modelErrors: unknowns.map((u) => (u.id === 'offset' ? MODEL_OFFSET : MODEL_FACTOR)),
      seed: SEED,
      start,
    })
  // on a coarse map first, which takes a quarter of the time
  const coarse = startsOf(modelWith(START_POINTS), measured, unknowns)
    .flatMap((start) => follow(COARSE_POINTS, start) ?? [])
    .toSorted((x, y) => x.scale - y.scale)[0]
  return (
    coarse &&
    follow(
      MAP_POINTS,
      coarse.unknowns.map((u) => u.value),
    )
  )
}

/** What the model itself is believed to, whatever a long recording says: of a factor's logarithm, and of the offset, Pa (estimates). */
const [MODEL_FACTOR, MODEL_OFFSET] = [0.004, 1]

/** How far samples stray from one to the next, as a standard deviation of one. */
const noiseOf = (measured: ArrayLike<number>): number =>
  Math.max(LEAST_SCATTER, robustDeviation(Array.from(measured, (x, k) => x - measured[k - 1]!)) / Math.SQRT2)
/** What is left of a recording that a plan explains is at most so many times its noise. */
const EXPLAINED = 1.6

/** Where fits begin, in standard deviations of each unknown, since valves make ways that lead nowhere; how many are followed. */
const START_SCORES = [0, -1.2, 1.2] as const
const [STARTS_FOLLOWED, START_POINTS, COARSE_POINTS] = [3, 8, 12]

/** The best of some points all over what the unknowns may be, each with the offset that suits it. */
function startsOf(
  model: (at: readonly number[]) => Float64Array | undefined,
  measured: Float64Array,
  unknowns: readonly Unknown[],
): readonly (readonly number[])[] {
  let points: readonly (readonly number[])[] = [[]]
  for (const u of unknowns)
    points = points.flatMap((p) => (u.id === 'offset' ? [[...p, 0]] : START_SCORES.map((z) => [...p, z * u.sigma])))
  const tried = points.flatMap((at) => {
    const off = model(at)?.map((p, k) => measured[k]! - p)
    const there = off && Array.from(off.filter((_, k) => k % 5 === 0)).filter(Number.isFinite)
    if (!there || there.length === 0) return []
    const offset = there.toSorted((x, y) => x - y)[there.length >> 1]!
    const scatter = there.reduce((sum, r) => sum + Math.abs(r - offset), 0) / there.length
    return [{ at: at.map((x, i) => (unknowns[i]!.id === 'offset' ? offset : x)), scatter }]
  })
  return tried
    .toSorted((x, y) => x.scatter - y.scatter)
    .slice(0, STARTS_FOLLOWED)
    .map((t) => t.at)
}

function figuresOfFit(build: Build, unknowns: readonly Unknown[], fit: BlockFit): readonly FittedFigure[] {
  return unknowns.map((u, i): FittedFigure => {
    const { value, low, high } = fit.unknowns[i]!
    const half = NINETY * u.sigma
    return {
      id: u.id,
      name: u.name,
      now: { low: u.shown(low), mid: u.shown(value), high: u.shown(high) },
      before: { low: u.shown(-half), mid: u.shown(0), high: u.shown(half) },
      determined: high - low < LEAST_DETERMINED * 2 * half,
      adopt: u.id === 'offset' ? [] : adoptLearned(build, u.edits(value)),
    }
  })
}

const part = (drive: Drive, from: number, end: number): Drive =>
  eachSeries(drive, (series) => series.slice(from, end) as typeof series)

/**
 * Fits a plan to a recording, and says whether and since when it is no longer the same. Undefined where the plan has no answer or the
 * recording nothing that bears on it. Yields the share done.
 */
export function* fitRecording(build: Build, recorded: Drive): Job<RecordingFit | undefined> {
  const drive = thinned(recorded)
  const unknowns = unknownsOf(build)
  const fitting = { build, unknowns }
  yield 0.02
  const whole = fitDrive(fitting, drive)
  if (!whole) return undefined
  yield 0.4
  const noise = noiseOf(drive.crankcase)
  const left = ({ scale }: BlockFit) => ({ scatter: scale, noise, explained: scale < EXPLAINED * noise })
  const { seconds } = drive
  const length = seconds.at(-1)! - seconds[0]!
  const least = Math.ceil((LEAST_SIDE_S / Math.max(length, 1e-9)) * seconds.length)
  const found = findChange(
    whole,
    unknowns.map((u) => u.sigma),
    least,
    unknowns.findIndex((u) => u.id === 'offset'),
  )
  const figures = figuresOfFit(build, unknowns, whole)
  if (!found) return { figures, ...left(whole), change: undefined }
  const sides: BlockFit[] = []
  for (const [from, end] of [
    [0, found.at],
    [found.at, seconds.length],
  ] as const) {
    const side = fitDrive(fitting, part(drive, from, end))
    if (!side) return { figures, ...left(whole), change: undefined }
    sides.push(side)
    yield 0.4 + 0.3 * sides.length
  }
  const [before, after] = sides as [BlockFit, BlockFit]
  const moved = unknowns.map((u, i) => Math.abs(after.unknowns[i]!.value - before.unknowns[i]!.value) / u.sigma)
  const inPlan = moved.map((m, i) => (unknowns[i]!.id === 'offset' ? 0 : m))
  const most = inPlan.indexOf(Math.max(...inPlan))
  const [from, to] = [seconds[Math.max(0, found.from - 1)]!, seconds[found.to]!]
  const change = {
    at: seconds[found.at]!,
    from,
    to,
    known: to - from <= 2 * KNOWN_WITHIN_S,
    of: unknowns[most]!.id,
    before: figuresOfFit(build, unknowns, before),
    after: figuresOfFit(build, unknowns, after),
  }
  // of what is no longer the same, the last stretch says what it is now
  return { figures: change.after, ...left(after), change }
}
