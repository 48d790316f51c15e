/** Figures of one line, part or port in one state: flow, velocity, drop, pressure, the oil that a return holds up. */
import { GAS_GAMMA, GAS_R, GRAVITY } from '@/core/gas/air'
import { oilDensity } from '@/core/gas/oil'
import { frictionFactor, LAMINAR_RE, TURBULENT_RE } from '@/core/network/friction'
import { makeHose, type HoseShape } from '@/core/network/hose'
import { hoseTerms } from '@/core/network/hose-law'
import { toSi } from '@/core/units/units'
import { bowlGauge, drainPathOf } from '../../bay/drains'
import { DROP_REFERENCE } from '../../catalogue/stages'
import { isBoundary, isThroughPart, type ThroughPart } from '../../document/kinds'
import { fieldsOfPart } from '../../document/fields'
import type { Build, LineEnd, Part } from '../../document/schema'
import { activeVariant } from '../../edit/edit'
import { isLearned } from '../../model/learned'
import { dischargeOf, isHoled } from '../../model/network'
import { atState, lowered } from '../../document/words'
import { barbOf, coverPort, nodeOfPart, portLoss, type Resolved, type ResolvedLine } from '../../model/resolve'
import { NO_FLOW, solvedIn, type Passage, type SolvedState } from '../../model/results'
import { sub, type Draft } from '../draft'
import { SOLVER, type Origin, type RefOf, type WorkingContext, type WorkingOf, type WorkingText } from '../figure'
import { lineOrigin, originAt } from '../origin'
import { balanceAt } from './joint'

type PassageRef = RefOf<'flow'> | RefOf<'drop'> | RefOf<'velocity'>
type Here = {
  readonly at: WorkingContext
  readonly ref: PassageRef
  readonly s: SolvedState
  readonly p: Passage
  readonly draft: Draft
}
const hereOf = (at: WorkingContext, ref: PassageRef, draft: Draft): Here => {
  const s = solvedIn(at.a, ref.state)!
  return { at, ref, s, p: s.passages[ref.id]!, draft }
}
const nameIn = (build: Build, id: string): string => {
  const { lines, parts } = activeVariant(build)
  return [...lines, ...parts].find((x) => x.id === id)?.name ?? parts.find((p) => p.id === id.split('.')[0])?.name ?? ''
}

/** Pressures at the two ends, as the gas runs: 1 where it comes from, 2 where it goes. */
function ends({ at, p, draft }: Here): void {
  const [first, second] = p.flow < 0 ? [p.gaugeTo, p.gaugeFrom] : [p.gaugeFrom, p.gaugeTo]
  draft.given('p₀', 'Pressure outside', at.a.engine.amb.pressurePa, { dimension: 'pressure', origin: 'computed' })
  draft.given('g₁', 'Where the gas comes from, gauge', first, { dimension: 'pressure', origin: 'solved' })
  draft.given('g₂', 'Where it goes, gauge', second, { dimension: 'pressure', origin: 'solved' })
}
/** The same of a part that is joined straight to a tee: it meets what the tee's split adds. */
function endsOfPart(here: Here): void {
  const { at, p, draft } = here
  if (!p.teeLoss) return ends(here)
  const [first, second] = p.flow < 0 ? [p.gaugeTo, p.gaugeFrom] : [p.gaugeFrom, p.gaugeTo]
  draft.given('p₀', 'Pressure outside', at.a.engine.amb.pressurePa, { dimension: 'pressure', origin: 'computed' })
  draft.given('g₁', 'Where the gas comes from, gauge', first, { dimension: 'pressure', origin: 'solved' })
  draft.given('g₃', 'Where it goes, gauge', second, { dimension: 'pressure', origin: 'solved' })
  lostAtTees(here)
  draft.step('g₂', 'What it meets there', 'g₃ + t', 'pressure')
}
function gas({ at, s, draft }: Here): void {
  const entered = at.build.engine.overrides[s.id]?.gasC !== undefined
  draft.given('T', 'Gas temperature', s.operating.gasK, {
    dimension: 'temperature',
    origin: entered ? 'entered' : 'estimated',
  })
  draft.constant('R', 'Gas constant, J/(kg K)', GAS_R)
}
const BACKWARDS = 'It runs against the way it was drawn.'

