/** What a plan predicts of its crankcase at any speed and manifold pressure, with its band. */
import { scaled, type Job } from '@/core/job'
import { uniforms, quantile } from '@/core/random'
import { surfaceAt, type Surface } from '@/core/recording/surface'
import { normalQuantile } from '@/core/service/normal'
import type { Build } from '../document/schema'
import { applyEdits } from '../edit/edit'
import type { Drive } from '../recordings/drive'
import { engineMap } from './map'
import { uncertainInputs } from './uncertain'

/** Points along either axis: of what is predicted, and of its band, which is smoother. */
export const DRIVE_MAP_SIZE = 28
const BAND_SIZE = 10
const BAND_DRAWS = 32
const SEED = 20_260_914

/** Crankcase over speed and manifold pressure, Pa gauge. */
export function* driveMap(build: Build, size = DRIVE_MAP_SIZE): Job<Surface> {
  const { rpm, manifoldPa, crankcaseGauge } = yield* engineMap(build, size, false)
  return { rpm, manifoldPa, values: crankcaseGauge }
}

/** Pressures that a surface predicts of each sample of a drive, Pa gauge. */
export const predictedOver = (surface: Surface, drive: Pick<Drive, 'seconds' | 'rpm' | 'manifoldPa'>): Float64Array =>
  Float64Array.from(drive.seconds, (_, k) => surfaceAt(surface, drive.rpm[k]!, drive.manifoldPa[k]!))

export type DriveBand = {
  readonly middle: Surface
  /** 10 and 90 % points less the middle, Pa */
  readonly low: Surface
  readonly high: Surface
}

/** The same with its band: four of five cars like this one lie in it. */
export function* driveBand(build: Build): Job<DriveBand> {
  const middle = yield* scaled(driveMap(build), 0, 0.3)
  const inputs = uncertainInputs(build)
  const uniform = uniforms(SEED)
  const drawn: Surface[] = []
  for (let n = 0; n < BAND_DRAWS; n++) {
    const scores = inputs.map(() => Math.max(-3, Math.min(3, normalQuantile(uniform()))))
    const moved = applyEdits(
      build,
      inputs.flatMap((input, i) => input.edits(scores[i]!)),
    )
    if (!moved.ok) continue
    drawn.push(yield* scaled(driveMap(moved.value, BAND_SIZE), 0.3 + (0.7 * n) / BAND_DRAWS, 0.7 / BAND_DRAWS))
  }
  const { rpm, manifoldPa } = drawn[0] ?? middle
  const off = (share: number): Surface => ({
    rpm,
    manifoldPa,
    values: Float64Array.from({ length: rpm.length * manifoldPa.length }, (_, k) => {
      const [speed, pressure] = [rpm[k % rpm.length]!, manifoldPa[Math.floor(k / rpm.length)]!]
      const there = drawn.flatMap((d) => {
        const p = surfaceAt(d, speed, pressure)
        return Number.isNaN(p) ? [] : [p]
      })
      if (there.length < BAND_DRAWS / 2) return Number.NaN
      return (
        quantile(
          there.toSorted((a, b) => a - b),
          share,
        ) - surfaceAt(middle, speed, pressure)
      )
    }),
  })
  return { middle, low: off(0.1), high: off(0.9) }
}
