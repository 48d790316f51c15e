/** The last samples of a logger's run in SI, laid on what the plan predicts of each; and whether the engine has been held steady. */
import { STATE_IDS, type EngineFacts, type StateId, type Surroundings } from '@/core/engine/states'
import { drivingStates } from '@/core/recording/driving-state'
import { robustDeviation } from '@/core/recording/robust'
import { surfaceAt } from '@/core/recording/surface'
import type { LoggerLine } from '@/plan/recordings/line-protocol'
import type { ColumnMeaning } from '@/plan/recordings/columns'
import type { ColumnRole } from '@/plan/recordings/roles'
import { toSiOf } from '@/plan/recordings/si'
import type { DriveBand } from '@/plan/studies/drive-map'

/** Seconds that the strip shows. */
export const STRIP_S = 60

export type LiveSample = {
  readonly seconds: number
  /** Pa gauge; NaN where there is none */
  readonly crankcase: number
  readonly rpm: number
  /** Pa absolute */
  readonly manifoldPa: number
  /** what is predicted there, and its band, Pa gauge; NaN where it is not known */
  readonly predicted: number
  readonly low: number
  readonly high: number
}
/** Where an engine is that no speed or manifold is logged of: the state that the page shows. */
export type ShownPoint = { readonly state: StateId; readonly rpm: number; readonly manifoldPa: number }
export type LiveView = {
  readonly samples: readonly LiveSample[]
  /** by speed and manifold, else the state that the page shows */
  readonly state: StateId
  /** mean of the last second, Pa gauge; undefined where it has no reading */
  readonly now: LiveSample | undefined
  /** the reading of an engine that was held still for the last seconds, Pa gauge; undefined while it is not */
  readonly steady: number | undefined
}

/** An engine is held still for so long, s, with as many readings; its speed within this share, its gauge within so much, Pa and in proportion. */
const [HELD_S, LEAST_READINGS, SPEED_SHARE, GAUGE_PA, GAUGE_SHARE] = [5, 10, 0.04, 40, 0.08]

const mean = (xs: readonly number[]) => xs.reduce((sum, x) => sum + x, 0) / xs.length

/** The mean of the last seconds where nothing moved in them. */
function steadyIn(samples: readonly LiveSample[], states: ArrayLike<number>): number | undefined {
  const end = samples.at(-1)?.seconds ?? 0
  const from = samples.findIndex((s) => s.seconds >= end - HELD_S)
  const held = samples.slice(from)
  const read = held.map((s) => s.crankcase).filter(Number.isFinite)
  if (end - samples[0]!.seconds < HELD_S || read.length < LEAST_READINGS) return undefined
  const state = states[samples.length - 1]
  for (let k = from; k < samples.length; k++) if (states[k] !== state) return undefined
  const speeds = held.map((s) => s.rpm).filter(Number.isFinite)
  const speed = mean(speeds)
  if (speeds.length > 0 && Math.max(...speeds) - Math.min(...speeds) > 2 * SPEED_SHARE * speed) return undefined
  const value = mean(read)
  const allowed = Math.max(GAUGE_PA, GAUGE_SHARE * Math.abs(value))
  const half = read.length >> 1
  const drift = Math.abs(mean(read.slice(0, half)) - mean(read.slice(half)))
  return robustDeviation(read.map((p) => p - value)) <= allowed && drift <= allowed ? value : undefined
}

/** The last minute of a run. @param band what the plan predicts; undefined while that is worked out */
export function liveView(
  lines: readonly LoggerLine[],
  columns: readonly ColumnMeaning[],
  { facts, amb }: { readonly facts: EngineFacts; readonly amb: Surroundings },
  { band, shown }: { readonly band: DriveBand | undefined; readonly shown: ShownPoint },
): LiveView | undefined {
  const at = (role: ColumnRole) => columns.findIndex((c) => c.role === role)
  const [crankcaseAt, manifoldAt, rpmAt, throttleAt] = [at('crankcase'), at('manifold'), at('rpm'), at('throttle')]
  if (crankcaseAt < 0 || lines.length === 0) return undefined
  const end = lines.at(-1)!.seconds
  let first = lines.length - 1
  while (first > 0 && lines[first - 1]!.seconds >= end - STRIP_S) first--
  const recent = lines.slice(first)
  const si = columns.map((c) => toSiOf(c, amb.pressurePa))
  const logs = manifoldAt >= 0 && rpmAt >= 0
  const samples = recent.map((l): LiveSample => {
    const of = (k: number, otherwise: number) => (k < 0 ? otherwise : si[k]!(l.values[k]!))
    const rpm = logs ? of(rpmAt, Number.NaN) : shown.rpm
    const manifoldPa = logs ? of(manifoldAt, Number.NaN) + amb.pressurePa : shown.manifoldPa
    const predicted = band ? surfaceAt(band.middle, rpm, manifoldPa) : Number.NaN
    return {
      seconds: l.seconds,
      crankcase: of(crankcaseAt, Number.NaN),
      rpm,
      manifoldPa,
      predicted,
      low: band ? predicted + surfaceAt(band.low, rpm, manifoldPa) : Number.NaN,
      high: band ? predicted + surfaceAt(band.high, rpm, manifoldPa) : Number.NaN,
    }
  })
  const states = logs
    ? drivingStates(facts, amb, {
        seconds: Float64Array.from(samples, (s) => s.seconds),
        rpm: Float32Array.from(samples, (s) => s.rpm),
        manifoldPa: Float32Array.from(samples, (s) => s.manifoldPa),
        throttle: throttleAt < 0 ? undefined : Float32Array.from(recent, (l) => si[throttleAt]!(l.values[throttleAt]!)),
      })
    : new Int8Array(samples.length).fill(STATE_IDS.indexOf(shown.state))
  const lately = samples.filter((s) => s.seconds >= end - 1 && Number.isFinite(s.crankcase))
  const last = lately.at(-1)
  return {
    samples,
    state: STATE_IDS[states.at(-1)!] ?? shown.state,
    now: last && { ...last, crankcase: mean(lately.map((s) => s.crankcase)) },
    steady: steadyIn(samples, states),
  }
}
