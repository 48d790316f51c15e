/** How a single or twin pumps its crankcase, and what the breather's sizes do to that. */
import { scaled, type Job } from '@/core/job'
import type { StateId } from '@/core/engine/states'
import { CRANKCASE_INDEX, crankcaseVolume, volumeRange } from '@/core/pulsation/crankcase'
import { pulsate, type Pulsation } from '@/core/pulsation/pulsation'
import { segmented } from '@/core/pulsation/segments'
import type { Network } from '@/core/network/elements'
import { solveNetwork, withTeeLosses } from '@/core/network/solve'
import type { PulseNetwork } from '@/core/pulsation/system'
import { fail, ok, type Result } from '@/core/result'
import { toSi } from '@/core/units/units'
import { LINE_FIELDS } from '../document/fields'
import type { Build, Engine } from '../document/schema'
import { editsOf, setLine, setPart, type EditBuilder } from '../edit/edit-builders'
import { activeVariant, applyEdits, type Edit } from '../edit/edit'
import { pulsates, pumpingOf } from './engine'
import { makeEvaluator, type Evaluator } from './evaluator'
import { breatherNodes } from './network'
import { crankcaseNode, type Resolved } from './resolve'

const cc = (v: number) => toSi('volume', v, 'cc')

/** Share of the displacement that a cover holds under it (estimate). */
const COVER_SHARE = 0.3
/** Gas room of an oil tank, cc, and of a can at either end, over its bowl (estimates). */
const TANK_CC = 3000
const CAN_SHARE = 0.6

function volumesOf(r: Resolved, engine: Engine): Record<string, number> {
  const { nodeOf } = r.topology
  const sum: Record<string, number> = {}
  const add = (node: string | undefined, m3: number) => {
    if (node !== undefined) sum[node] = (sum[node] ?? 0) + m3
  }
  for (const p of r.variant.parts) {
    const own = nodeOf.get(`${p.id}.${p.ports[0]?.id}`)
    if (p.kind === 'cover') add(own, cc(engine.displacementCc) * COVER_SHARE)
    if (p.kind === 'tank') add(own, cc(TANK_CC))
    if (p.kind === 'can')
      for (const end of ['in', 'out']) add(nodeOf.get(`${p.id}.${end}`), toSi('volume', p.bowlMl, 'ml') * CAN_SHARE)
  }
  return sum
}

export type Pulse = Pulsation & {
  /** what was followed, hoses whole */
  readonly network: Network
  /** what its tees lose, as at rest */
  readonly teeLoss: Readonly<Record<string, number>>
  readonly state: StateId
  readonly rpm: number
  readonly ambientPa: number
  /** swing of the free volume over its mean */
  readonly swing: number
  /** kg/s over the border to inlet tract and open air, by direction, averaged over the turn */
  readonly out: number
  readonly back: number
}

/**
 * Pulsation of the active circuit in one state. Yields the share done.
 * @param index of the gas in the spaces: 1.3, and from 1.0 to 1.4 as a range
 */
export function* pulse(
  build: Build,
  stateId: StateId,
  evaluator: Evaluator = makeEvaluator(),
  index: number = CRANKCASE_INDEX,
): Job<Result<Pulse>> {
  if (!pulsates(build.engine))
    return fail('From three cylinders on the pistons nearly cancel: there is no pulsation worth following.')
  const r = evaluator.resolve(activeVariant(build))
  const engine = evaluator.engineModel(build)
  const state = engine.states.find((s) => s.id === stateId)
  const node = crankcaseNode(r)
  if (!state || !node) return fail('There is no crankcase to follow in this state.')
  const pumping = pumpingOf(build.engine, engine.facts)
  const range = volumeRange(pumping)
  if (range.least < 0.02 * range.most)
    return fail(
      'The crankcase volume is too small for these pistons: their swing is larger than the room below them.',
      'engine.crankcaseCc',
    )
  const omega = (state.rpm * Math.PI) / 30
  const volumeAt = crankcaseVolume(pumping)
  const still = evaluator.networkOf(r, state, engine.amb, evaluator.blowByIn(engine, state))
  const atRest = solveNetwork(still, undefined, evaluator.solverCache)
  // tees lose over the turn what they lose at its mean flow
  const network = atRest.ok ? withTeeLosses(still, atRest.value) : still
  const input: PulseNetwork = {
    ...segmented(network, volumesOf(r, build.engine), state.rpm / 60),
    index,
    referencePa: engine.amb.pressurePa,
    pumped: {
      node,
      at: (t, space) => {
        volumeAt(omega * t, space)
        space.slope *= omega
      },
    },
  }
  const solved = yield* pulsate(input, state.rpm)
  if (!solved.ok) return solved
  const border = breatherNodes(r)
  let [out, back] = [0, 0]
  for (const e of network.elements) {
    const f = solved.value.flows[e.id]!
    if (border.has(e.to)) {
      out += f.onwards
      back += f.backwards
    }
    if (border.has(e.from)) {
      out += f.backwards
      back += f.onwards
    }
  }
  return ok({
    ...solved.value,
    network,
    teeLoss: atRest.ok ? atRest.value.teeLoss : {},
    state: stateId,
    rpm: state.rpm,
    ambientPa: engine.amb.pressurePa,
    swing: (range.most - range.least) / pumping.meanM3,
    out,
    back,
  })
}

