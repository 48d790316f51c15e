/** How a single or twin pumps its crankcase, and what the breather's sizes do to that. */
import type { Job } from '@/core/job'
import type { StateId } from '@/core/engine/states'
import { crankcaseVolume, volumeRange } from '@/core/pulsation/crankcase'
import { pulsate, type Pulsation } from '@/core/pulsation/pulsation'
import type { PulseNetwork } from '@/core/pulsation/system'
import { fail, ok, type Result } from '@/core/result'
import { toSi } from '@/core/units/units'
import type { Build, Engine, Variant } from '../document/schema'
import { activeVariant, applyEdits, type Edit } from '../edit/edit'
import { blowByIn, engineModel, pulsates, pumpingOf } from '../model/engine'
import { breatherNodes, crankcaseNode, networkOf, topologyOf } from '../model/network'

const cc = (v: number) => toSi('volume', v, 'cc')
const mm = (v: number) => toSi('length', v, 'mm')

/** A turn leaves little time for heat, but oil mist and wet walls take some: between 1 and 1.4 (estimate). */
const POLYTROPIC = 1.3
/** Share of the displacement that a cover holds under it (estimate). */
const COVER_SHARE = 0.3

function volumesOf(variant: Variant, engine: Engine, nodeOf: ReadonlyMap<string, string>): Record<string, number> {
  const sum: Record<string, number> = {}
  const add = (node: string | undefined, m3: number) => {
    if (node !== undefined) sum[node] = (sum[node] ?? 0) + m3
  }
  for (const p of variant.parts) {
    if (p.kind === 'cover') add(nodeOf.get(`${p.id}.${p.ports[0]?.id}`), cc(engine.displacementCc) * COVER_SHARE)
    if (p.kind === 'tank') add(nodeOf.get(`${p.id}.${p.ports[0]?.id}`), cc(3000))
    if (p.kind === 'can')
      for (const end of ['in', 'out']) add(nodeOf.get(`${p.id}.${end}`), toSi('volume', p.bowlMl, 'ml') * 0.6)
  }
  for (const l of variant.lines) {
    if (l.kind !== 'hose') continue
    const half = (((Math.PI * mm(l.boreMm) ** 2) / 4) * mm(l.lengthMm)) / 2
    for (const end of [l.from, l.to]) add(nodeOf.get(`${end.part}.${end.port}`), half)
  }
  return sum
}

export type Pulse = Pulsation & {
  readonly state: StateId
  readonly rpm: number
  readonly ambientPa: number
  /** swing of the free volume over its mean */
  readonly swing: number
  /** kg/s over the border to inlet tract and open air, by direction, averaged over the turn */
  readonly out: number
  readonly back: number
}

/** Pulsation of the active circuit in one state. Yields the share done. */
export function* pulse(build: Build, stateId: StateId): Job<Result<Pulse>> {
  if (!pulsates(build.engine))
    return fail('From three cylinders on the pistons nearly cancel: there is no pulsation worth following.')
  const variant = activeVariant(build)
  const topology = topologyOf(variant)
  const engine = engineModel(build)
  const state = engine.states.find((s) => s.id === stateId)
  const node = crankcaseNode(variant, topology)
  if (!state || !node) return fail('There is no crankcase to follow in this state.')
  const pumping = pumpingOf(build.engine, engine.facts)
  const range = volumeRange(pumping)
  if (range.least < 0.02 * range.most)
    return fail(
      'The crankcase volume is too small for these pistons: their swing is larger than the room below them.',
      'engine.crankcaseCc',
    )
  const omega = (state.rpm * Math.PI) / 30
  const turned = crankcaseVolume(pumping)
  const network = networkOf(variant, topology, state, engine.amb, blowByIn(engine, state))
  const input: PulseNetwork = {
    network,
    index: POLYTROPIC,
    volumes: volumesOf(variant, build.engine, topology.nodeOf),
    pumped: {
      node,
      at: (t, space) => {
        turned(omega * t, space)
        space.slope *= omega
      },
    },
  }
  const solved = yield* pulsate(input, state.rpm)
  if (!solved.ok) return solved
  const border = breatherNodes(variant, topology)
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
    state: stateId,
    rpm: state.rpm,
    ambientPa: engine.amb.pressurePa,
    swing: (range.most - range.least) / pumping.meanM3,
    out,
    back,
  })
}

export type PulseChange = {
  /** the part or line that is changed */ readonly of: string
  readonly what: 'seat' | 'bore' | 'length'
  readonly mm: number
  readonly edits: readonly Edit[]
}
export type PulseStudy = {
  readonly now: Pulse
  readonly changes: readonly (PulseChange & { readonly pulse: Pulse | undefined })[]
}

/** What each breather line's bore and length and each check's seat do: one changed at a time, everything integrated again. */
function changesOf(variant: Variant): PulseChange[] {
  const list: PulseChange[] = []
  const tenth = (v: number) => Math.round(v * 10) / 10
  for (const p of variant.parts) {
    if (p.kind !== 'check' || p.stuck) continue
    for (const f of [0.7, 1.4]) {
      const mm = tenth(p.seatMm * f)
      list.push({
        of: p.name,
        what: 'seat',
        mm,
        edits: [{ op: 'part', part: p.id, set: { seatMm: mm, model: 'own' } }],
      })
    }
  }
  for (const l of variant.lines.filter((x) => x.kind === 'hose' && x.boreMm > 0).slice(0, 3)) {
    for (const f of [0.75, 1.33]) {
      const bore = tenth(l.boreMm * f)
      list.push({ of: l.name, what: 'bore', mm: bore, edits: [{ op: 'line', line: l.id, set: { boreMm: bore } }] })
    }
    const length = Math.min(20000, l.lengthMm * 2)
    list.push({
      of: l.name,
      what: 'length',
      mm: length,
      edits: [{ op: 'line', line: l.id, set: { lengthMm: length } }],
    })
  }
  return list
}

export function* pulseStudy(build: Build, stateId: StateId): Job<Result<PulseStudy>> {
  const changes = changesOf(activeVariant(build))
  const share = 1 / (changes.length + 1)
  let done = 0
  const part = function* (b: Build): Job<Result<Pulse>> {
    const job = pulse(b, stateId)
    for (;;) {
      const step = job.next()
      if (step.done) {
        done += share
        return step.value
      }
      yield done + step.value * share
    }
  }
  const now = yield* part(build)
  if (!now.ok) return now
  const results: PulseStudy['changes'][number][] = []
  for (const change of changes) {
    const then = applyEdits(build, change.edits)
    const got = then.ok ? yield* part(then.value) : undefined
    results.push({ ...change, pulse: got?.ok ? got.value : undefined })
  }
  return ok({ now: now.value, changes: results })
}
