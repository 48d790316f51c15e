/** In which state an engine is driven, sample by sample, from its speed, manifold and throttle. */
import { STATE_IDS, type EngineFacts, type StateId, type Surroundings } from '../engine/states'

/** Channels over the same samples; shares of 1, Pa absolute. */
export type DriveChannels = {
  readonly seconds: Float64Array
  readonly rpm: Float32Array
  readonly manifoldPa: Float32Array
  readonly throttle?: Float32Array | undefined
}

/** Boost begins above the surroundings by this, and full throttle below them by this share of them (estimates). */
const [BOOST_PA, FULL_SHARE] = [8000, 0.93]
/** Idle ends at this share above its speed; spool ends at this share of the way to rated speed (estimates). */
const [IDLE_OVER, SPOOL_SHARE] = [1.35, 0.5]
/** Throttle below which it is shut, and how far above the overrun's manifold an engine still is on overrun, Pa. */
const [SHUT, OVERRUN_OVER] = [0.03, 8000]
/** A state is left only when it would be left with this much to spare, in shares of each threshold; and after so long, s. */
const [TO_SPARE, LEAST_S] = [0.04, 0.3]

/** The state at one point; thresholds moved by `lean`, which favours leaving the last state little. */
function stateAt(
  e: EngineFacts,
  ambientPa: number,
  { rpm, manifoldPa, throttle }: { readonly rpm: number; readonly manifoldPa: number; readonly throttle: number },
  last: StateId | undefined,
): StateId {
  const spare = (state: StateId) => (last === state ? 1 + TO_SPARE : 1)
  const charged = e.induction !== 'na'
  if (charged && manifoldPa > ambientPa + (last === 'boost' ? 0.6 : 1) * BOOST_PA) return 'boost'
  if (manifoldPa > (ambientPa * FULL_SHARE) / spare(last === 'spool' ? 'spool' : 'pull')) {
    const middle = e.idleRpm + SPOOL_SHARE * (e.ratedRpm - e.idleRpm)
    return charged && rpm < middle * spare('spool') ? 'spool' : 'pull'
  }
  const idles = rpm < e.idleRpm * IDLE_OVER * spare('idle')
  const shut = Number.isFinite(throttle)
    ? throttle < SHUT * spare('overrun')
    : manifoldPa < (e.overrunManifoldPa + OVERRUN_OVER) * spare('overrun')
  if (idles) return 'idle'
  return shut && manifoldPa < 0.6 * ambientPa ? 'overrun' : 'cruise'
}

/**
 * The state of each sample, as an index into `STATE_IDS`; -1 where speed or manifold is not known. Short spells between two of the same are
 * taken for that.
 *
 * @example
 * import { drivingStates } from '@/core/recording/driving-state'
 *
 * const cylinder = { boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }
 * const engine = {
 *   ...{ cylinders: 5, displacementM3: 2.5e-3, cylinder, induction: 'turbo' as const },
 *   ...{ idleRpm: 850, ratedRpm: 6500, boostPa: 120e3, idleManifoldPa: 35e3, overrunManifoldPa: 25e3 },
 *   ...{ inletDepressionPa: 3000, inletFouling: 1, oilInUseK: 368.15 },
 * }
 * const drive = { seconds: Float64Array.of(0, 1), rpm: Float32Array.of(850, 6000), manifoldPa: Float32Array.of(35e3, 200e3) }
 * console.log([...drivingStates(engine, { pressurePa: 101325, temperatureK: 293.15 }, drive)]) // [ 0, 4 ]
 */
export function drivingStates(e: EngineFacts, amb: Surroundings, drive: DriveChannels): Int8Array {
  const { seconds, rpm, manifoldPa, throttle } = drive
  const states = new Int8Array(seconds.length).fill(-1)
  let last: StateId | undefined
  for (let k = 0; k < states.length; k++) {
    const at = { rpm: rpm[k]!, manifoldPa: manifoldPa[k]!, throttle: throttle?.[k] ?? Number.NaN }
    if (!Number.isFinite(at.rpm) || !Number.isFinite(at.manifoldPa)) continue
    last = stateAt(e, amb.pressurePa, at, last)
    states[k] = STATE_IDS.indexOf(last)
  }
  return withoutFlicker(seconds, states)
}

/** Spells shorter than it takes to be in a state, between two longer ones of one state, belong to it. */
function withoutFlicker(seconds: Float64Array, states: Int8Array): Int8Array {
  const spells = spellsOf(states)
  for (let s = 1; s + 1 < spells.length; s++) {
    const [before, here, after] = [spells[s - 1]!, spells[s]!, spells[s + 1]!]
    const lasts = seconds[here.end - 1]! - seconds[here.from]!
    if (lasts < LEAST_S && before.state === after.state && here.state >= 0)
      states.fill(before.state, here.from, here.end)
  }
  return states
}

export type StateSpell = { readonly state: number; readonly from: number; readonly end: number }
/**
 * Stretches of one state after another: indexes from the first sample to the one after the last.
 *
 * @example
 * import { spellsOf } from '@/core/recording/driving-state'
 *
 * console.log(spellsOf(Int8Array.of(0, 0, 4)).length) // 2
 */
export function spellsOf(states: Int8Array): readonly StateSpell[] {
  const spells: StateSpell[] = []
  for (let from = 0; from < states.length;) {
    let end = from + 1
    while (end < states.length && states[end] === states[from]) end++
    spells.push({ state: states[from]!, from, end })
    from = end
  }
  return spells
}
