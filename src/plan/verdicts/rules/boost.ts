/** Boost where it does not belong. */
import { isBoundary, isIntake } from '../../document/kinds'
import type { Part, PartOf } from '../../document/schema'
import { cut, join, reverseValve } from '../../edit/edit-builders'
import { reach, TAKE_OFFS } from '../../edit/take-offs'
import { atState, loweredName } from '../../document/words'
import { BLOW_BY, TRACE } from '../../model/paths'
import type { SolvedState } from '../../model/results'
import { crankcaseText, LIMITS } from '../../model/limits'
import { insideEngine, pathBetween, pathTo, maxBy } from '../plan-queries'
import { fitCheck } from '../mend'
import type { Case, Finding, Fix, Rule } from '../verdict'

/** A place stands under boost from here, Pa gauge. */
const UNDER_BOOST = 1000
/** Share of the boost that comes in which must reach the engine's inside to be blamed for it. */
const REACHES = 0.02

type BoostEntry = { readonly state: SolvedState; readonly part: Part; readonly flow: number; readonly reaching: number }

/**
 * Where boost comes in: boundaries that stand above the surroundings and feed gas into the circuit, and how much
 * comes to the engine's inside.
 */
function boostEntries(c: Case): BoostEntry[] {
  const places = c.variant.parts.filter((p) => isBoundary(p.kind))
  return c.solved.flatMap((state) =>
    places.flatMap((part): BoostEntry[] => {
      if ((state.gauge[part.id] ?? 0) <= UNDER_BOOST) return []
      const paths = c.paths(state)
      const flow = paths.feeding.get(part.id) ?? 0
      if (flow < TRACE) return []
      const reaching = Math.max(0, ...insideEngine(c).map((id) => paths.into(id, part.id)))
      return [{ state, part, flow, reaching }]
    }),
  )
}

/** Where most of an origin's gas leaves. */
const sinkOf = (c: Case, s: SolvedState, origin: string): Part | undefined =>
  maxBy(
    c.variant.parts.filter((p) => isBoundary(p.kind) && c.paths(s).into(p.id, origin) > TRACE),
    (p) => c.paths(s).into(p.id, origin),
  )

function blowsIn(c: Case, { state, part, reaching }: BoostEntry): Finding {
  const lifted = crankcaseText(c.say, state.crankcaseGauge)
  const inside = maxBy(insideEngine(c), (id) => c.paths(state).into(id, part.id))!
  const out = sinkOf(c, state, part.id)
  return {
    subject: part.id,
    severity: 'stop',
    amount: reaching,
    at: { station: 'circuit', part: part.id, state: state.id },
    title: `${c.say.flow(reaching)} of boost blows back into the ${loweredName(c.part(inside))}`,
    why: `From the ${loweredName(part)}, which stands at ${c.say.signed(state.gauge[part.id] ?? 0)} ${atState(state.id)}. It ${state.crankcaseGauge > LIMITS.crankcaseHigh ? `lifts the crankcase to ${lifted}, which blows seals out` : `brings the crankcase to ${lifted}`}${out ? `, and leaves by the ${loweredName(out)} with oil` : ''}.`,
    fix: keepOut(c, part.id, inside),
  }
}

/** Boost that goes through the circuit and out again without touching the engine's inside. */
function leaksOut(c: Case, { state, part, flow }: BoostEntry): Finding | undefined {
  const out = sinkOf(c, state, part.id)
  if (!out) return undefined
  const way = pathBetween(c, part.id, out.id)
  return {
    subject: `${part.id}-leak`,
    severity: 'fix',
    amount: flow,
    at: { station: 'circuit', part: part.id, state: state.id },
    title: `${c.say.flow(flow)} of boost leaks out by the ${loweredName(out)}`,
    why: `From the ${loweredName(part)}${way?.[0] ? ` through the ${loweredName(way[0].line)}` : ''} ${atState(state.id)}, past the engine: boost is lost, and it takes along what oil lies in that line.`,
    fix: keepOut(c, part.id, out.id),
  }
}

/** Blow-by that must leave into a place under boost: nothing flows back, but the crankcase stands above it. */
function breathesIntoBoost(c: Case, s: SolvedState): Finding | undefined {
  if (s.crankcaseGauge <= LIMITS.crankcaseHigh) return undefined
  const out = maxBy(
    c.variant.parts.filter((p) => isBoundary(p.kind) && c.paths(s).into(p.id, BLOW_BY) > TRACE),
    (p) => c.paths(s).into(p.id, BLOW_BY),
  )
  const gauge = out ? (s.gauge[out.id] ?? 0) : 0
  if (!out || gauge <= UNDER_BOOST) return undefined
  const wrong = c.variant.parts.find((p) => p.kind === 'chargePipe') ?? out
  return {
    subject: `${wrong.id}-against`,
    severity: 'stop',
    amount: s.crankcaseGauge,
    at: { station: 'circuit', part: wrong.id, state: s.id },
    title: `The crankcase must breathe against ${c.say.signed(gauge)}`,
    why: `Blow-by leaves by the ${loweredName(out)}, which stands under boost ${atState(s.id)}: the crankcase comes to ${c.say.signed(s.crankcaseGauge)}, and seals go. It needs a way out ahead of the compressor.`,
    fix: leadToInlet(c, wrong.id),
  }
}