/** What is open past the pressure drop of a law: shut, nothing runs. */
const nothingRuns = (here: Here, title: string): WorkingText => {
  ends(here)
  here.draft.given('m', 'Flow', Math.abs(here.p.flow), { dimension: 'gasFlow', origin: 'solved' })
  here.draft.given('Δp', 'Drop', Math.abs(here.p.gaugeFrom - here.p.gaugeTo), {
    dimension: 'pressure',
    origin: 'solved',
  })
  return {
    title,
    result: here.ref.kind === 'drop' ? 'Δp' : 'm',
    solved: 'A valve or plug along this line is shut: nothing runs but what a seat lets by.',
    source: SOLVER,
  }
}

/** Reynolds number above which friction is worked out by Colebrook, and between which it is a straight line. */
function friction({ draft }: Here, re: number): string {
  if (re <= LAMINAR_RE) {
    draft.check('laminar: f = 64/Re', 'f', '64/Re')
    return 'laminar'
  }
  if (re >= TURBULENT_RE) {
    draft.check(
      'Colebrook: 1/√f = −2·log₁₀(ε/(3.7·D) + 2.51/(Re·√f))',
      '1/√(f)',
      '−2·log₁₀(ε/(3.7·D) + 2.51/(Re·√(f)))',
    )
    return 'turbulent'
  }
  draft.given(
    'f₄',
    'Friction at Re 4000 (Colebrook)',
    frictionFactor(TURBULENT_RE, draft.value('ε') / draft.value('D')),
    {
      dimension: 'number',
      origin: 'computed',
    },
  )
  draft.check('between laminar and turbulent: straight in Re', 'f', '0.032 + (f₄ − 0.032)·(Re − 2000)/2000')
  return 'between laminar and turbulent'
}

/** Where the least bore at an end comes from: the barb or port that is it. */
function narrowOrigin(
  build: Build,
  { line, end: side }: { readonly line: string; readonly end: 'from' | 'to' },
  end: LineEnd,
  narrowMm: number,
): Origin {
  if (end.barbMm === narrowMm) return lineOrigin(build, line, side, 'barbMm')
  const part = activeVariant(build).parts.find((p) => p.id === end.part)
  const port = part?.ports.findIndex((p) => p.id === end.port && p.boreMm === narrowMm) ?? -1
  return port < 0
    ? 'estimated'
    : originAt(build, ['variants', build.active, 'parts', end.part, 'ports', end.port, 'boreMm'])
}

/** Losses at an end of a hose, on the hose's own velocity: the space that it meets, the bore that it narrows to. */
function endLosses({ at, draft }: Here, line: ResolvedLine, end: LineEnd, entering: boolean): string {
  const name = entering ? '₁' : '₂'
  const r = at.evaluator.resolve(activeVariant(at.build))
  const drawn = r.variant.lines.find((l) => l.id === line.id)!
  const part = r.parts.get(end.part)
  const portMm = part?.ports.find((p) => p.id === end.port)?.boreMm
  const narrow = Math.min(drawn.boreMm, end.barbMm ?? barbOf(drawn.boreMm), portMm ?? Infinity)
  const meets = part !== undefined && part.kind !== 'tee' && !isThroughPart(part)
  draft.given(`d${name}`, `Least bore at the ${entering ? 'entry' : 'exit'}`, narrow / 1000, {
    dimension: 'length',
    origin: narrowOrigin(at.build, { line: line.id, end: end === drawn.from ? 'from' : 'to' }, end, narrow),
  })
  draft.step(`β${name}`, 'over the hose’s', `d${name}/D`)
  if (entering)
    draft.step(
      `K${name}`,
      `Entry${meets ? ', out of a space' : ''}`,
      `(${meets ? '0.5' : '0'} + (1 − β${name}^2)^2)/β${name}^4`,
    )
  else {
    draft.step(`λ${name}`, 'jet at the narrowing', `1 + 0.622·(1 − 0.215·β${name}^2 − 0.785·β${name}^5)`)
    draft.step(
      `K${name}`,
      `Exit${meets ? ', into a space' : ''}`,
      `(${meets ? '1' : '0'} + 0.0696·(1 − β${name}^5)·λ${name}^2 + (λ${name} − 1)^2)/β${name}^4`,
    )
  }
  return `K${name}`
}

