/** A recording as a drive: speed, manifold, throttle and crankcase in SI over one time, and the state of each sample. */
import { fail, ok, type Result } from '@/core/result'
import { drivingStates, type DriveChannels } from '@/core/recording/driving-state'
import type { EngineFacts, Surroundings } from '@/core/engine/states'
import type { LoggerRecording } from './read-recording'
import type { ColumnRole } from './roles'
import { toSiOf } from './si'
import { joinWords } from '../document/words'

export type Drive = DriveChannels & {
  /** Pa gauge; NaN where there is no reading */
  readonly crankcase: Float32Array
  /** index into `STATE_IDS` of each sample, -1 where it is not known */
  readonly states: Int8Array
}

type Series = Float64Array | Float32Array | Int8Array
/** A drive with something done to each of its series, as when some samples are taken of all. */
export const eachSeries = (drive: Drive, of: <T extends Series>(series: T) => T): Drive => ({
  seconds: of(drive.seconds),
  rpm: of(drive.rpm),
  manifoldPa: of(drive.manifoldPa),
  throttle: drive.throttle && of(drive.throttle),
  crankcase: of(drive.crankcase),
  states: of(drive.states),
})

/** A slower channel holds its last figure for so long, s. */
const HELD_S = 1.2

/** A channel in SI, each empty place held from the figure before it. */
function channelOf(r: LoggerRecording, role: ColumnRole, ambientPa: number): Float32Array | undefined {
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
export function driveOf(r: LoggerRecording, engine: EngineFacts, amb: Surroundings): Result<Drive> {
  const [rpm, manifold, crankcase] = (['rpm', 'manifold', 'crankcase'] as const).map((role) =>
    channelOf(r, role, amb.pressurePa),
  )
  const missing = [
    rpm ? [] : ['engine speed'],
    manifold ? [] : ['manifold pressure'],
    crankcase ? [] : ['crankcase pressure'],
  ].flat()
  if (!rpm || !manifold || !crankcase)
    return fail(`It has no column for ${joinWords(missing)}: say which one it is, or lay another recording beside it.`)
  const throttle = channelOf(r, 'throttle', amb.pressurePa)
  const channels = { seconds: r.seconds, rpm, manifoldPa: manifold.map((p) => p + amb.pressurePa), throttle }
  return ok({ ...channels, crankcase, states: drivingStates(engine, amb, channels) })
}
