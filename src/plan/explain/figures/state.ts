/** Figures of a state as a whole. */
import { blowBy } from '@/core/engine/blowby'
import {
  chargeOf,
  fullLoadState,
  operatingState,
  ratedAir,
  RING_SHARE,
  type OperatingState,
} from '@/core/engine/states'
import { GAS_R } from '@/core/gas/air'
import { solveNetwork } from '@/core/network/solve'
import { toSi } from '@/core/units/units'
import type { Build, Override } from '../../document/schema'
import { activeVariant } from '../../edit/edit'
import { measuredFlow } from '../../model/engine'
import { LIMITS } from '../../model/limits'
import { crankcaseNode, resolve } from '../../model/resolve'
import { solvedIn } from '../../model/results'
import { sub, type Draft } from '../draft'
import { boundaryFlows } from '../figures'
import { named, SOLVER, stateIn, type Origin, type WorkingContext, type WorkingOf } from '../figure'
import { STATE_NAMES } from '../../document/words'
import { originAt } from '../origin'
import { balanceAt, joinSum } from './joint'

type StateId = OperatingState['id']
const overridden = (build: Build, state: StateId, key: keyof Override): Origin =>
  originAt(build, ['engine', 'overrides', state, key])
const entered = { origin: 'entered' } as const

/** Pressure outside, as a site's barometer or its altitude has it. */
const outside = ({ build, a }: WorkingContext, draft: Draft): string =>
  draft.given('p₀', 'Pressure outside', a.engine.amb.pressurePa, {
    dimension: 'pressure',
    origin: build.site.pressureKpa === undefined ? 'computed' : 'entered',
  })

/** Share of the way from idle to rated speed at which a state runs where nothing was entered (estimates). */
const SPEED_SHARE: Partial<Record<StateId, number>> = { cruise: 0.3, spool: 0.35, overrun: 0.6 }

/** Engine speed of a state: a fact, an entered figure, or a share of the way between idle and rated. */
function speed({ build, a }: WorkingContext, id: StateId, draft: Draft): void {
  const { operating } = stateIn(a, id)!
  const rotation = (rpm: number) => toSi('rotation', rpm, 'rpm')
  if (overridden(build, id, 'rpm') !== 'estimated') {
    draft.given('ω', 'Engine speed', rotation(operating.rpm), {
      dimension: 'rotation',
      origin: overridden(build, id, 'rpm'),
    })
    return
  }
  const { facts } = a.engine
  const share = SPEED_SHARE[id] ?? (id === 'pull' && build.engine.induction !== 'na' ? 0.7 : undefined)
  if (share === undefined) {
    const rpm = id === 'idle' ? facts.idleRpm : facts.ratedRpm
    draft.given('ω', id === 'idle' ? 'Idle speed' : 'Rated speed', rotation(rpm), { dimension: 'rotation', ...entered })
    return
  }
  draft.given('ωᵢ', 'Idle speed', rotation(facts.idleRpm), { dimension: 'rotation', ...entered })
  draft.given('ωᵣ', 'Rated speed', rotation(facts.ratedRpm), { dimension: 'rotation', ...entered })
  draft.step('ω', 'Engine speed, typical of this state', `ωᵢ + (ωᵣ − ωᵢ)·${share}`, 'rotation')
}

/** Manifold pressure of a state, absolute, as `p`: entered, else typical. */
function manifold(at: WorkingContext, id: StateId, draft: Draft): void {
  const { build, a } = at
  const { operating } = stateIn(a, id)!
  const origin = overridden(build, id, 'manifoldKpa')
  if (origin !== 'estimated') {
    draft.given('p', 'Manifold, absolute', operating.manifoldPa, { dimension: 'pressure', origin })
    return
  }
  const { facts } = a.engine
  const own = (key: 'idleManifoldKpa'): Origin => originAt(build, ['engine', key])
  const typical: Record<StateId, () => void> = {
    idle: () => {
      draft.given('pᵢ', 'Manifold at idle, absolute', facts.idleManifoldPa, {
        dimension: 'pressure',
        origin: own('idleManifoldKpa'),
      })
      draft.step('p', 'Manifold, absolute', 'min(pᵢ; p₀)', 'pressure')
    },
    cruise: () => draft.step('p', 'Manifold, absolute, typical', '0.55·p₀', 'pressure'),
    overrun: () => {
      draft.given('pₒ', 'Manifold on overrun, typical', facts.overrunManifoldPa, {
        dimension: 'pressure',
        origin: 'estimated',
      })
      draft.step('p', 'Manifold, absolute', 'min(pₒ; p₀)', 'pressure')
    },
    spool: () => draft.step('p', 'Manifold, absolute: the charger does not push yet', 'p₀', 'pressure'),
    boost: () => {
      draft.given('b', 'Boost', facts.boostPa, { dimension: 'pressure', ...entered })
      draft.step('p', 'Manifold, absolute', 'p₀ + b', 'pressure')
    },
    pull: () => {
      const open = build.engine.induction === 'na' ? 0.985 : 1
      draft.given(
        'Δ',
        'Lost ahead of the throttle at this air',
        open * a.engine.amb.pressurePa - operating.manifoldPa,
        {
          dimension: 'pressure',
          origin: 'computed',
        },
      )
      draft.step('p', 'Manifold, absolute: open throttle', `${open === 1 ? 'p₀' : `${open}·p₀`} − Δ`, 'pressure')
    },
  }
  typical[id]()
}

