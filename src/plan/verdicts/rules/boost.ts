/** Boost where it does not belong. */
import { isIntake } from '../../document/kinds'
import type { Part } from '../../document/schema'
import { atState } from '../../explain/words'
import type { SolvedState } from '../../model/results'
import { LIMITS } from '../limits'
import { worst } from '../look'
import { fitCheck } from '../mend'
import type { Case, Finding, Rule } from '../verdict'

/** A place stands under boost from here, Pa gauge. */
const UNDER_BOOST = 1000

/** Where boost comes in: boundaries that stand above the surroundings and feed gas into the circuit. */
function boostEntries(c: Case): { state: SolvedState; part: Part; flow: number }[] {
  return c.solved.flatMap((s) =>
    c.variant.parts.flatMap((p) => {
      const into = s.into[p.id]
      return into && (s.gauge[p.id] ?? 0) > UNDER_BOOST && into.gas < -1e-6
        ? [{ state: s, part: p, flow: -into.gas }]
        : []
    }),
  )
}

export const boostInCrankcase: Rule = {
  id: 'boost-in-crankcase',
  page: {
    title: 'Boost in the crankcase',
    looks: 'Gas that enters the circuit from a place above the pressure outside.',
    turns: () => 'More than a trace, in any state.',
    why: 'It lifts the crankcase, blows seals out and carries oil into the inlet tract.',
    does: 'A check valve in that line, gas towards the manifold.',
  },
  judge: (c) => {
    const entry = worst(boostEntries(c), (e) => e.flow)
    if (entry) {
      const { state, part, flow } = entry
      const lifted = c.say.signed(state.crankcaseGauge)
      return [
        {
          subject: part.id,
          severity: 'stop',
          at: { station: 'circuit', part: part.id, state: state.id },
          title: `${c.say.flow(flow)} of boost blows back into the crankcase`,
          why: `From the ${part.name.toLowerCase()}, which stands at ${c.say.signed(state.gauge[part.id] ?? 0)} ${atState(state.id)}. It ${state.crankcaseGauge > LIMITS.crankcaseHigh ? `lifts the crankcase to ${lifted}, which blows seals out` : `brings the crankcase to ${lifted}`}, and carries oil to the inlet tract.`,
          fix: fitCheck(c, part.id),
        },
      ]
    }
    const boosted = c.state('boost')
    const exposed = c.variant.parts.some((p) => p.kind === 'manifold' || p.kind === 'chargePipe')
    if (!boosted || c.build.engine.boostKpa <= 0 || !exposed) return []
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

export const canSeesBoost: Rule = {
  id: 'can-sees-boost',
  page: {
    title: 'Can sees boost',
    looks: 'The highest pressure at a can’s ports.',
    turns: (say) => `Above ${say.pressure(LIMITS.canPressure)}.`,
    why: 'Lid seals, sight tubes and push-on hoses are made for suction.',
    does: 'A check valve between can and manifold, at the manifold.',
  },
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] => {
      if (p.kind !== 'can') return []
      const [into, out] = [`${p.id}.in`, `${p.id}.out`]
      const highest = (s: SolvedState) => Math.max(s.gauge[into] ?? 0, s.gauge[out] ?? 0)
      const s = worst(c.solved, highest)
      const gauge = s ? highest(s) : 0
      if (!s || gauge <= LIMITS.canPressure) return []
      // the boundary nearest to it in pressure is the one that pushes
      const pusher = worst(
        c.variant.parts.filter((q) => (s.gauge[q.id] ?? 0) >= gauge - 1 && isIntake(q.kind)),
        (q) => s.gauge[q.id] ?? 0,
      )
      return [
        {
          subject: p.id,
          severity: 'fix',
          at: { station: 'circuit', part: p.id, state: s.id },
          title: `${p.name} sees ${c.say.signed(gauge)} ${atState(s.id)}`,
          why: `Lid seal, sight tube and push-on hoses are made for suction. Boost stands in it from the ${(pusher?.name ?? 'intake').toLowerCase()} because nothing on that side holds it back.`,
          fix: pusher && fitCheck(c, pusher.id),
        },
      ]
    }),
}
