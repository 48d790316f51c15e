/** The driving states of an engine: what the circuit's boundaries are in each. */
import { GAS_R } from '../gas/air'
import type { Charge, Cylinder } from './cylinder'

export const STATE_IDS = ['idle', 'cruise', 'pull', 'spool', 'boost', 'overrun'] as const
export type StateId = (typeof STATE_IDS)[number]

export type Induction = 'na' | 'turbo' | 'super'

/** Facts of an engine in SI; angles none, rpm as turned. */
export type EngineFacts = {
  readonly cylinders: number
  readonly displacementM3: number
  readonly cylinder: Cylinder
  readonly induction: Induction
  readonly idleRpm: number
  readonly ratedRpm: number
  /** rated boost above the surroundings, Pa; 0 when naturally aspirated */
  readonly boostPa: number
  /** manifold pressure at idle and on overrun, Pa absolute */
  readonly idleManifoldPa: number
  readonly overrunManifoldPa: number
  /** depression ahead of throttle or compressor at rated flow, Pa, with a clean filter, and how much fouling multiplies it */
  readonly inletDepressionPa: number
  readonly inletFouling: number
  /** oil once warmed through, at cruise, K */
  readonly oilInUseK: number
}

export type Surroundings = { readonly pressurePa: number; readonly temperatureK: number }

export type OperatingState = {
  readonly id: StateId
  readonly rpm: number
  /** Pa absolute */
  readonly manifoldPa: number
  readonly manifoldK: number
  /** engine air, kg/s */
  readonly airKgS: number
  /** depression ahead of throttle or compressor, Pa below the surroundings */
  readonly inletDepressionPa: number
  /** engine air over the air at rated full load */
  readonly flowShare: number
  /** share of full load, 0-1, on air mass per cycle at rated */
  readonly load: number
  /** crankcase gas, K */
  readonly gasK: number
  readonly oilK: number
  readonly bonnetK: number
}

export type StateOverride = {
  readonly rpm?: number
  readonly manifoldPa?: number
  readonly inletDepressionPa?: number
  readonly airKgS?: number
  readonly gasK?: number
  readonly bonnetK?: number
}

/** Oil at cruise of an ordinary engine, C, and how much warmer oil is than the gas above it, K (estimates). */
export const OIL_IN_USE_C = 95
const OIL_OVER_GAS = 10

/**
 * States that an engine knows: without a charger there is no boost and no spool.
 *
 * @example
 * import { statesOf } from '@/core/engine/states'
 *
 * console.log(statesOf('na').length) // 4
 */
export function statesOf(induction: Induction): readonly StateId[] {
  return induction === 'na' ? ['idle', 'cruise', 'pull', 'overrun'] : STATE_IDS
}

/**
 * The state in which an engine works hardest.
 *
 * @example
 * import { fullLoadState } from '@/core/engine/states'
 *
 * console.log(fullLoadState('turbo')) // 'boost'
 */
export const fullLoadState = (induction: Induction): StateId => (induction === 'na' ? 'pull' : 'boost')

/**
 * Volumetric efficiency on manifold density (Heywood 2.10; estimates of ordinary four-valve engines): falls at deep throttle, where
 * residual gas takes room.
 */
function volumetricEfficiency(manifoldPa: number, ambientPa: number, share: number): number {
  const throttle = 0.62 + 0.3 * Math.min(1, manifoldPa / ambientPa)
  return throttle * (0.94 + 0.06 * Math.min(1, share))
}

/** What an engine draws from: its manifold, Pa absolute and K, and its volumetric efficiency on that. */
type ManifoldCharge = { readonly manifoldPa: number; readonly manifoldK: number; readonly ve: number }

/**
 * Speed-density air flow of a four-stroke, kg/s: ve p/(R T) Vd N/2 (Heywood, Internal Combustion Engine Fundamentals, eq. 2.27).
 *
 * @example
 * import { airFlow } from '@/core/engine/states'
 *
 * console.log(airFlow(2.5e-3, 6500, { manifoldPa: 221325, manifoldK: 320, ve: 0.92 })) // 0.3001807856862916
 */
export function airFlow(displacementM3: number, rpm: number, { manifoldPa, manifoldK, ve }: ManifoldCharge): number {
  return (((ve * manifoldPa) / (GAS_R * manifoldK)) * displacementM3 * rpm) / 120
}

const clampLow = (x: number, low: number) => Math.max(low, x)

/**
 * What each state is, before overrides: rpm, manifold pressure, temperatures; the bonnet's where cans hang, in moving
 * air. Typical figures (estimates).
 */