/** Working of the intake air, kg/s (methods 2, speed-density). */
export const airWorking: WorkingOf<'air'> = (at, ref, draft) => {
  const { build, a } = at
  const { operating } = stateIn(a, ref.state)!
  const title = `Engine air, ${named(ref.state)}`
  const origin = overridden(build, ref.state, 'airGs')
  if (origin !== 'estimated') {
    draft.given('m', 'Engine air, as it was read', operating.airKgS, { dimension: 'gasFlow', origin })
    return { title, result: 'm', source: 'Yours: it replaces the computed one.' }
  }
  draft.given('V', 'Displacement', a.engine.facts.displacementM3, { dimension: 'volume', ...entered })
  outside(at, draft)
  manifold(at, ref.state, draft)
  speed(at, ref.state, draft)
  if (!draft.lines.some((l) => l.symbol === 'ωᵣ'))
    draft.given('ωᵣ', 'Rated speed', toSi('rotation', a.engine.facts.ratedRpm, 'rpm'), {
      dimension: 'rotation',
      ...entered,
    })
  draft.given('Tₐ', 'Outside air', a.engine.amb.temperatureK, { dimension: 'temperature', ...entered })
  draft.constant('R', 'Gas constant, J/(kg K)', GAS_R)
  draft.step('T', 'Air in the manifold (estimate)', 'Tₐ + 20 + max(0; p − p₀)/10000', 'temperature')
  draft.step('η', 'Volumetric efficiency (estimate)', '(0.62 + 0.3·min(1; p/p₀))·(0.94 + 0.06·min(1; ω/ωᵣ))')
  draft.step('m', 'Engine air: half the displacement a turn', 'η·p/(R·T)·V·ω/(4·π)', 'gasFlow')
  return { title, result: 'm', source: 'Speed-density (Heywood, Internal Combustion Engine Fundamentals, eq. 2.27).' }
}

/** Working of the depression ahead of throttle or compressor, Pa (methods 2). */
export const inletDepressionWorking: WorkingOf<'inletDepression'> = ({ build, a }, ref, draft) => {
  const { operating } = stateIn(a, ref.state)!
  const title = `Inlet depression, ${named(ref.state)}`
  const source = 'Turbulent loss grows with the square of flow; the rated figure is yours or an estimate.'
  const origin = overridden(build, ref.state, 'inletDepressionKpa')
  if (origin !== 'estimated') {
    draft.given('Δ', 'Depression, as it was read', operating.inletDepressionPa, { dimension: 'pressure', origin })
    return { title, result: 'Δ', source: 'Yours: it replaces the computed one.' }
  }
  const { facts, amb } = a.engine
  draft.given('Δᵣ', 'Depression at rated air', facts.inletDepressionPa, {
    dimension: 'pressure',
    origin: originAt(build, ['engine', 'inletDepressionKpa']),
  })
  draft.given('m', 'Engine air', operating.airKgS, { dimension: 'gasFlow', origin: 'computed' })
  draft.given('mᵣ', 'Engine air, rated', ratedAir(facts, amb), { dimension: 'gasFlow', origin: 'computed' })
  draft.given('F', 'Fouling of the air filter', facts.inletFouling, {
    dimension: 'number',
    origin: originAt(build, ['engine', 'inletFouling']),
  })
  draft.step('Δ', 'Depression', 'Δᵣ·(m/mᵣ)^2·F', 'pressure')
  return { title, result: 'Δ', source }
}

