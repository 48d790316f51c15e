/** Where a figure comes from: relation, inputs with their origin, source. Made when a person asks for it. */
import { OIL_POURED } from '@/core/gas/oil'
import { colebrook, frictionFactor } from '@/core/network/friction'
import { makeHose } from '@/core/network/hose'
import { airViscosity, GAS_R } from '@/core/gas/air'
import { RING_SHARE } from '@/core/engine/states'
import { ENTRY_SIGMA, multiplierAt, PRIOR_SIGMA } from '@/core/service/calibrate'
import type { Analysis } from '../model/results'
import { oilSum, readFigure, solvedIn, type FigureRef, type Quantity } from './figures'
import { activeVariant } from '../edit/edit'
import type { Build, Part } from '../document/schema'
import { gasDensity } from '../model/states'
import { hoseShape } from '../model/network'
import { measuredFlow } from '../model/engine'
import { LIMITS } from '../verdicts/limits'
import { isSolved, STATE_NAMES } from '../verdicts/verdict'

export type Origin = 'measured' | 'entered' | 'estimated' | 'computed'
export type Input = { readonly name: string; readonly value: Quantity; readonly origin: Origin }
export type Working = {
  readonly title: string
  readonly result: Quantity
  readonly relation: string
  readonly inputs: readonly Input[]
  readonly source: string
  readonly note?: string
}

const q = (si: number, dimension: Quantity['dimension']): Quantity => ({ si, dimension })
const input = (name: string, si: number, dimension: Quantity['dimension'], origin: Origin): Input => ({
  name,
  value: q(si, dimension),
  origin,
})

const SOLVER =
  'Mass balance at every joint, solved to 1e-9 kg/s. Hose losses: Colebrook; Rennels & Hudson, Pipe Flow, 2012. Valves: isentropic nozzle (Heywood, app. C).'