function typical(
  id: StateId,
  e: EngineFacts,
  amb: Surroundings,
): { rpm: number; manifoldPa: number; gasC: number; bonnetRise: number } {
  const p = amb.pressurePa
  const mid = (share: number) => e.idleRpm + (e.ratedRpm - e.idleRpm) * share
  switch (id) {
    case 'idle':
      return { rpm: e.idleRpm, manifoldPa: Math.min(e.idleManifoldPa, p), gasC: 80, bonnetRise: 30 }
    case 'cruise':
      return { rpm: mid(0.3), manifoldPa: 0.55 * p, gasC: 85, bonnetRise: 15 }
    case 'pull':
      return e.induction === 'na'
        ? { rpm: e.ratedRpm, manifoldPa: 0.985 * p, gasC: 95, bonnetRise: 20 }
        : { rpm: mid(0.7), manifoldPa: p, gasC: 92, bonnetRise: 20 }
    case 'spool':
      return { rpm: mid(0.35), manifoldPa: p, gasC: 88, bonnetRise: 20 }
    case 'boost':
      return { rpm: e.ratedRpm, manifoldPa: p + e.boostPa, gasC: 100, bonnetRise: 22 }
    case 'overrun':
      return { rpm: mid(0.6), manifoldPa: Math.min(e.overrunManifoldPa, p), gasC: 85, bonnetRise: 15 }
  }
}

/** Charge air: a cooler leaves it 20 K warm, plus 0.1 K per kPa of boost (estimate). */
const manifoldTemperature = (amb: Surroundings, gaugePa: number) => amb.temperatureK + 20 + Math.max(0, gaugePa) * 1e-4

/**
 * Air at rated full load, kg/s: what loads and the inlet depression are measured against.
 *
 * @example
 * import { ratedAir } from '@/core/engine/states'
 *
 * const surroundings = { pressurePa: 101325, temperatureK: 293.15 }
 * const cylinder = { boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }
 * const engine = {
 *   ...{ cylinders: 5, displacementM3: 2.5e-3, cylinder, induction: 'turbo' as const },
 *   ...{ idleRpm: 850, ratedRpm: 6500, boostPa: 120e3, idleManifoldPa: 35e3, overrunManifoldPa: 25e3 },
 *   ...{ inletDepressionPa: 3000, inletFouling: 1, oilInUseK: 368.15 },
 * }
 * console.log(ratedAir(engine, surroundings)) // 0.295426269166887
 */
export function ratedAir(e: EngineFacts, amb: Surroundings): number {
  const s = typical(fullLoadState(e.induction), e, amb)
  return airFlow(e.displacementM3, s.rpm, {
    manifoldPa: s.manifoldPa,
    manifoldK: manifoldTemperature(amb, s.manifoldPa - amb.pressurePa),
    ve: volumetricEfficiency(s.manifoldPa, amb.pressurePa, 1),
  })
}

/**
 * Derives one operating state. Overrides, measured or entered, replace single figures; everything that follows from them follows.
 * Inlet depression: rated x (air/rated air)^2 x fouling. A pull loses it from its manifold pressure too.
 *
 * @example
 * import { operatingState } from '@/core/engine/states'
 *
 * const surroundings = { pressurePa: 101325, temperatureK: 293.15 }
 * const cylinder = { boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }
 * const engine = {
 *   ...{ cylinders: 5, displacementM3: 2.5e-3, cylinder, induction: 'turbo' as const },
 *   ...{ idleRpm: 850, ratedRpm: 6500, boostPa: 120e3, idleManifoldPa: 35e3, overrunManifoldPa: 25e3 },
 *   ...{ inletDepressionPa: 3000, inletFouling: 1, oilInUseK: 368.15 },
 * }
 * console.log(operatingState('cruise', engine, surroundings).airKgS) // 0.02486187006631869
 */
export const operatingState = (
  id: StateId,
  e: EngineFacts,
  amb: Surroundings,
  override: StateOverride = {},
): OperatingState => stateAt({ e, amb, rated: ratedAir(e, amb) }, id, override)

/**
 * `operatingState` of one engine in one weather, for who asks for many.
 *
 * @example
 * import { operatingStates } from '@/core/engine/states'
 *
 * const surroundings = { pressurePa: 101325, temperatureK: 293.15 }
 * const cylinder = { boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }
 * const engine = {
 *   ...{ cylinders: 5, displacementM3: 2.5e-3, cylinder, induction: 'turbo' as const },
 *   ...{ idleRpm: 850, ratedRpm: 6500, boostPa: 120e3, idleManifoldPa: 35e3, overrunManifoldPa: 25e3 },
 *   ...{ inletDepressionPa: 3000, inletFouling: 1, oilInUseK: 368.15 },
 * }
 * console.log(operatingStates(engine, surroundings)('cruise').airKgS) // 0.02486187006631869
 */