/** Polytropic index as a range (methods 4). */
const INDEX_RANGE = [1, 1.4] as const

export type PulseChange = {
  /** the part or line that is changed */ readonly of: string
  readonly what: 'seat' | 'bore' | 'length'
  readonly mm: number
  readonly edits: readonly Edit[]
}
export type PulseStudy = {
  readonly now: Pulse
  /** means with the gas as hot as its walls, and as cold as it makes itself: what the index leaves open, Pa absolute */
  readonly mean: readonly [low: number, high: number] | undefined
  readonly changes: readonly (PulseChange & { readonly pulse: Pulse | undefined })[]
}

/** What each breather line's bore and length and each check's seat do: one changed at a time, everything integrated again. */
function changesOf(build: Build): PulseChange[] {
  const variant = activeVariant(build)
  const tenth = (v: number) => Math.round(v * 10) / 10
  const change = (of: string, what: PulseChange['what'], mm: number, builder: EditBuilder): PulseChange[] => {
    const edits = editsOf(build, builder)
    return edits.ok ? [{ of, what, mm, edits: edits.value }] : []
  }
  const seats = variant.parts.flatMap((p) =>
    p.kind !== 'check' || p.stuck
      ? []
      : [0.7, 1.4].flatMap((f) => {
          const mm = tenth(p.seatMm * f)
          return change(p.name, 'seat', mm, setPart(p.id, { seatMm: mm, model: 'own' }))
        }),
  )
  const hoses = variant.lines.filter((l) => l.kind === 'hose' && l.boreMm > 0).slice(0, 3)
  const sizes = hoses.flatMap((l) => {
    const length = Math.min(LINE_FIELDS.lengthMm.max, l.lengthMm * 2)
    return [
      ...[0.75, 1.33].flatMap((f) =>
        change(l.name, 'bore', tenth(l.boreMm * f), setLine(l.id, { boreMm: tenth(l.boreMm * f) })),
      ),
      ...change(l.name, 'length', length, setLine(l.id, { lengthMm: length })),
    ]
  })
  return [...seats, ...sizes]
}

/**
 * The gas over a turn of the engine in one state (methods 4, pulsation). Yields the share done; fails where the state has no steady
 * answer or the turn does not repeat.
 */
export function* pulseStudy(build: Build, stateId: StateId): Job<Result<PulseStudy>> {
  const changes = changesOf(build)
  const share = 1 / (changes.length + 3)
  let done = 0
  const evaluator = makeEvaluator()
  const part = function* (b: Build, index?: number): Job<Result<Pulse>> {
    const p = yield* scaled(pulse(b, stateId, evaluator, index), done, share)
    done += share
    return p
  }
  const now = yield* part(build)
  if (!now.ok) return now
  const means: number[] = []
  for (const index of INDEX_RANGE) {
    const end = yield* part(build, index)
    if (end.ok) means.push(end.value.mean)
  }
  const results: PulseStudy['changes'][number][] = []
  for (const change of changes) {
    const then = applyEdits(build, change.edits)
    const got = then.ok ? yield* part(then.value) : undefined
    results.push({ ...change, pulse: got?.ok ? got.value : undefined })
  }
  const all = [...means, now.value.mean]
  return ok({
    now: now.value,
    mean: means.length === INDEX_RANGE.length ? [Math.min(...all), Math.max(...all)] : undefined,
    changes: results,
  })
}