/** Working of the manifold pressure, Pa gauge (methods 2). */
export const manifoldWorking: WorkingOf<'manifold'> = (at, ref, draft) => {
  outside(at, draft)
  manifold(at, ref.state, draft)
  draft.step('g', 'Manifold, against the pressure outside', 'p − p₀', 'pressure')
  return {
    title: `Manifold pressure, ${named(ref.state)}`,
    result: 'g',
    source: 'Typical figures (estimates) until a logged one replaces them.',
  }
}

/** Working of blow-by, kg/s (methods 3). */
export const blowByWorking: WorkingOf<'blowBy'> = ({ build, a }, ref, draft) => {
  const { operating } = stateIn(a, ref.state)!
  const { engine } = build
  const { facts, amb } = a.engine
  const { cylinders, cylinder } = facts
  const perArea = (s: OperatingState, outsidePa: number) =>
    blowBy({ leakM2: 1, cylinders: 1, cylinder }, chargeOf(s, cylinders), outsidePa)
  const measured = a.engine.leakFrom === 'measured' ? engine.blowBy : undefined
  const flux = (symbol: string, of: string, s: OperatingState, outsidePa: number) =>
    draft.given(
      symbol,
      `What a square metre of gap passes, averaged over the cycle ${of}, kg/(s m²)`,
      perArea(s, outsidePa),
      {
        dimension: 'number',
        origin: 'solved',
      },
    )
  draft.given('n', 'Cylinders', cylinders, { dimension: 'number', ...entered })
  if (measured) {
    const there = stateIn(a, measured.state)!.operating
    draft.given('mₘ', `Blow-by as measured ${named(measured.state)}`, measuredFlow(measured, amb, there.gasK), {
      dimension: 'gasFlow',
      origin: 'measured',
    })
    flux('Jₘ', named(measured.state), there, amb.pressurePa)
    draft.step('A', 'Gap of the rings, a cylinder', 'mₘ/(n·Jₘ)', 'area')
  } else {
    const standard = { pressurePa: 101_325, temperatureK: 293.15 }
    const rated = operatingState(fullLoadState(engine.induction), facts, standard)
    draft.given('x', `Blow-by of ${engine.rings} rings over rated air`, RING_SHARE[engine.rings], {
      dimension: 'share',
      origin: 'estimated',
    })
    draft.given('k', 'Times that, by what is known of this engine', engine.blowByTimes ?? 1, {
      dimension: 'number',
      origin: originAt(build, ['engine', 'blowByTimes']),
    })
    draft.given('mᵣ', 'Engine air, rated, in standard air', ratedAir(facts, standard), {
      dimension: 'gasFlow',
      origin: 'computed',
    })
    flux('Jᵣ', 'at rated load in standard air', rated, standard.pressurePa)
    draft.step('A', 'Gap of the rings, a cylinder', 'x·k·mᵣ/(n·Jᵣ)', 'area')
  }
  flux('J', named(ref.state), operating, amb.pressurePa)
  draft.step('m', 'Blow-by', 'n·A·J', 'gasFlow')
  return {
    title: `Blow-by, ${named(ref.state)}`,
    result: 'm',
    solved:
      'J is integrated over the closed cycle: nozzle flow Cd·p/√(R·T)·ψ at each degree, cylinder pressure by polytropic compression (1.32) and expansion (1.28) with the heat of a Wiebe burn, motored on the overrun; Cd falls at low gap Reynolds number as Re/(Re + 3000).',
    source:
      'Nozzle law and closed cycle after Heywood, Internal Combustion Engine Fundamentals; ring share and gap are estimates (range ×/÷ 1.6).',
    note: measured
      ? 'One measurement sets the gap for every state.'
      : 'Measure it once, in any state, and every state follows: Engine, condition.',
  }
}

/** Working of the crankcase pressure, Pa gauge (methods 4). */
export const crankcaseWorking: WorkingOf<'crankcase'> = (at, ref, draft) => {
  const s = solvedIn(at.a, ref.state)!
  draft.given('g', 'Crankcase, against the pressure outside', s.crankcaseGauge, {
    dimension: 'pressure',
    origin: 'solved',
  })
  balanceAt(at, { s, node: crankcaseNode(resolve(activeVariant(at.build)))! }, draft)
  return {
    title: `Crankcase pressure, ${named(s.id)}`,
    result: 'g',
    solved: `${s.cycle ? 'Followed over the turn until it repeats; this is its mean. ' : ''}The pressure at which what leaves the crankcase equals what comes into it; every line and part has its own working of what it passes at its pressures.`,
    source: SOLVER,
    note: s.cycle
      ? 'Means of a turn: the laws hold at each moment, not between the means.'
      : `Solved in ${s.iterations} steps; flows balance to ${s.residual.toExponential(0)} kg/s.`,
  }
}