/** Working of a figure; undefined when the figure has no value. */
export function workingOf(build: Build, a: Omit<Analysis, 'verdicts'>, ref: FigureRef): Working | undefined {
  const value = readFigure(build, a, ref)
  if (value === undefined || !Number.isFinite(value)) return undefined
  const variant = activeVariant(build)
  const parts = new Map<string, Part>(variant.parts.map((p) => [p.id, p]))
  const line = 'id' in ref ? variant.lines.find((l) => l.id === ref.id) : undefined
  const part = 'id' in ref ? parts.get(ref.id) : undefined
  const named = line?.name ?? part?.name ?? ''
  const state = 'state' in ref ? a.states.find((s) => s.id === ref.state) : undefined
  const s = state?.solved ? state : undefined
  const where = state ? STATE_NAMES[state.id] : ''
  const { engine } = build
  const override = state ? engine.overrides[state.id] : undefined
  const amb = a.engine.amb.pressurePa

  switch (ref.kind) {
    case 'crankcase':
      return {
        title: `Crankcase pressure, ${where.toLowerCase()}`,
        result: q(value, 'pressure'),
        relation: 'pressure at which what leaves the crankcase equals blow-by',
        source: SOLVER,
        inputs: [
          input(
            'Blow-by',
            state!.blowBy,
            'gasFlow',
            a.engine.leakFrom === 'measured' && engine.blowBy?.state === state!.id ? 'measured' : 'computed',
          ),
          ...variant.parts.flatMap((p): Input[] =>
            s!.into[p.id] ? [input(p.name, s!.gauge[p.id] ?? 0, 'pressure', 'computed')] : [],
          ),
          ...variant.lines
            .filter((l) => l.kind === 'hose')
            .map((l) => input(`${l.name}, bore`, l.boreMm / 1000, 'length', 'entered')),
        ],
        note: `Solved in ${s!.iterations} steps; flows balance to ${s!.residual.toExponential(0)} kg/s.`,
      }
    case 'blowBy': {
      const measured = a.engine.leakFrom === 'measured'
      return {
        title: `Blow-by, ${where.toLowerCase()}`,
        result: q(value, 'gasFlow'),
        relation: 'leak area × nozzle flow at cylinder pressure, averaged over the cycle',
        source:
          'Nozzle law and closed cycle after Heywood, Internal Combustion Engine Fundamentals; ring share and gap are estimates (range ×/÷ 1.6).',
        inputs: [
          measured
            ? input(
                `Measured ${STATE_NAMES[engine.blowBy!.state].toLowerCase()}`,
                measuredFlow(engine.blowBy!, a.engine.amb, state!.operating.gasK),
                'gasFlow',
                'measured',
              )
            : input(`Ring class ${engine.rings}, share of rated air`, RING_SHARE[engine.rings], 'share', 'estimated'),
          input('Leak area per cylinder', a.engine.leakM2, 'area', measured ? 'computed' : 'estimated'),
          input(
            'Manifold, above surroundings',
            state!.operating.manifoldPa - amb,
            'pressure',
            override?.manifoldKpa === undefined ? 'estimated' : 'entered',
          ),
          input(
            'Engine speed',
            (state!.operating.rpm * Math.PI) / 30,
            'rotation',
            override?.rpm === undefined ? 'estimated' : 'entered',
          ),
        ],
        note: measured
          ? 'One measurement sets the leak for every state.'
          : 'Measure it once, in any state, and every state follows: Engine, condition.',
      }
    }
    case 'capacity':
      return {
        title: `What the circuit carries, ${where.toLowerCase()}`,
        result: q(value, 'gasFlow'),
        relation: 'flow out of the crankcase, held at the highest pressure that seals bear for long',
        source: SOLVER,
        inputs: [
          input('Crankcase held at', LIMITS.crankcaseHigh, 'pressure', 'estimated'),
          input('Blow-by now', state!.blowBy, 'gasFlow', 'computed'),
          ...variant.lines
            .filter((l) => l.kind === 'hose')
            .map((l) => input(`${l.name}, bore`, l.boreMm / 1000, 'length', 'entered')),
        ],
        note: 'Blow-by above this lifts the crankcase past that pressure.',
      }
    case 'air':
      return {
        title: `Engine air, ${where.toLowerCase()}`,
        result: q(value, 'gasFlow'),
        relation: 've · p / (R T) · V · N / 2',
        source: 'Speed-density (Heywood, eq. 2.27); volumetric efficiency is an estimate.',
        inputs: [
          input('Displacement', a.engine.facts.displacementM3, 'volume', 'entered'),
          input(
            'Engine speed',
            (state!.operating.rpm * Math.PI) / 30,
            'rotation',
            override?.rpm === undefined ? 'estimated' : 'entered',
          ),
          input(
            'Manifold, above surroundings',
            state!.operating.manifoldPa - amb,
            'pressure',
            override?.manifoldKpa === undefined ? 'estimated' : 'entered',
          ),
          input('Manifold air', state!.operating.manifoldK, 'temperature', 'estimated'),
        ],
      }
    case 'inletDepression':
      return {
        title: `Inlet depression, ${where.toLowerCase()}`,
        result: q(value, 'pressure'),
        relation: 'rated depression × (air / rated air)² × fouling',
        source: 'Turbulent loss grows with the square of flow; the rated figure is yours or an estimate.',
        inputs: [
          input(
            'At rated flow',
            a.engine.facts.inletDepressionPa,
            'pressure',
            engine.inletDepressionKpa === undefined ? 'estimated' : 'entered',
          ),
          input('Engine air', state!.operating.airKgS, 'gasFlow', 'computed'),
          input(
            'Fouling',
            a.engine.facts.inletFouling,
            'number',
            engine.inletFouling === undefined ? 'estimated' : 'entered',
          ),
        ],
      }
    case 'manifold':
      return {
        title: `Manifold pressure, ${where.toLowerCase()}`,
        result: q(value, 'pressure'),
        relation: override?.manifoldKpa === undefined ? 'typical of this state' : 'as entered',
        source: 'Typical figures (estimates); enter a logged one to replace it.',
        inputs: [
          input('Surroundings, absolute', amb, 'pressure', 'computed'),
          ...(engine.induction === 'na' ? [] : [input('Rated boost', engine.boostKpa * 1000, 'pressure', 'entered')]),
        ],
      }
    case 'flow':
    case 'velocity':
    case 'drop': {
      const p = s!.passages[ref.id]!
      const rho = gasDensity(state!.operating, (p.gaugeFrom + p.gaugeTo) / 2, amb)
      const base: Input[] = [
        input('Flow', p.flow, 'gasFlow', 'computed'),
        input('Pressure where it starts', p.gaugeFrom, 'pressure', 'computed'),
        input('Pressure where it ends', p.gaugeTo, 'pressure', 'computed'),
      ]
      if (!line)
        return {
          title: `${named}, ${where.toLowerCase()}`,
          result: q(value, ref.kind === 'drop' ? 'pressure' : 'gasFlow'),
          relation: partRelation(part),
          source: SOLVER,
          inputs: base.concat(partInputs(part)),
        }
      if (Math.abs(p.flow) < 1e-7)
        return {
          title: `${named}, ${where.toLowerCase()}`,
          result: q(value, ref.kind === 'velocity' ? 'speed' : ref.kind === 'flow' ? 'gasFlow' : 'pressure'),
          relation: 'a valve or plug along this line is shut: nothing runs, so nothing is lost',
          source: SOLVER,
          inputs: base,
        }
      const shape = hoseShape(line, parts)
      const h = makeHose('h', 'a', 'b', shape)
      const re = Math.max(1, (4 * Math.abs(p.flow)) / (Math.PI * shape.boreM * airViscosity(state!.operating.gasK)))
      const rel = h.roughnessM / shape.boreM
      const f = frictionFactor(re, rel, colebrook(4000, rel))
      const sizes: Input[] = [
        input('Bore', shape.boreM, 'length', 'entered'),
        input('Straight length', shape.lengthM, 'length', 'entered'),
      ]
      if (ref.kind === 'velocity')
        return {
          title: `${named}, velocity ${where.toLowerCase()}`,
          result: q(value, 'speed'),
          relation: 'mass flow / (density × bore area)',
          source: 'Continuity; density at the mean pressure and crankcase gas temperature.',
          inputs: [...base, sizes[0]!, input('Gas density', rho, 'concentration', 'computed')],
        }
      return {
        title: `${named}, ${ref.kind === 'flow' ? 'flow' : 'pressure drop'} ${where.toLowerCase()}`,
        result: q(value, ref.kind === 'flow' ? 'gasFlow' : 'pressure'),
        relation: 'p₁² − p₂² = G² R T (f L/D + ΣK)',
        source: SOLVER,
        inputs: [
          ...base,
          ...sizes,
          input('Friction, f L/D', (f * shape.lengthM) / shape.boreM, 'number', 'computed'),
          input('Bends, K', h.kFixed + h.kPerF * f - sumFixed(shape), 'number', 'computed'),
          input('Elbows and ends, K', sumFixed(shape), 'number', 'computed'),
          input('Reynolds number', re, 'number', 'computed'),
          input(
            'Gas temperature',
            state!.operating.gasK,
            'temperature',
            override?.gasC === undefined ? 'estimated' : 'entered',
          ),
        ],
        note: `Gas constant ${GAS_R} J/(kg K); ${re < 2000 ? 'laminar' : re < 4000 ? 'between laminar and turbulent' : 'turbulent'}.`,
      }
    }
    case 'oil':
      return {
        title: `${named}, oil carried ${where.toLowerCase()}`,
        result: q(value, 'liquidRate'),
        relation: 'gas flow × (mist + splash) less what was caught upstream',
        source:
          'Mist 0.15 to 0.6 g/m³ with load, splash with (rpm/6000)²: estimates, range ×/÷ 3, which the log corrects.',
        inputs: [
          input('Mist', s!.passages[ref.id]!.oil.mist / OIL_POURED, 'liquidRate', 'estimated'),
          input('Splash', s!.passages[ref.id]!.oil.splash / OIL_POURED, 'liquidRate', 'estimated'),
          input('Gas flow', s!.passages[ref.id]!.flow, 'gasFlow', 'computed'),
        ],
      }
    case 'kept': {
      const c = s!.cans[ref.id]!
      return {
        title: `${named}, share of oil kept ${where.toLowerCase()}`,
        result: q(value, 'share'),
        relation: '1 − Π (1 − E) over its stages, summed over droplet sizes',
        source:
          'Impaction and settling: Hinds, Aerosol Technology. Fibre: Landahl & Herrmann; Lee & Liu. Cyclone: Lapple. Re-entrainment: Souders & Brown.',
        inputs: [
          input('Oil in', oilSum(c.oilIn) / OIL_POURED, 'liquidRate', 'estimated'),
          input('Oil caught', oilSum(c.caught) / OIL_POURED, 'liquidRate', 'computed'),
          input('Velocity across it', c.faceVelocity, 'speed', 'computed'),
          input('Share not torn off again', c.kept, 'share', 'computed'),
        ],
      }
    }
    case 'fillNow':
    case 'distance':
    case 'multiplier': {
      const c = a.cans.find((x) => x.part === ref.id)!
      const rates: Input[] = [
        input('Oil, model, per 1 000 km', c.perMetre.oil * 1e6, 'volume', 'computed'),
        input('Water per 1 000 km', c.perMetre.water * 1e6, 'volume', 'computed'),
        input(
          'Multiplier learned, median',
          multiplierAt(c.multiplier, 0.5),
          'number',
          c.multiplier.entries > 0 ? 'measured' : 'estimated',
        ),
        input(
          'Multiplier on water, median',
          multiplierAt(c.waterMultiplier, 0.5),
          'number',
          c.waterMultiplier.entries > 0 ? 'measured' : 'estimated',
        ),
        input('Emptyings used', c.multiplier.entries, 'number', 'measured'),
      ]
      const source = `Multipliers on the oil and the water rate: lognormal prior, median 1, sigma ${PRIOR_SIGMA}; each emptying sigma ${ENTRY_SIGMA}; conjugate update (Gelman et al., Bayesian Data Analysis).`
      if (ref.kind === 'fillNow')
        return {
          title: `${c.name}, likely content`,
          result: q(value, 'volume'),
          relation: 'distance since emptied × (oil × multiplier + water × its own)',
          source,
          inputs: [
            input(
              'Distance since emptied',
              c.emptyAt === undefined ? 0 : c.odometerNow - c.emptyAt,
              'distance',
              'computed',
            ),
            ...rates,
          ],
        }
      if (ref.kind === 'distance')
        return {
          title: `${c.name}, distance to full`,
          result: q(value, 'distance'),
          relation: 'bowl / (oil × multiplier + water × its own)',
          source,
          inputs: [input('Bowl below the port', c.bowlM3, 'volume', 'entered'), ...rates],
          note: 'The range runs from one car in ten to nine in ten.',
        }
      return {
        title: `${c.name}, multiplier`,
        result: q(value, 'number'),
        relation: 'what the emptyings found / what the model said',
        source,
        inputs: c.history.slice(-6).map((h) => input(`${h.date}, found`, h.found.oil, 'volume', 'measured')),
      }
    }
    case 'bypass':
      return {
        title: 'Air past the throttle at idle',
        result: q(value, 'share'),
        relation: 'gas into the manifold through the circuit / idle air',
        source: SOLVER,
        inputs: [
          input('Idle air', solvedIn(a, 'idle')!.operating.airKgS, 'gasFlow', 'computed'),
          input('Blow-by', solvedIn(a, 'idle')!.blowBy, 'gasFlow', 'computed'),
        ],
      }
    case 'intakeOil':
      return {
        title: 'Oil to the intake',
        result: q(value * 1e6, 'volume'),
        relation: 'oil that reaches manifold, inlet tract and charge pipe per 1 000 km of this duty',
        source: 'Sum over the states of each kind of driving (shares of hours are estimates).',
        inputs: a.states
          .filter(isSolved)
          .map((x) =>
            input(
              `${STATE_NAMES[x.id]}, per hour`,
              Object.values(x.into).reduce((sum, i) => sum + oilSum(i.oil), 0) / OIL_POURED,
              'liquidRate',
              'computed',
            ),
          ),
      }
  }
}