/** A hose: its flow by its losses at the pressures solved; the friction that belongs to the flow is checked. */
function throughHose(here: Here, line: ResolvedLine): string {
  const { at, s, p, draft } = here
  const shape = p.flow < 0 && line.shape.kBack !== undefined ? { ...line.shape, k: line.shape.kBack } : line.shape
  const element = makeHose('h', 'a', 'b', { ...shape, kBack: undefined })
  const terms = hoseTerms(element, { R: GAS_R, gamma: GAS_GAMMA, T: s.operating.gasK })
  const drawn = activeVariant(at.build).lines.find((l) => l.id === line.id)!
  const m = Math.abs(p.flow)
  const re = Math.max(1e-6, m * terms.perRe)
  const f = frictionFactor(re, terms.rel)
  ends(here)
  gas(here)
  const of = (...key: readonly string[]) => lineOrigin(at.build, line.id, ...key)
  draft.given('D', 'Bore', shape.boreM, { dimension: 'length', origin: of('boreMm') })
  draft.given('L', 'Straight length', shape.lengthM, { dimension: 'length', origin: of('lengthMm') })
  draft.constant('ε', 'Roughness of smooth hose', element.roughnessM, 'length')
  draft.step('μ', 'Viscosity of the gas (Sutherland), Pa s', '1.716e-5·(T/273.15)^1.5·(273.15 + 110.4)/(T + 110.4)')
  draft.given('f', 'Friction at this flow', f, { dimension: 'number', origin: 'solved' })
  const losses: string[] = []
  ;(shape.bends ?? []).forEach((bend, i) => bendLosses(draft, bend, { n: i + 1, origin: of('bends') }, losses))
  ;(shape.mitres ?? []).forEach((deg, i) => {
    const mark = sub(i + 1)
    draft.given(`θ${mark}`, 'Elbow', (deg * Math.PI) / 180, { dimension: 'angle', origin: of('from') })
    losses.push(draft.step(`E${mark}`, 'Elbow, tight', `0.42·sin(θ${mark}/2) + 2.56·sin(θ${mark}/2)^3`))
  })
  const [from, to] = p.flow < 0 ? [drawn.to, drawn.from] : [drawn.from, drawn.to]
  losses.push(endLosses(here, line, from, true), endLosses(here, line, to, false))
  draft.step('K', 'All that does not follow L/D', losses.join(' + '))
  const lost = lostAtTees(here)
  const area = 'π·D^2/4'
  draft.step('A', 'Area of the bore', area, 'area')
  const square = `(g₁ − g₂${lost})·(2·p₀ + g₁ + g₂)`
  const [p1, p2] = [Math.max(p.gaugeFrom, p.gaugeTo), Math.min(p.gaugeFrom, p.gaugeTo)].map(
    (g) => g + at.a.engine.amb.pressurePa,
  )
  const choked = p1 !== undefined && p2 !== undefined && terms.unit * m * m > p2 * p2 * 1.000001
  // a hose of no length counts a tenth of a bore
  const wall = element.lengthM / element.boreM + element.kPerF < 0.1 ? '0.1' : 'L/D'
  draft.step(
    'm',
    choked ? 'Flow: as much as leaves at the speed of sound' : 'Flow',
    choked ? `A·(p₀ + g₁)/√(R·T·(f·${wall} + K + 1))` : `A·√(max(0; ${square})/(R·T·(f·${wall} + K)))`,
    'gasFlow',
  )
  draft.step('Re', 'Reynolds number of it', '4·m/(π·D·μ)')
  return friction(here, re)
}

function bendLosses(
  draft: Draft,
  bend: NonNullable<HoseShape['bends']>[number],
  { n, origin }: { readonly n: number; readonly origin: Origin },
  losses: string[],
): void {
  const mark = sub(n)
  draft.given(`φ${mark}`, `Bend ${n}`, (bend.angleDeg * Math.PI) / 180, { dimension: 'angle', origin })
  draft.given(`r${mark}`, `Bend ${n}, radius`, bend.radiusM, { dimension: 'length', origin })
  const s = `sin(φ${mark}/2)`
  losses.push(
    draft.step(
      `B${mark}`,
      `Bend ${n} (Rennels & Hudson)`,
      `f·φ${mark}·r${mark}/D + (0.1 + 2.4·f)·${s} + 6.6·f·(√(${s}) + ${s})/(r${mark}/D)^(4·φ${mark}/π)`,
    ),
  )
}

