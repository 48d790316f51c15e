/** The document's engine and site as core inputs. */
import { circleArea } from '@/core/circle'
import { blowBy, leakAreaFor, type BlowBy } from '@/core/engine/blowby'
import {
  OIL_IN_USE_C,
  chargeOf,
  fullLoadState,
  operatingState,
  operatingStates,
  ratedAir,
  RING_SHARE,
  statesOf,
  type EngineFacts,
  type OperatingState,
  type StateId,
  type Surroundings,
} from '@/core/engine/states'
import { atmosphericPressure, GAS_GAMMA, GAS_R } from '@/core/gas/air'
import { orificeFlow } from '@/core/network/nozzle'
import type { Pumping } from '@/core/pulsation/crankcase'
import { toSi } from '@/core/units/units'
import type { Build, Engine } from '../document/schema'

/** What stands in for a fact that was not given (estimates). */
export const DEFAULTS = {
  idleManifoldKpa: 35,
  overrunManifoldKpa: 24,
  inletFouling: 1,
  oilC: OIL_IN_USE_C,
  oilLevelPct: 0,
  rodRatio: 1.6,
  inletDepressionKpa: { na: 2.5, turbo: 4, super: 4 },
} as const

const kpa = (v: number) => toSi('pressure', v, 'kPa')
const celsius = (v: number) => toSi('temperature', v, 'C')

/** Stroke in m from displacement, bore and number of cylinders. */
export function strokeM(engine: Engine): number {
  return (
    toSi('volume', engine.displacementCc, 'cc') / engine.cylinders / circleArea(toSi('length', engine.boreMm, 'mm'))
  )
}

/** An engine of a document (practical units) as the core takes it (SI). */
export function engineFacts(engine: Engine): EngineFacts {
  const stroke = strokeM(engine)
  return {
    cylinders: engine.cylinders,
    displacementM3: toSi('volume', engine.displacementCc, 'cc'),
    cylinder: {
      boreM: toSi('length', engine.boreMm, 'mm'),
      strokeM: stroke,
      rodM: stroke * DEFAULTS.rodRatio,
      compression: engine.compression,
    },
    induction: engine.induction,
    idleRpm: engine.idleRpm,
    ratedRpm: engine.ratedRpm,
    boostPa: engine.induction === 'na' ? 0 : kpa(engine.boostKpa),
    idleManifoldPa: kpa(engine.idleManifoldKpa ?? DEFAULTS.idleManifoldKpa),
    overrunManifoldPa: kpa(DEFAULTS.overrunManifoldKpa),
    inletDepressionPa: kpa(engine.inletDepressionKpa ?? DEFAULTS.inletDepressionKpa[engine.induction]),
    inletFouling: engine.inletFouling ?? DEFAULTS.inletFouling,
    oilInUseK: celsius(engine.oilC ?? DEFAULTS.oilC),
  }
}

/** Outside air of a site: pressure in Pa by its altitude, temperature in K, humidity 0-1. */
export const surroundings = (site: Build['site']): Surroundings => ({
  pressurePa: site.pressureKpa === undefined ? atmosphericPressure(site.altitudeM) : kpa(site.pressureKpa),
  temperatureK: celsius(site.ambientC),
})

export type EngineModel = {
  readonly facts: EngineFacts
  readonly amb: Surroundings
  readonly states: readonly OperatingState[]
  /** blow-by leak area per cylinder, m2, and where it comes from */
  readonly leakM2: number
  readonly leakFrom: 'rings' | 'measured'
}

/**
 * Blow-by of a state at this leak area. The crankcase is taken at the surroundings' pressure: its few kPa move
 * blow-by by far less than the estimate's range.
 */
export function blowByIn({ leakM2, facts, amb }: EngineModel, state: OperatingState, law: BlowBy = blowBy): number {
  const { cylinders, cylinder } = facts
  return law({ leakM2, cylinders, cylinder }, chargeOf(state, cylinders), amb.pressurePa)
}

/**
 * Blow-by in kg/s that a measurement says: the meter's reading, or what leaves through the orifice to the open air at
 * the crankcase pressure
 * read (nozzle law, discharge 0.62: a sharp-edged plate or drilled plug).
 */
export function measuredFlow(m: NonNullable<Engine['blowBy']>, amb: Surroundings, gasK: number): number {
  if (m.lpm !== undefined) return toSi('gasFlow', m.lpm, 'l/min')
  return orificeFlow(
    { cd: ORIFICE_CD, areaM2: circleArea(toSi('length', m.orificeMm ?? 0, 'mm')) },
    amb.pressurePa + kpa(m.kpa ?? 0),
    amb.pressurePa,
    { R: GAS_R, gamma: GAS_GAMMA, T: gasK },
  )
}
const ORIFICE_CD = 0.62

/** Blow-by in kg/s as it was measured on this build, in the state in which it was; undefined where none was. */
export function measuredFlowOf(build: Build): number | undefined {
  const { blowBy } = build.engine
  if (!blowBy) return undefined
  const model = engineModel(build)
  const state = model.states.find((s) => s.id === blowBy.state)
  return state && measuredFlow(blowBy, model.amb, state.gasK)
}

