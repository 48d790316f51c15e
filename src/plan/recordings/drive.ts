/** A recording as a drive: speed, manifold, throttle and crankcase in SI over one time, and the state of each sample. */
import { fail, ok, type Result } from '@/core/result'
import { drivingStates, type DriveChannels } from '@/core/recording/driving-state'
import type { EngineFacts, Surroundings } from '@/core/engine/states'
import type { Recorded } from './read-recording'
import type { ColumnRole } from './roles'
import { toSiOf } from './si'

export type Drive = DriveChannels & {
  /** Pa gauge; NaN where there is no reading */
  readonly crankcase: Float32Array
  /** index into `STATE_IDS` of each sample, -1 where it is not known */
  readonly states: Int8Array
}

/** A slower channel holds its last figure for so long, s. */
const HELD_S = 1.2

/** A channel in SI, each empty place held from the figure before it. */
function channelOf(r: Recorded, role: ColumnRole, ambientPa: number): Float32Array | undefined {
  const channel = r.channels.find((c) => c.role === role)
  if (!channel) return undefined
  const si = toSiOf(channel, ambientPa)
  const out = new Float32Array(r.seconds.length)
  let [last, at] = [Number.NaN, -Infinity]
  for (let k = 0; k < out.length; k++) {
    const raw = channel.values[k]!
    if (Number.isFinite(raw)) {
      last = si(raw)
      at = r.seconds[k]!
    }
    out[k] = r.seconds[k]! - at <= HELD_S ? last : Number.NaN
  }
  return out
}

/** What of a recording bears on the crankcase; fails with what is missing. */
export function driveOf(r: Recorded, engine: EngineFacts, amb: Surroundings): Result<Drive> {
  const [rpm, manifold, crankcase] = (['rpm', 'manifold', 'crankcase'] as const).map((role) =>
    channelOf(r, role, amb.pressurePa),
  )
  const missing = [
    rpm ? [] : ['engine speed'],
    manifold ? [] : ['manifold pressure'],
    crankcase ? [] : ['crankcase pressure'],
  ].flat()
  if (!rpm || !manifold || !crankcase)
    return fail(
      `It has no column for ${missing.join(' and ')}: say which one it is, or lay another recording beside it.`,
    )
  const throttle = channelOf(r, 'throttle', amb.pressurePa)
  const channels = { seconds: r.seconds, rpm, manifoldPa: manifold.map((p) => p + amb.pressurePa), throttle }
  return ok({ ...channels, crankcase, states: drivingStates(engine, amb, channels) })
}