export function operatingStates(e: EngineFacts, amb: Surroundings) {
  const engine = { e, amb, rated: ratedAir(e, amb) }
  return (id: StateId, override: StateOverride = {}): OperatingState => stateAt(engine, id, override)
}

/** An engine in its weather, with its air at rated full load, kg/s. */
type RatedEngine = { readonly e: EngineFacts; readonly amb: Surroundings; readonly rated: number }

function stateAt({ e, amb, rated }: RatedEngine, id: StateId, override: StateOverride): OperatingState {
  const t = typical(id, e, amb)
  const rpm = override.rpm ?? t.rpm
  const depressionAt = (air: number) => e.inletDepressionPa * e.inletFouling * (air / rated) ** 2
  const airAt = (manifoldPa: number) =>
    airFlow(e.displacementM3, rpm, {
      manifoldPa,
      manifoldK: manifoldTemperature(amb, manifoldPa - amb.pressurePa),
      ve: volumetricEfficiency(manifoldPa, amb.pressurePa, rpm / e.ratedRpm),
    })
  let manifoldPa = override.manifoldPa ?? t.manifoldPa
  // open throttle, no charger pushing: the manifold is below the surroundings by what the inlet tract loses
  if (override.manifoldPa === undefined && id === 'pull')
    manifoldPa = clampLow(manifoldPa - depressionAt(airAt(manifoldPa)), 0.5 * amb.pressurePa)
  const airKgS = override.airKgS ?? airAt(manifoldPa)
  const full = rated / e.ratedRpm
  // gas goes with the oil: an engine that is cooled more is cooler in every state
  const gasK = override.gasK ?? t.gasC + (e.oilInUseK - OIL_IN_USE_C)
  return {
    id,
    rpm,
    manifoldPa,
    airKgS,
    manifoldK: manifoldTemperature(amb, manifoldPa - amb.pressurePa),
    inletDepressionPa: override.inletDepressionPa ?? depressionAt(airKgS),
    flowShare: airKgS / rated,
    load: id === 'overrun' ? 0 : Math.min(1, airKgS / rpm / full),
    gasK,
    oilK: gasK + OIL_OVER_GAS,
    bonnetK: override.bonnetK ?? amb.temperatureK + t.bonnetRise,
  }
}

/** Heat of the fuel that `airKgS` burns at a lambda of 0.85-1 and 90 % completeness: 43 MJ/kg x 0.9 / 14.7 per kg of air (estimate). */
const HEAT_PER_AIR = (43e6 * 0.9) / 14.7

/**
 * What fills one cylinder in a state, for the closed cycle. Overrun is motored.
 *
 * @example
 * import { chargeOf, operatingState } from '@/core/engine/states'
 *
 * const surroundings = { pressurePa: 101325, temperatureK: 293.15 }
 * const cylinder = { boreM: 0.083, strokeM: 0.0928, rodM: 0.144, compression: 10 }
 * const engine = {
 *   ...{ cylinders: 5, displacementM3: 2.5e-3, cylinder, induction: 'turbo' as const },
 *   ...{ idleRpm: 850, ratedRpm: 6500, boostPa: 120e3, idleManifoldPa: 35e3, overrunManifoldPa: 25e3 },
 *   ...{ inletDepressionPa: 3000, inletFouling: 1, oilInUseK: 368.15 },
 * }
 * console.log(chargeOf(operatingState('boost', engine, surroundings), 5).heatJ) // 2871.7102962030845
 */
export function chargeOf(state: OperatingState, cylinders: number): Charge {
  const airPerCycle = state.airKgS / cylinders / (state.rpm / 120)
  return { pPa: state.manifoldPa, tK: state.manifoldK, heatJ: state.id === 'overrun' ? 0 : airPerCycle * HEAT_PER_AIR }
}

export type RingClass = 'tight' | 'normal' | 'loose' | 'worn'

/** Blow-by as a share of intake air at rated load (estimates, range x/ 1.6). */
export const RING_SHARE: Readonly<Record<RingClass, number>> = { tight: 0.005, normal: 0.01, loose: 0.018, worn: 0.035 }
export const RING_SHARE_RANGE = 1.6