/** What the tees at its ends take from the flow, as a term of the drop; nothing where there is none. */
function lostAtTees({ p, draft }: Here): string {
  if (!p.teeLoss) return ''
  draft.given('t', 'Taken by the tees at its ends, by how their flow splits (Crane TP-410)', p.teeLoss, {
    dimension: 'pressure',
    origin: 'solved',
  })
  return ' − t'
}

/** Where a part's number comes from: typical until it is the builder's own. */
function originOf({ build }: WorkingContext, part: Part, key: string): Origin {
  const field = fieldsOfPart(part.kind)[key]
  if (isLearned(build, ['variants', build.active, 'parts', part.id, key])) return 'learned'
  if (part.measured?.includes(key)) return 'measured'
  return field?.spread ? 'estimated' : originAt(build, ['variants', build.active, 'parts', part.id, key])
}

const NOZZLE_FUNCTION = '√(2·γ/(γ − 1)·((1 − x)^(2/γ) − (1 − x)^((γ + 1)/γ)))'
/** The nozzle that every hole and open valve is. */
function nozzle({ draft }: Here, head: string, share = ''): void {
  draft.constant('γ', 'Ratio of heats', GAS_GAMMA)
  draft.step(
    'x',
    'Share of the pressure that falls, no more than where it chokes',
    `min((${head} − (p₀ + g₂))/(${head}); 1 − (2/(γ + 1))^(γ/(γ − 1)))`,
  )
  draft.step('ψ', 'Nozzle function', NOZZLE_FUNCTION)
  draft.step('m', 'Flow', `${share}Cd·A·(${head})/√(R·T)·ψ`, 'gasFlow')
}

/** A part by its law. */
function throughPart(here: Here, part: ThroughPart): void {
  const { at, s, p, draft } = here
  type Dimension = 'length' | 'area' | 'pressure' | 'number' | 'share'
  const given = (symbol: string, name: string, si: number, [dimension, key]: readonly [Dimension, string]) =>
    draft.given(symbol, name, si, { dimension, origin: originOf(at, part, key) })
  const hole = (mm: number, key: string, count = 1) => {
    given('D', 'Bore', mm / 1000, ['length', key])
    draft.step('A', 'Open area', `${count === 1 ? '' : `${count}·`}π·D^2/4`, 'area')
  }
  endsOfPart(here)
  gas(here)
  if (part.kind === 'can' || part.kind === 'filter') {
    const drop = part.dropKpaAt100 * (part.fouling ?? 1)
    given('Δ₁', `Drop at 100 l/min${(part.fouling ?? 1) > 1 ? ', fouled' : ''}`, drop * 1000, [
      'pressure',
      'dropKpaAt100',
    ])
    given('x', 'Share of it in step with the flow', part.linearPct / 100, ['share', 'linearPct'])
    loss(here)
    return
  }
  if (part.kind === 'pump') {
    draft.given(
      'V',
      'Swept a second, m³/s',
      part.stuck ? 0 : (toSi('volume', part.ccPerTurn, 'cc') * part.ratio * s.operating.rpm) / 60,
      {
        dimension: 'number',
        origin: originOf(at, part, 'ccPerTurn'),
      },
    )
    given('c', 'Clearance', part.clearancePct / 100, ['share', 'clearancePct'])
    draft.constant('γ', 'Ratio of heats', GAS_GAMMA)
    draft.step('m', 'Flow', 'V·(p₀ + g₁)/(R·T)·max(0; 1 + c − c·((p₀ + g₂)/(p₀ + g₁))^(1/γ))', 'gasFlow')
    return
  }
  if (part.kind === 'sensor') draft.constant('Cd', 'Discharge', 0.9)
  else if (isHoled(part)) given('Cd', 'Discharge', dischargeOf(part), ['number', 'cd'])
  const stuck = 'stuck' in part && part.stuck === 'open'
  switch (part.kind) {
    case 'passage':
      hole(part.boreMm, 'boreMm', part.count)
      return nozzle(here, 'p₀ + g₁')
    case 'restrictor':
    case 'sensor':
      hole(part.boreMm, 'boreMm')
      return nozzle(here, 'p₀ + g₁')
    case 'check':
    case 'relief':
      hole(part.seatMm, 'seatMm')
      if (stuck) return nozzle(here, 'p₀ + g₁')
      given('c', 'Opens at', 1000 * (part.kind === 'check' ? part.crackKpa : part.openKpa), [
        'pressure',
        part.kind === 'check' ? 'crackKpa' : 'openKpa',
      ])
      return nozzle(here, 'p₀ + g₁ − c')
    case 'regulator':
      hole(part.boreMm, 'boreMm')
      if (!stuck && p.flow >= 0) {
        given('s', 'Holds', part.setKpa * 1000, ['pressure', 'setKpa'])
        given('w', 'over a band of', part.bandKpa * 1000, ['pressure', 'bandKpa'])
        draft.step('y', 'Open by', 'min(1; max(0; (g₁ − (s − w/2))/w))')
        return nozzle(here, 'p₀ + g₁', 'y·')
      }
      return nozzle(here, 'p₀ + g₁')
    case 'pcv':
      plunger(here, part, stuck)
      return nozzle(here, 'p₀ + g₁')
    default:
      // a new kind says here what passes it
      part satisfies never
  }
}

