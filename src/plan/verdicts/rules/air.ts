/** Air: what sweeps the crankcase, what passes the throttle by, what leaks in. */
import { isBreather } from '../../document/kinds'
import { atState } from '../../explain/words'
import { bypassShare, type SolvedState } from '../../model/results'
import { LIMITS } from '../limits'
import { worst } from '../look'
import { restrict } from '../mend'
import type { Rule } from '../verdict'

/** Fresh air comes in where something sucks at the crankcase: through any boundary but the manifold. */
export const freshAir: Rule = {
  id: 'fresh-air',
  page: {
    title: 'Fresh air',
    looks: 'Whether air from ahead of the throttle enters the crankcase while the manifold sucks at it.',
    turns: () => 'None at idle.',
    why: 'It sweeps out water and fuel that turn oil to sludge, and keeps the vacuum small.',
    does: 'A breather from ahead of the throttle to a cover that the suction does not use.',
  },
  judge: (c) => {
    const s = c.state('idle')
    if (!s) return []
    const into = (id: string) => s.into[id]?.gas ?? 0
    if (!c.variant.parts.some((p) => p.kind === 'manifold' && into(p.id) > s.blowBy * 0.2)) return []
    const at = { station: 'circuit', state: 'idle' } as const
    if (c.variant.parts.some((p) => isBreather(p.kind) && into(p.id) < -1e-7))
      return [
        {
          subject: 'present',
          severity: 'ok',
          at,
          title: 'Fresh air sweeps the crankcase at idle',
          why: 'It carries water and fuel off before they turn to sludge.',
        },
      ]
    const balanced = s.crankcaseGauge > LIMITS.crankcaseLow
    return [
      {
        subject: 'missing',
        severity: balanced ? 'watch' : 'stop',
        at,
        title: balanced ? 'No fresh air enters at idle' : 'There is no fresh-air path',
        why: balanced
          ? 'The suction takes less than the blow-by, so nothing sweeps the crankcase: water and fuel stay in the oil.'
          : `The manifold sucks at a closed crankcase and draws it to ${c.say.signed(s.crankcaseGauge)}. A filtered inlet ahead of the throttle is needed.`,
      },
    ]
  },
}

export const idleBypass: Rule = {
  id: 'idle-bypass',
  page: {
    title: 'Air past the throttle',
    looks: 'Gas that enters the manifold through the circuit at idle, over idle air.',
    turns: () => `Watch above ${100 * LIMITS.idleBypassWatch} %, mend above ${100 * LIMITS.idleBypass} % (estimates).`,
    why: 'The idle control can close the throttle only so far; trims go lean and idle hunts.',
    does: 'A restrictor ahead of the manifold.',
  },
  judge: (c) => {
    const s = c.state('idle')
    const share = s ? bypassShare(s, c.variant.parts) : 0
    if (!s || share <= LIMITS.idleBypassWatch) return []
    const much = share > LIMITS.idleBypass
    const manifold = c.variant.parts.find((p) => p.kind === 'manifold')
    return [
      {
        subject: 'idle',
        severity: much ? 'fix' : 'watch',
        at: { station: 'circuit', part: manifold?.id, state: 'idle' },
        title: `Idle takes ${c.say.flow(share * s.operating.airKgS)} past the throttle`,
        why: `${Math.round(share * 100)} % of idle air. ${much ? 'Idle will surge and trims go lean; tune for it or restrict it.' : 'Idle control must close the throttle by as much; check idle trim after fitting.'}`,
        fix: restrict(
          c,
          'idle',
          (then) => bypassShare(then, c.variant.parts) <= (much ? 0.8 * LIMITS.idleBypass : LIMITS.idleBypassWatch),
        ),
      },
    ]
  },
}

/** Air from outside that reaches the manifold without being metered: a vacuum source on a vented can, a port left open. */
export const vacuumLeak: Rule = {
  id: 'vacuum-leak',
  page: {
    title: 'Vacuum leak',
    looks: 'Air from the open that reaches the manifold.',
    turns: () => `Above ${100 * LIMITS.leak} % of engine air; a stop above ${100 * LIMITS.leakStop} %.`,
    why: 'It is not metered: lean codes, high idle.',
    does: 'Plug the vacuum port of a vented can, or close the vent of a sealed one.',
  },
  judge: (c) => {
    const openAir = c.variant.parts.filter((p) => p.kind === 'atmosphere')
    const entering = (s: SolvedState) => openAir.reduce((m, p) => m + Math.max(0, -(s.into[p.id]?.gas ?? 0)), 0)
    const sucking = c.solved.filter((s) =>
      c.variant.parts.some((p) => p.kind === 'manifold' && (s.into[p.id]?.gas ?? 0) > 1e-6),
    )
    const s = worst(sucking, entering)
    const leak = s ? entering(s) : 0
    const share = s && s.operating.airKgS > 0 ? leak / s.operating.airKgS : 0
    const from = s && openAir.find((p) => (s.into[p.id]?.gas ?? 0) < -1e-6)
    if (!s || !from || share < LIMITS.leak) return []
    const can = c.variant.parts.find((p) => p.kind === 'can')
    return [
      {
        subject: from.id,
        severity: share > LIMITS.leakStop ? 'stop' : 'fix',
        at: { station: 'circuit', part: from.id, state: s.id },
        title: `${c.say.flow(leak)} of air leaks into the manifold ${atState(s.id)}`,
        why: `${Math.round(share * 100)} % of engine air comes in unmetered through the ${from.name.toLowerCase()}. ${can ? `A vented ${can.name.toLowerCase()} and a vacuum source do not go together: plug the vacuum port, or close the vent.` : 'A port is left open.'} Expect a lean code and a high idle.`,
      },
    ]
  },
}
