/** Drives that never were: speed and manifold over time, and the crankcase as a plan's model and a sensor would show it. */
import { finish } from '@/core/job'
import { uniforms } from '@/core/random'
import { lagged, type Surface } from '@/core/recording/surface'
import { normalQuantile } from '@/core/service/normal'
import type { Build } from '../document/schema'
import { engineModel } from '../model/engine'
import { LIMITS } from '../model/limits'
import { driveMap, predictedOver } from './drive-map'

/** A stretch of a drive: how long, s, and shares of the engine's range of speed and of the way from shut to full load. */
type Stretch = readonly [seconds: number, speed: number, load: number]

/** Shares of load: shut is the overrun's manifold, idle its own, 0.5 about the surroundings, 1 full boost. */
const IDLE: Stretch = [12, 0, 0.1]
export const DRIVE_PROFILES = {
  street: {
    name: 'Street loop',
    stretches: [
      IDLE,
      [6, 0.25, 0.5],
      [10, 0.3, 0.3],
      [4, 0.35, 0],
      IDLE,
      [5, 0.35, 0.65],
      [14, 0.28, 0.28],
      [5, 0.3, 0],
      [8, 0, 0.1],
    ],
  },
  motorway: {
    name: 'Motorway',
    stretches: [
      [40, 0.42, 0.35],
      [6, 0.5, 0.7],
      [30, 0.45, 0.38],
      [5, 0.45, 0],
      [25, 0.42, 0.34],
    ],
  },
  hill: {
    name: 'Hill climb',
    stretches: [
      [8, 0.4, 0.45],
      [7, 0.75, 0.95],
      [3, 0.6, 0],
      [9, 0.8, 1],
      [3, 0.55, 0],
      [5, 0.5, 0.5],
      [8, 0.7, 0.9],
      [4, 0.5, 0],
    ],
  },
  track: {
    name: 'Track session',
    stretches: [
      [9, 0.85, 1],
      [3, 0.7, 0],
      [4, 0.6, 0.45],
      [10, 0.9, 1],
      [4, 0.7, 0],
      [6, 0.75, 0.8],
      [3, 0.6, 0],
      [11, 0.95, 1],
      [4, 0.65, 0],
    ],
  },
  drag: {
    name: 'Drag pass',
    stretches: [
      [15, 0, 0.1],
      [4, 0.55, 0.5],
      [12, 0.95, 1],
      [10, 0.6, 0],
      [15, 0, 0.1],
    ],
  },
  cold: {
    name: 'Cold start',
    stretches: [
      [25, 0.08, 0.2],
      [15, 0, 0.12],
      [12, 0.25, 0.3],
      [5, 0.3, 0],
      [12, 0.25, 0.35],
      [15, 0, 0.1],
    ],
  },
  idle: { name: 'A gauge at idle', stretches: [[60, 0, 0.1]] },
} as const satisfies Record<string, { readonly name: string; readonly stretches: readonly Stretch[] }>
export type DriveKind = keyof typeof DRIVE_PROFILES
export const DRIVE_KINDS = Object.keys(DRIVE_PROFILES) as readonly DriveKind[]

/** How a sensor and its logger stray. */
export type SensorErrors = {
  /** standard deviation of a sample, Pa; of how far it wanders in a minute, Pa; and what it is always off by, Pa */
  readonly noisePa: number
  readonly driftPa: number
  readonly offsetPa: number
  /** share of samples that are missing */
  readonly dropouts: number
  /** seconds that its clock gains in a second */
  readonly skew: number
}
export const USUAL_SENSOR: SensorErrors = { noisePa: 25, driftPa: 10, offsetPa: 0, dropouts: 0.002, skew: 0 }

export type SimulatedDrive = {
  readonly seconds: Float64Array
  readonly rpm: Float32Array
  /** Pa absolute */
  readonly manifoldPa: Float32Array
  /** share of 1 */
  readonly throttle: Float32Array
  /** Pa gauge as the sensor has it; NaN where it missed a sample */
  readonly crankcase: Float32Array
  /** what the sensor was off by on the mean, Pa: its offset and how it wandered */
  readonly offBy: number
}