export type EngineModelOf = (build: Pick<Build, 'engine' | 'site'>) => EngineModel

/**
 * Engine and site of a build, every state derived.
 *
 * @example
 * import { engineModel } from '@/plan/model/engine'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const { facts, amb } = engineModel(build)
 * console.log([facts.displacementM3, amb.pressurePa]) // [ 0.0019979999999999998, 100129.43746672753 ]
 */
export const engineModel: EngineModelOf = (build) => makeEngineModel(blowBy)(build)

/**
 * `engineModel` for who asks again and again: an edit of the circuit leaves engine and site as they are, and documents are never changed in
 * place, so each engine's last answer is kept for as long as the engine is.
 */
export function makeEngineModel(law: BlowBy): EngineModelOf {
  const known = new WeakMap<Engine, { readonly site: Build['site']; readonly model: EngineModel }>()
  return ({ engine, site }) => {
    const last = known.get(engine)
    if (last?.site === site) return last.model
    const model = modelOf(engine, site, law)
    known.set(engine, { site, model })
    return model
  }
}

/** Air in which ring classes are stated: 101.325 kPa and 20 C. */
const STANDARD: Surroundings = { pressurePa: 101_325, temperatureK: 293.15 }

function modelOf(engine: Engine, site: Build['site'], law: BlowBy): EngineModel {
  const facts = engineFacts(engine)
  const amb = surroundings(site)
  const stateOf = operatingStates(facts, amb)
  const state = (id: StateId): OperatingState => {
    const o = engine.overrides[id]
    return stateOf(
      id,
      o && {
        rpm: o.rpm,
        manifoldPa: o.manifoldKpa === undefined ? undefined : kpa(o.manifoldKpa),
        inletDepressionPa: o.inletDepressionKpa === undefined ? undefined : kpa(o.inletDepressionKpa),
        airKgS: o.airGs === undefined ? undefined : toSi('gasFlow', o.airGs, 'g/s'),
        gasK: o.gasC === undefined ? undefined : celsius(o.gasC),
        bonnetK: o.bonnetC === undefined ? undefined : celsius(o.bonnetC),
      },
    )
  }
  const present = statesOf(engine.induction)
  const measured = engine.blowBy && present.includes(engine.blowBy.state) ? engine.blowBy : undefined
  // the ring class is a share of the air at rated load, whatever that state is overridden to
  // and the gap in the rings is the engine's, whatever the weather: it is found at standard air
  const air = measured ? amb : STANDARD
  const at = measured ? state(measured.state) : operatingState(fullLoadState(engine.induction), facts, air)
  const target = measured
    ? measuredFlow(measured, amb, at.gasK)
    : RING_SHARE[engine.rings] * (engine.blowByTimes ?? 1) * ratedAir(facts, air)
  const { cylinders, cylinder } = facts
  const leaking = { cylinders, cylinder, charge: chargeOf(at, cylinders), crankcasePa: air.pressurePa }
  return {
    facts,
    amb,
    states: present.map(state),
    leakFrom: measured ? 'measured' : 'rings',
    leakM2: leakAreaFor(target, leaking, law),
  }
}

/** What stands in for a fact that was not given, in the document's unit. */
export const defaultOf = (
  build: Build,
  field: 'idleManifoldKpa' | 'inletDepressionKpa' | 'inletFouling' | 'oilLevelPct' | 'oilC',
): number => (field === 'inletDepressionKpa' ? DEFAULTS.inletDepressionKpa[build.engine.induction] : DEFAULTS[field])

/** Free crankcase volume in cc: as entered, else four displacements of a small engine, three of a larger one (estimate). */
export const crankcaseCc = (e: Engine): number => e.crankcaseCc ?? e.displacementCc * (e.displacementCc < 700 ? 4 : 3)
/** Degrees between the pistons of a twin, or the pairs of a four: as entered, else together for parallel and boxer, 90 for a vee on one pin. */
export const pistonPhaseDeg = (e: Engine): number => e.pistonPhaseDeg ?? (e.layout === 'vee' ? 90 : 0)
const isPaired = (e: Engine): boolean => e.cylinders === 4 && e.pistons === 'paired'

/**
 * Singles, twins and fours whose pistons move in pairs pump the crankcase; of others the pistons nearly cancel (methods 4).
 *
 * @example
 * import { pulsates } from '@/plan/model/engine'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(pulsates(build.engine)) // false
 */
export const pulsates = (e: Engine): boolean => e.cylinders <= 2 || isPaired(e)
/** How such an engine pumps its crankcase; the pistons of a pair move together. */
export const pumpingOf = (e: Engine, facts: EngineFacts): Pumping => ({
  cylinder: facts.cylinder,
  phases:
    e.cylinders === 1 ? [0] : [0, toSi('angle', pistonPhaseDeg(e), 'deg')].flatMap((p) => (isPaired(e) ? [p, p] : [p])),
  meanM3: toSi('volume', crankcaseCc(e), 'cc'),
})