/** dp = a Q + b rho Q^2, solved for the flow. */
function loss({ draft }: Here): void {
  draft.constant('Q₁', '100 l/min, m³/s', DROP_REFERENCE.flow)
  draft.constant('ρ₁', 'Air that it is told at, kg/m³', DROP_REFERENCE.density)
  draft.step('a', 'in step with flow, Pa s/m³', 'x·Δ₁/Q₁')
  draft.step('b', 'with its square', '(1 − x)·Δ₁/(ρ₁·Q₁^2)')
  draft.step('ρ', 'Density of the gas', '(p₀ + (g₁ + g₂)/2)/(R·T)', 'concentration')
  draft.step('Q', 'Volume flow, m³/s: a·Q + b·ρ·Q² is the drop', '2·(g₁ − g₂)/(a + √(a^2 + 4·b·ρ·(g₁ − g₂)))')
  draft.step('m', 'Flow', 'ρ·Q', 'gasFlow')
}

/** The open area of a plunger at the difference that stands on it: between two points of its table. */
function plunger({ at, p, draft }: Here, part: Extract<ThroughPart, { kind: 'pcv' }>, stuck: boolean): void {
  const origin = originOf(at, part, 'areaMm2ByKpa')
  const areas = part.areaMm2ByKpa
  const area = (symbol: string, name: string, mm2: number) =>
    draft.given(symbol, name, mm2 * 1e-6, { dimension: 'area', origin })
  if (stuck) {
    area('A', 'Widest open area', Math.max(...areas.map(([, a]) => a)))
    return
  }
  const kpa = Math.abs(p.gaugeFrom - p.gaugeTo) / 1000
  const after = areas.findIndex(([x]) => x >= kpa)
  if (after <= 0) {
    area('A', 'Open area, level past the table', (after === 0 ? areas[0]! : areas.at(-1)!)[1])
    return
  }
  const [[x1, a1], [x2, a2]] = [areas[after - 1]!, areas[after]!]
  const pressure = { dimension: 'pressure', origin } as const
  draft.given('x₁', 'Difference of the table’s point below', x1 * 1000, pressure)
  area('A₁', 'Open area there', a1)
  draft.given('x₂', 'of the point above', x2 * 1000, pressure)
  area('A₂', 'Open area there', a2)
  draft.step('A', 'Open area', 'A₁ + (A₂ − A₁)·(g₁ − g₂ − x₁)/(x₂ − x₁)', 'area')
}

/** The baffle and nipple of a cover's port. */
function throughCover(here: Here, kpaAt100: number): void {
  endsOfPart(here)
  gas(here)
  here.draft.given('Δ₁', 'Baffle and nipple, drop at 100 l/min', kpaAt100 * 1000, {
    dimension: 'pressure',
    origin: 'estimated',
  })
  here.draft.constant('x', 'Share of it in step with the flow', 0.1)
  loss(here)
}