/** The hose at a place led to the inlet tract instead. */
function leadToInlet(c: Case, placeId: string): Fix | undefined {
  if (!c.offers) return undefined
  const line = c.variant.lines.find((l) => l.kind === 'hose' && [l.from, l.to].some((e) => e.part === placeId))
  const inlet = TAKE_OFFS.find((t) => t.kind === 'inlet')
  if (!line || !inlet) return undefined
  const to = reach(c.variant, inlet)
  const side = line.to.part === placeId ? 'to' : 'from'
  return c.fix(
    `Lead the ${loweredName(line)} to the inlet tract`,
    cut(line.id),
    ...to.builders,
    join({ ...line, [side]: to.end }),
  )
}

/** The first one-way valve on the way from a place. */
const valveOnWay = (c: Case, placeId: string, towards: string) =>
  (pathBetween(c, placeId, towards) ?? [])
    .map((step) => c.part(step.part))
    .find((p): p is PartOf<'check'> | PartOf<'pcv'> => p?.kind === 'check' || p?.kind === 'pcv')

/** Keeps a place's gas out: a valve that stands in the way the wrong way round is turned, else a check is fitted. */
function keepOut(c: Case, placeId: string, towards: string): Fix | undefined {
  if (!c.offers) return undefined
  const valve = valveOnWay(c, placeId, towards)
  if (valve && !valve.stuck) return c.fix(`Turn the ${loweredName(valve)} round`, reverseValve(valve.id))
  return fitCheck(c, placeId, towards)
}

export const boostInCrankcase: Rule = {
  id: 'boost-in-crankcase',
  judge: (c) => {
    const entries = boostEntries(c)
    const into = maxBy(
      entries.filter((e) => e.reaching > REACHES * e.flow && e.reaching > TRACE),
      (e) => e.reaching,
    )
    const past = maxBy(
      entries.filter((e) => !into || e.part !== into.part),
      (e) => e.flow,
    )
    const against = maxBy(
      c.solved.flatMap((s) => breathesIntoBoost(c, s) ?? []),
      (f) => f.amount ?? 0,
    )
    const found = [into && blowsIn(c, into), past && leaksOut(c, past), against].filter((f) => f !== undefined)
    if (found.length > 0) return found
    const boosted = c.state('boost')
    const exposed = c.variant.parts.some((p) => p.kind === 'manifold' || p.kind === 'chargePipe')
    if (!boosted || c.build.engine.boostKpa <= 0 || !exposed) return []
    if (boosted.crankcaseGauge > LIMITS.crankcaseHigh) return []
    return [
      {
        subject: 'none',
        severity: 'ok',
        at: { station: 'circuit', state: 'boost' },
        title: 'No boost reaches the crankcase',
        why: `Whatever stands against ${c.say.signed(boosted.operating.manifoldPa - c.analysis.engine.amb.pressurePa)} holds.`,
      },
    ]
  },
}

/** Why boost stands in a can, and what would keep it out. */
function pushedFrom(c: Case, can: string, pusher: Part): { readonly why: string; readonly fix: Fix | undefined } {
  const valve = valveOnWay(c, pusher.id, can)
  const fix = keepOut(c, pusher.id, can)
  if (!valve) return { why: 'nothing on that side holds it back', fix }
  if (valve.stuck === 'open') return { why: `the ${loweredName(valve)} between them is stuck open`, fix }
  return { why: `the ${loweredName(valve)} between them lets gas that way`, fix }
}

export const canSeesBoost: Rule = {
  id: 'can-sees-boost',
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] => {
      if (p.kind !== 'can') return []
      const [into, out] = [`${p.id}.in`, `${p.id}.out`]
      const highest = (s: SolvedState) => Math.max(s.gauge[into] ?? 0, s.gauge[out] ?? 0)
      const s = maxBy(c.solved, highest)
      const gauge = s ? highest(s) : 0
      if (!s || gauge <= LIMITS.canPressure) return []
      // of the places that stand as high as it, the one that is nearest along the lines pushes
      const pushers = c.variant.parts.filter((q) => isIntake(q.kind) && (s.gauge[q.id] ?? 0) >= gauge - 1)
      const nearest = pathTo(c, p.id, (id) => pushers.some((q) => q.id === id))?.at(-1)?.part
      const pusher = pushers.find((q) => q.id === nearest)
      const { why, fix } = pusher
        ? pushedFrom(c, p.id, pusher)
        : { why: 'the crankcase itself stands as high', fix: undefined }
      return [
        {
          subject: p.id,
          severity: 'fix',
          amount: gauge,
          at: { station: 'circuit', part: p.id, state: s.id },
          title: `${p.name} sees ${c.say.signed(gauge)} ${atState(s.id)}`,
          why: `Lid seal, sight tube and push-on hoses are made for suction. ${pusher ? `Boost from the ${loweredName(pusher)} stands in it` : 'It stands under pressure'} because ${why}.`,
          fix,
        },
      ]
    }),
}