/** Working of the blow-by that the circuit can take before the crankcase rises above the limit, kg/s (methods 4). */
export const capacityWorking: WorkingOf<'capacity'> = ({ build, a, evaluator }, ref, draft) => {
  const { operating } = stateIn(a, ref.state)!
  const r = evaluator.resolve(activeVariant(build))
  const node = crankcaseNode(r)!
  const { amb } = a.engine
  const network = evaluator.networkOf(r, operating, amb, 0)
  const heldPa = amb.pressurePa + LIMITS.crankcaseHigh
  const solved = solveNetwork({ ...network, shape: {}, nodes: { ...network.nodes, [node]: { p: heldPa } } })
  draft.given('g', 'Crankcase held at', LIMITS.crankcaseHigh, { dimension: 'pressure', origin: 'estimated' })
  const names: string[] = []
  if (solved.ok)
    network.elements.forEach((e) => {
      if (e.from !== node && e.to !== node) return
      const out = (e.from === node ? 1 : -1) * solved.value.flow[e.id]!
      names.push(
        draft.given(`m${sub(names.length + 1)}`, `Out by ${nameOf(build, e.id)}`, out, {
          dimension: 'gasFlow',
          origin: 'solved',
        }),
      )
    })
  draft.step('m', 'What the circuit carries', `max(0; ${joinSum(names)})`, 'gasFlow')
  return {
    title: `What the circuit carries, ${named(ref.state)}`,
    result: 'm',
    solved: 'Flows out of a crankcase that is held at the highest pressure that seals bear for long.',
    source: SOLVER,
    note: 'Blow-by above this lifts the crankcase past that pressure.',
  }
}
const nameOf = (build: Build, id: string): string => {
  const { lines, parts } = activeVariant(build)
  return [...lines, ...parts].find((x) => x.id === id.split('.')[0])?.name ?? id
}

/** Working of the air that passes the throttle by, as a share of idle air, 0-1 (methods 4). */
export const bypassWorking: WorkingOf<'bypass'> = ({ build, a }, _, draft) => {
  const s = solvedIn(a, 'idle')!
  const manifolds = activeVariant(build).parts.filter((p) => p.kind === 'manifold')
  draft.given('mₐ', 'Idle air', s.operating.airKgS, { dimension: 'gasFlow', origin: 'computed' })
  const names = manifolds.map((p, i) =>
    draft.given(`m${sub(i + 1)}`, `Into the ${p.name}, net`, s.into[p.id]?.gas ?? 0, {
      dimension: 'gasFlow',
      origin: 'solved',
    }),
  )
  draft.step(
    'x',
    'Share of idle air',
    names.length > 0 ? `(${names.map((m) => `max(0; ${m})`).join(' + ')})/mₐ` : '0/mₐ',
    'share',
  )
  return {
    title: `Air past the throttle at ${STATE_NAMES.idle.toLowerCase()}`,
    result: 'x',
    source: SOLVER,
  }
}

/** Working of the gas that passes a boundary of the circuit one way, kg/s (methods 3). */
export const exchangeWorking: WorkingOf<'exchange'> = ({ build, a }, { state, side, direction }, draft) => {
  const s = solvedIn(a, state)!
  const mine: string[] = []
  const sums: Record<'in' | 'out', string[]> = {
    in: [draft.given('m_b', 'Blow-by', s.blowBy, { dimension: 'gasFlow', origin: 'computed' })],
    out: [],
  }
  for (const [i, x] of boundaryFlows(build, s).entries()) {
    const symbol = draft.given(`m${sub(i + 1)}`, `${x.direction === 'out' ? 'Out' : 'In'} by ${x.part}`, x.flow, {
      dimension: 'gasFlow',
      origin: 'solved',
    })
    sums[x.direction].push(symbol)
    if (x.side === side && x.direction === direction) mine.push(symbol)
  }
  draft.check('what comes past the rings and in at the boundary goes out there', joinSum(sums.in), joinSum(sums.out))
  draft.step('m', `Gas ${direction === 'out' ? 'out' : 'in'} on this side`, joinSum(mine), 'gasFlow')
  return {
    title: `${side === 'breather' ? 'Breather' : 'Vacuum side'}, gas ${direction}, ${named(state)}`,
    result: 'm',
    solved: 'The flows are those at which what enters every joint leaves it.',
    source: SOLVER,
  }
}