/** Below this a law is straight, for the solver's sake: the square root has no slope at rest, Pa. */
const HARDLY = 0.1
/** Whether next to nothing drives the gas: over what opens a valve, or at all. */
function hardlyDriven({ at, ref, p }: Here): boolean {
  const part = activeVariant(at.build).parts.find((x) => x.id === ref.id)
  const opensAt = part?.kind === 'check' ? part.crackKpa : part?.kind === 'relief' ? part.openKpa : 0
  const driving = Math.abs(p.gaugeFrom - p.gaugeTo)
  return driving < HARDLY || Math.abs(driving - opensAt * 1000) < HARDLY
}
/** Whether a joint is a place that holds a pressure. */
const isHeld = (r: Resolved, node: string): boolean =>
  r.variant.parts.some((p) => isBoundary(p.kind) && nodeOfPart(r, p) === node)

/** Flow through what passes gas, by its law at the pressures that were solved; over a turn, by what balances. */
function flowLawNote(here: Here): { readonly note: string } | undefined {
  const { at, ref, s, p, draft } = here
  const r = at.evaluator.resolve(activeVariant(at.build))
  const line = r.lines.get(ref.id)
  if (s.cycle) {
    ends(here)
    draft.given('m', 'Flow, mean of a turn', Math.abs(p.flow), { dimension: 'gasFlow', origin: 'solved' })
    const [from, to] = r.topology.ends.get(ref.id)!
    balanceAt(at, { s, node: isHeld(r, from) ? to : from, but: { id: ref.id, symbol: 'm' } }, draft)
    return { note: 'Followed over the turn: at each moment the law of the line holds, between means it does not.' }
  }
  if (hardlyDriven(here)) {
    ends(here)
    draft.given('m', 'Flow', Math.abs(p.flow), { dimension: 'gasFlow', origin: 'solved' })
    const [from, to] = r.topology.ends.get(ref.id)!
    balanceAt(at, { s, node: isHeld(r, from) ? to : from, but: { id: ref.id, symbol: 'm' } }, draft)
    return {
      note: 'So little pressure drives it that its law is taken as straight: its flow is what the joint leaves it.',
    }
  }
  if (line) return { note: `${throughHose(here, line)} flow` }
  const cover = r.topology.baffled.get(ref.id)
  if (cover) throughCover(here, portLoss(coverPort(r, cover).port))
  else {
    const part = r.parts.get(ref.id)
    if (part && isThroughPart(part)) throughPart(here, part)
  }
  return undefined
}

/** What is said of a figure that a law gives between pressures which only the solver has. */
const betweenSolvedEnds = ({ p }: Here, note: string | undefined) => ({
  solved: 'The pressures at its ends: those at which every joint balances.',
  source: SOLVER,
  note: [note, p.flow < 0 ? BACKWARDS : ''].filter(Boolean).join('. '),
})

/** Working of a flow through a part or line, kg/s (methods 4). */
export const flowWorking: WorkingOf<'flow'> = (at, ref, draft) => {
  const here = hereOf(at, ref, draft)
  const title = `${nameIn(at.build, ref.id)}, flow ${atState(ref.state)}`
  if (Math.abs(here.p.flow) < NO_FLOW) return nothingRuns(here, title)
  const { note } = flowLawNote(here) ?? {}
  return { title, result: 'm', ...betweenSolvedEnds(here, note) }
}

/** Working of a pressure drop, Pa (methods 4). */
export const dropWorking: WorkingOf<'drop'> = (at, ref, draft) => {
  const here = hereOf(at, ref, draft)
  const title = `${nameIn(at.build, ref.id)}, pressure drop ${atState(ref.state)}`
  if (Math.abs(here.p.flow) < NO_FLOW) return nothingRuns(here, title)
  const { note } = flowLawNote(here) ?? {}
  if (!here.s.cycle && draft.lines.some((l) => l.symbol === 'm' && 'expression' in l)) {
    draft.given('mₛ', 'Flow that was solved', Math.abs(here.p.flow), { dimension: 'gasFlow', origin: 'solved' })
    draft.check('its law at these pressures passes the flow that was solved', 'm', 'mₛ')
  }
  const drop = Math.abs(here.p.gaugeFrom - here.p.gaugeTo)
  if (drop < HARDLY) draft.given('Δp', 'Drop', drop, { dimension: 'pressure', origin: 'solved' })
  else draft.step('Δp', 'Drop', `abs(g₁ − ${draft.lines.some((l) => l.symbol === 'g₃') ? 'g₃' : 'g₂'})`, 'pressure')
  return { title, result: 'Δp', ...betweenSolvedEnds(here, note) }
}