/** How fast an engine's speed and its manifold follow, s. */
const [SPEED_FOLLOWS, MANIFOLD_FOLLOWS] = [1.2, 0.35]
/** How much one stretch is unlike the same another time round. */
const UNLIKE = 0.12

export type DriveOptions = {
  readonly kind: DriveKind
  readonly seed: number
  /** at least so long, s: the drive is gone round again */
  readonly seconds?: number
  readonly hz?: number
  readonly sensor?: SensorErrors
  /** another plan from a time on, s */
  readonly fault?: { readonly build: Build; readonly at: number } | undefined
}

/**
 * A drive with a build, as a logger in it would record it. Same seed, same drive.
 *
 * @example
 * import { newBuild } from '@/plan/schools/new-build'
 * import { simulateDrive } from '@/plan/studies/simulated-drive'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(simulateDrive(build, { kind: 'hill', seed: 1, hz: 5 }).crankcase.length) // 235
 */
export function simulateDrive(build: Build, options: DriveOptions): SimulatedDrive {
  const { kind, seed, hz = 20, sensor = USUAL_SENSOR, fault } = options
  const uniform = uniforms(seed)
  const normal = () => normalQuantile(uniform())
  const { facts, amb } = engineModel(build)
  const { stretches } = DRIVE_PROFILES[kind]
  const round = stretches.reduce((sum, [s]) => sum + s, 0)
  const count = Math.round(Math.max(round, options.seconds ?? round) * hz)
  const seconds = Float64Array.from({ length: count }, (_, k) => k / hz)
  const [speed, load] = [new Float64Array(count), new Float64Array(count)]
  for (let k = 0, s = 0; k < count; s++) {
    const [length, toSpeed, toLoad] = stretches[s % stretches.length]!
    const [unlike, harder] = [1 + UNLIKE * normal(), 1 + UNLIKE * normal()]
    const end = Math.min(count, k + Math.max(1, Math.round(length * hz * Math.max(0.4, unlike))))
    for (; k < end; k++) {
      speed[k] = Math.max(0, Math.min(1, toSpeed * harder))
      load[k] = Math.max(0, Math.min(1, toLoad * (toLoad === 1 ? 1 : harder)))
    }
  }
  const [turning, filled] = [lagged(seconds, speed, SPEED_FOLLOWS), lagged(seconds, load, MANIFOLD_FOLLOWS)]
  const p0 = amb.pressurePa
  const manifoldAt = (share: number) =>
    share < 0.1
      ? facts.overrunManifoldPa + (facts.idleManifoldPa - facts.overrunManifoldPa) * (share / 0.1)
      : share < 0.5
        ? facts.idleManifoldPa + (0.98 * p0 - facts.idleManifoldPa) * ((share - 0.1) / 0.4)
        : 0.98 * p0 + (0.02 * p0 + facts.boostPa) * ((share - 0.5) / 0.5)
  const rpm = Float32Array.from(turning, (x) => facts.idleRpm + (facts.ratedRpm - facts.idleRpm) * x + 6 * normal())
  const manifoldPa = Float32Array.from(filled, (x) => manifoldAt(x) + 250 * normal())
  const throttle = Float32Array.from(load, (x) => (x < 0.05 ? 0 : x < 0.12 ? 0.04 : x))
  const drive = { seconds, rpm, manifoldPa }
  const shown = (surface: Surface) => predictedOver(surface, drive)
  const sound = shown(finish(driveMap(build)))
  const broken = fault && shown(finish(driveMap(fault.build)))
  let [drift, wandered] = [0, 0]
  const crankcase = Float32Array.from(seconds, (t, k) => {
    drift += sensor.driftPa * Math.sqrt(1 / (60 * hz)) * normal()
    wandered += drift
    if (uniform() < sensor.dropouts) return Number.NaN
    // above this seals let go, and no more builds up
    const p = Math.min(LIMITS.sealsLetGo, (broken && t >= fault.at ? broken : sound)[k]!)
    return p + sensor.offsetPa + drift + sensor.noisePa * normal()
  })
  return {
    seconds: sensor.skew === 0 ? seconds : seconds.map((t) => t * (1 + sensor.skew)),
    rpm,
    manifoldPa,
    throttle,
    crankcase,
    offBy: sensor.offsetPa + wandered / count,
  }
}