/** Elbows and ends alone: what is left of K with no length and no bends. */
const sumFixed = (shape: ReturnType<typeof hoseShape>) => makeHose('e', 'a', 'b', { ...shape, bends: [] }).kFixed

function partRelation(part: Part | undefined): string {
  switch (part?.kind) {
    case 'can':
    case 'filter':
      return 'Δp = a Q + b ρ Q²'
    case 'pcv':
      return 'm = Cd A(Δp) p₁ / √(R T) · ψ(p₂/p₁)'
    case 'regulator':
      return 'm = Cd A(p₁) p₁ / √(R T) · ψ(p₂/p₁), A from none to all over the band'
    case 'pump':
      return 'm = ρ₁ · displacement · speed · (1 + c − c (p₂/p₁)^(1/γ))'
    case 'relief':
    case 'check':
      return 'm = Cd A (p₁ − crack) / √(R T) · ψ; nothing backwards'
    default:
      return 'm = Cd A p₁ / √(R T) · ψ(p₂/p₁)'
  }
}

function partInputs(part: Part | undefined): Input[] {
  switch (part?.kind) {
    case 'can':
    case 'filter':
      return [
        input('Drop at 100 l/min', part.dropKpaAt100 * 1000, 'pressure', 'estimated'),
        input('Share in step with flow', part.linearPct / 100, 'share', 'estimated'),
      ]
    case 'check':
      return [
        input('Seat', part.seatMm / 1000, 'length', 'entered'),
        input('Cracking pressure', part.crackKpa * 1000, 'pressure', 'estimated'),
      ]
    case 'pcv':
      return part.areaMm2ByKpa.map(([dp, area]) => input(`Open area at ${dp} kPa`, area * 1e-6, 'area', 'estimated'))
    case 'regulator':
      return [
        input('Bore', part.boreMm / 1000, 'length', 'entered'),
        input('Holds', part.setKpa * 1000, 'pressure', 'estimated'),
        input('Band', part.bandKpa * 1000, 'pressure', 'estimated'),
      ]
    case 'relief':
      return [
        input('Seat', part.seatMm / 1000, 'length', 'entered'),
        input('Opens at', part.openKpa * 1000, 'pressure', 'estimated'),
      ]
    case 'pump':
      return [
        input('Displacement a turn', part.ccPerTurn * 1e-6, 'volume', 'entered'),
        input('Turns per engine turn', part.ratio, 'number', 'entered'),
        input('Clearance', part.clearancePct / 100, 'share', 'estimated'),
      ]
    case 'sensor':
    case 'restrictor':
      return [input('Bore', part.boreMm / 1000, 'length', 'entered')]
    case 'passage':
      return [
        input('Bore', part.boreMm / 1000, 'length', 'estimated'),
        input('How many', part.count, 'number', 'estimated'),
      ]
    default:
      return []
  }
}