/** Working of a gas velocity, m/s: flow over bore area. */
export const velocityWorking: WorkingOf<'velocity'> = (at, ref, draft) => {
  const here = hereOf(at, ref, draft)
  const line = at.evaluator.resolve(activeVariant(at.build)).lines.get(ref.id)
  ends(here)
  gas(here)
  draft.given('m', 'Flow', Math.abs(here.p.flow), { dimension: 'gasFlow', origin: 'solved' })
  draft.given('D', 'Bore', line?.shape.boreM ?? 0, {
    dimension: 'length',
    origin: lineOrigin(at.build, ref.id, 'boreMm'),
  })
  draft.step('ρ', 'Density at the mean pressure', '(p₀ + (g₁ + g₂)/2)/(R·T)', 'concentration')
  draft.step('v', 'Velocity', 'm/(ρ·π·D^2/4)', 'speed')
  return { title: `${nameIn(at.build, ref.id)}, velocity ${atState(ref.state)}`, result: 'v', source: 'Continuity.' }
}

/** Working of the pressure at a port, Pa gauge (methods 4). */
export const gaugeWorking: WorkingOf<'gauge'> = (at, ref, draft) => {
  const s = solvedIn(at.a, ref.state)!
  const r = at.evaluator.resolve(activeVariant(at.build))
  const [partId] = ref.id.split('.')
  const part = r.parts.get(partId!)
  const title = `${part?.name ?? ''}, pressure ${atState(ref.state)}`
  draft.given('g', 'Pressure, against that outside', s.gauge[ref.id]!, {
    dimension: 'pressure',
    origin: part && isBoundary(part.kind) ? 'computed' : 'solved',
  })
  if (part && isBoundary(part.kind))
    return {
      title,
      result: 'g',
      source: 'A place that holds a pressure: what the state says of manifold, inlet tract or open air.',
    }
  const node = r.topology.nodeOf.get(ref.id) ?? r.topology.jointOf.get(ref.id) ?? ref.id
  // joined straight to a place that holds a pressure it stands as that does
  const held = r.variant.parts.find((p) => isBoundary(p.kind) && nodeOfPart(r, p) === node)
  if (held) return { title, result: 'g', source: `Open to the ${lowered(held.name)}: it stands as that does.` }
  balanceAt(at, { s, node }, draft)
  return { title, result: 'g', solved: 'The pressure at which this joint balances.', source: SOLVER }
}

/** Working of the oil that suction holds up in a return, m (methods 8). */
export const columnWorking: WorkingOf<'column'> = (at, ref, draft) => {
  const s = solvedIn(at.a, ref.state)!
  const variant = activeVariant(at.build)
  const can = variant.parts.find((p) => p.id === ref.id)
  const path = drainPathOf(variant, ref.id)!
  const there = s.gauge[`${path.end.part}.${path.end.port}`] ?? s.gauge[path.end.part] ?? 0
  const pressure = { dimension: 'pressure', origin: 'solved' } as const
  draft.given('g₁', 'Where the oil is to go', there, pressure)
  draft.given('g₂', 'In the bowl', can?.kind === 'can' ? bowlGauge(s, can) : 0, pressure)
  draft.given('c', 'What opens the valves in it', path.crackPa, { dimension: 'pressure', origin: 'entered' })
  draft.given('ρ', 'Density of the oil', oilDensity(s.operating.oilK), {
    dimension: 'concentration',
    origin: 'computed',
  })
  draft.constant('g', 'Gravity, m/s²', GRAVITY)
  draft.step('h', 'Column that is held up', '(g₁ − g₂ + c)/(ρ·g)', 'length')
  return {
    title: `${can?.name ?? ''}, oil held up ${atState(ref.state)}`,
    result: 'h',
    source: 'Hydrostatics (methods 8).',
  }
}
