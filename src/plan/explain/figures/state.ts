/** Figures of a state as a whole. */
import { RING_SHARE } from '@/core/engine/states'
import { toSi } from '@/core/units/units'
import type { Build, Override } from '../../document/schema'
import { activeVariant } from '../../edit/edit'
import { measuredFlow } from '../../model/engine'
import { resolve } from '../../model/resolve'
import { solvedIn } from '../../model/results'
import { LIMITS } from '../../model/limits'
import { input, named, originAt, SOLVER, stateIn, type WorkingOf, type Input, type Origin } from '../figure'
import { STATE_NAMES } from '../../document/words'

const overridden = (build: Build, state: keyof Build['engine']['overrides'], key: keyof Override): Origin =>
  originAt(build, ['engine', 'overrides', state, key])
const rotation = (rpm: number) => toSi('rotation', rpm, 'rpm')

const boresOf = (build: Build): Input[] => {
  const { variant, lines } = resolve(activeVariant(build))
  return variant.lines.flatMap((l) =>
    l.kind === 'hose' ? [input(`${l.name}, bore`, lines.get(l.id)!.shape.boreM, 'length', 'entered')] : [],
  )
}

/** Working of the crankcase pressure, Pa gauge (methods 4). */
export const crankcaseWorking: WorkingOf<'crankcase'> = (build, a, ref) => {
  const s = solvedIn(a, ref.state)!
  const measured = a.engine.leakFrom === 'measured' && build.engine.blowBy?.state === s.id
  return {
    title: `Crankcase pressure, ${named(s.id)}`,
    relation: 'pressure at which what leaves the crankcase equals blow-by',
    source: SOLVER,
    inputs: [
      input('Blow-by', s.blowBy, 'gasFlow', measured ? 'measured' : 'computed'),
      ...activeVariant(build).parts.flatMap((p) =>
        s.into[p.id] ? [input(p.name, s.gauge[p.id] ?? 0, 'pressure', 'computed')] : [],
      ),
      ...boresOf(build),
    ],
    note: `Solved in ${s.iterations} steps; flows balance to ${s.residual.toExponential(0)} kg/s.`,
  }
}

/** Working of blow-by, kg/s (methods 3). */
export const blowByWorking: WorkingOf<'blowBy'> = (build, a, ref) => {
  const { operating } = stateIn(a, ref.state)!
  const { engine } = build
  const measured = a.engine.leakFrom === 'measured' ? engine.blowBy : undefined
  return {
    title: `Blow-by, ${named(ref.state)}`,
    relation: 'leak area × nozzle flow at cylinder pressure, averaged over the cycle',
    source:
      'Nozzle law and closed cycle after Heywood, Internal Combustion Engine Fundamentals; ring share and gap are estimates (range ×/÷ 1.6).',
    inputs: [
      measured
        ? input(
            `Measured ${named(measured.state)}`,
            measuredFlow(measured, a.engine.amb, stateIn(a, measured.state)!.operating.gasK),
            'gasFlow',
            'measured',
          )
        : input(`Ring class ${engine.rings}, share of rated air`, RING_SHARE[engine.rings], 'share', 'estimated'),
      input('Leak area per cylinder', a.engine.leakM2, 'area', measured ? 'computed' : 'estimated'),
      input(
        'Manifold, above surroundings',
        operating.manifoldPa - a.engine.amb.pressurePa,
        'pressure',
        overridden(build, ref.state, 'manifoldKpa'),
      ),
      input('Engine speed', rotation(operating.rpm), 'rotation', overridden(build, ref.state, 'rpm')),
    ],
    note: measured
      ? 'One measurement sets the leak for every state.'
      : 'Measure it once, in any state, and every state follows: Engine, condition.',
  }
}

/** Working of the blow-by that the circuit can take before the crankcase rises above the limit, m3/s (methods 4). */
export const capacityWorking: WorkingOf<'capacity'> = (build, a, ref) => ({
  title: `What the circuit carries, ${named(ref.state)}`,
  relation: 'flow out of the crankcase, held at the highest pressure that seals bear for long',
  source: SOLVER,
  inputs: [
    input('Crankcase held at', LIMITS.crankcaseHigh, 'pressure', 'estimated'),
    input('Blow-by now', stateIn(a, ref.state)!.blowBy, 'gasFlow', 'computed'),
    ...boresOf(build),
  ],
  note: 'Blow-by above this lifts the crankcase past that pressure.',
})

/** Working of the intake air, kg/s (methods 2, speed-density). */
export const airWorking: WorkingOf<'air'> = (build, a, ref) => {
  const { operating } = stateIn(a, ref.state)!
  return {
    title: `Engine air, ${named(ref.state)}`,
    relation: 've · p / (R T) · V · N / 2',
    source: 'Speed-density (Heywood, eq. 2.27); volumetric efficiency is an estimate.',
    inputs: [
      input('Displacement', a.engine.facts.displacementM3, 'volume', 'entered'),
      input('Engine speed', rotation(operating.rpm), 'rotation', overridden(build, ref.state, 'rpm')),
      input(
        'Manifold, above surroundings',
        operating.manifoldPa - a.engine.amb.pressurePa,
        'pressure',
        overridden(build, ref.state, 'manifoldKpa'),
      ),
      input('Manifold air', operating.manifoldK, 'temperature', 'estimated'),
    ],
  }
}

/** Working of the depression ahead of throttle or compressor, Pa (methods 2). */
export const inletDepressionWorking: WorkingOf<'inletDepression'> = (build, a, ref) => ({
  title: `Inlet depression, ${named(ref.state)}`,
  relation: 'rated depression × (air / rated air)² × fouling',
  source: 'Turbulent loss grows with the square of flow; the rated figure is yours or an estimate.',
  inputs: [
    input(
      'At rated flow',
      a.engine.facts.inletDepressionPa,
      'pressure',
      originAt(build, ['engine', 'inletDepressionKpa']),
    ),
    input('Engine air', stateIn(a, ref.state)!.operating.airKgS, 'gasFlow', 'computed'),
    input('Fouling', a.engine.facts.inletFouling, 'number', originAt(build, ['engine', 'inletFouling'])),
  ],
})

const AS: Partial<Record<Origin, string>> = { entered: 'as entered', learned: 'as your readings have it' }

/** Working of the manifold pressure, Pa absolute (methods 2). */
export const manifoldWorking: WorkingOf<'manifold'> = (build, a, ref) => ({
  title: `Manifold pressure, ${named(ref.state)}`,
  relation: AS[overridden(build, ref.state, 'manifoldKpa')] ?? 'typical of this state',
  source: 'Typical figures (estimates); enter a logged one to replace it.',
  inputs: [
    input('Surroundings, absolute', a.engine.amb.pressurePa, 'pressure', 'computed'),
    ...(build.engine.induction === 'na'
      ? []
      : [input('Rated boost', toSi('pressure', build.engine.boostKpa, 'kPa'), 'pressure', 'entered')]),
  ],
})

/** Working of the air that passes the throttle by, as a share of idle air, 0-1 (methods 4). */
export const bypassWorking: WorkingOf<'bypass'> = (_, a) => {
  const s = solvedIn(a, 'idle')!
  return {
    title: `Air past the throttle at ${STATE_NAMES.idle.toLowerCase()}`,
    relation: 'gas into the manifold through the circuit / idle air',
    source: SOLVER,
    inputs: [
      input('Idle air', s.operating.airKgS, 'gasFlow', 'computed'),
      input('Blow-by', s.blowBy, 'gasFlow', 'computed'),
    ],
  }
}
